import type { Bound, BudgetUse } from '@coffer/core';
import type { PublishedProof } from '../document/published-schedule.ts';

/** A year of a loan, or of all of them; amounts are decimal strings. */
export interface PublishedPlanYear {
  readonly year: number;
  readonly closing: string;
  readonly interest: string;
  readonly principal: string;
}

/** The fund that provides for what may not be repaid early. */
export interface PublishedPlanFund {
  readonly deposit: string;
  readonly deposits: number;
  readonly finalDeposit: string;
  readonly first: string;
  readonly holds: string;
  readonly on: string;
}

/** A loan as it is cleared by the wished day. */
export interface PublishedPlannedLoan {
  readonly name: string;
  readonly balance: string;
  readonly least: string;
  readonly payment: string;
  readonly exceeds: string;
  readonly payments: number;
  readonly finalPayment: string;
  readonly clears: string;
  readonly daysEarly: number;
  readonly interest: string;
  readonly paid: string;
  readonly bound: Bound;
  readonly fund?: PublishedPlanFund;
  readonly years: readonly PublishedPlanYear[];
}

/** A loan that no plan reaches by the day. */
export interface PublishedUnreached {
  readonly name: string;
  readonly outOfReach: true;
  /** The earliest day by which it could be; null where nothing falls due any more. */
  readonly earliest: string | null;
}

/** All loans of one currency together. */
export interface PublishedPlanTotals {
  readonly balance: string;
  readonly interest: string;
  readonly paid: string;
  readonly monthlyCash: string;
  readonly years: readonly PublishedPlanYear[];
  /** How many are out of reach and left out. */
  readonly without?: number;
}

/** What clearing everything by a day comes to, and what that adds and frees against the horizon before. */
export interface PublishedHorizon {
  readonly clearBy: string;
  readonly interest: string;
  readonly monthlyCash: string;
  readonly addedInterest: string | null;
  readonly freedCash: string | null;
  readonly priceOfWaiting: string | null;
  readonly without?: number;
}

/** A place on the curve where the interest that a step adds equals the cash it frees. */
export interface PublishedCrossing {
  readonly years: string;
  readonly monthlyCash: string;
  readonly income?: PublishedIncome;
}

/** Both readings of where paying faster stops being worth it. */
export interface PublishedWorthIt {
  readonly crossing: (PublishedCrossing & { readonly others?: readonly PublishedCrossing[] }) | null;
  readonly hurdle?: {
    readonly clearBy: string;
    readonly presentValue: string;
    readonly income?: PublishedIncome;
  } | null;
}

/** What a monthly budget comes to. */
export interface PublishedBudget {
  readonly use: BudgetUse;
  /** The day that everything is cleared on; null where something is left. */
  readonly clears: string | null;
  /** Balances and unpaid interest that no payment clears. */
  readonly left?: string;
  readonly interest: string;
  readonly paid: string;
  /** Of one common day: what it leaves each month. */
  readonly unspent?: string;
  /** Of one common day: what no payment clears by any. */
  readonly outOfReach?: readonly string[];
  /** Of an order of one's own: what it leaves out, which comes last. */
  readonly unordered?: readonly string[];
  /** The first month that asks for more than is there, and a budget by which none does. */
  readonly short?: { readonly month: string; readonly missing: string; readonly covers: string };
  readonly loans: readonly {
    readonly name: string;
    readonly clears: string | null;
    readonly left?: string;
  }[];
  /** With what is there at the end of each month: what came in until then less what was paid. */
  readonly months: readonly { readonly month: string; readonly paid: string; readonly cash: string }[];
}

/** That no common day is within a budget, and the least by which one is. */
export interface PublishedNoCommonDay {
  readonly use: BudgetUse;
  readonly commonDay: null;
  readonly least: string;
}

/** What payments and fixed outlays ask of income before tax. */
export interface PublishedIncome {
  readonly needed: string;
  readonly coverage?: string;
}

/** A plan in its published form. */
export interface PublishedPlan {
  readonly loans?: readonly (PublishedPlannedLoan | PublishedUnreached)[];
  /** By currency where there are several. */
  readonly totals?: PublishedPlanTotals | Readonly<Record<string, PublishedPlanTotals>>;
  readonly horizons?: readonly PublishedHorizon[];
  readonly worthIt?: PublishedWorthIt;
  readonly budget?: PublishedBudget | PublishedNoCommonDay;
  readonly income?: PublishedIncome;
  readonly proofs: readonly PublishedProof[];
}

/** Whether totals are of one currency, and not by currency. */
export function isOneCurrency(totals: NonNullable<PublishedPlan['totals']>): totals is PublishedPlanTotals {
  return Array.isArray(totals.years);
}
