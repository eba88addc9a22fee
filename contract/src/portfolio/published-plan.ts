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
}

/** Both readings of where paying faster stops being worth it. */
export interface PublishedWorthIt {
  readonly crossing: (PublishedCrossing & { readonly others?: readonly PublishedCrossing[] }) | null;
  readonly hurdle?: { readonly clearBy: string; readonly presentValue: string } | null;
}

/** What a monthly budget comes to. */
export interface PublishedBudget {
  readonly use: BudgetUse;
  readonly clears: string;
  readonly interest: string;
  /** Of one common day: what it leaves each month. */
  readonly unspent?: string;
  readonly loans: readonly { readonly name: string; readonly clears: string }[];
  readonly months: readonly { readonly month: string; readonly paid: string }[];
}

/** A plan in its published form. */
export interface PublishedPlan {
  readonly loans?: readonly (PublishedPlannedLoan | PublishedUnreached)[];
  /** By currency where there are several. */
  readonly totals?: PublishedPlanTotals | Readonly<Record<string, PublishedPlanTotals>>;
  readonly horizons?: readonly PublishedHorizon[];
  readonly worthIt?: PublishedWorthIt;
  readonly budget?: PublishedBudget;
  readonly income?: { readonly needed: string; readonly coverage?: string };
  readonly proofs: readonly PublishedProof[];
}

/** Whether totals are of one currency, and not by currency. */
export function isOneCurrency(totals: NonNullable<PublishedPlan['totals']>): totals is PublishedPlanTotals {
  return Array.isArray(totals.years);
}
