import {
  budgetOutcome,
  type BudgetOutcome,
  budgetProofs,
  type BudgetUse,
  formatAmount,
  formatDay,
  isOutcome,
  isPlanned,
  type MinorUnits,
  planFor,
  type PlannedMember,
  planProofs,
  planTotals,
  type PlanTotals,
  type PlanYear,
  planYears,
} from '@coffer/core';
import { publishedProof } from '../document/proofs-json.ts';
import type { PublishedProof } from '../document/published-schedule.ts';
import { budgetJson } from './budget-json.ts';
import { horizonsJson, horizonsOf } from './horizons-json.ts';
import { firstYearsInterest, incomeJson } from './income-json.ts';
import type {
  PublishedBudget,
  PublishedIncome,
  PublishedNoCommonDay,
  PublishedPlan,
  PublishedPlannedLoan,
  PublishedPlanTotals,
  PublishedPlanYear,
  PublishedUnreached,
} from './published-plan.ts';
import { leastOf, type ReadPlan } from './read-plan.ts';

/** Works a plan out and publishes it. */
export function planJson(plan: ReadPlan): PublishedPlan {
  const { proofs, ...planned } = plannedJson(plan);
  const horizons = plan.document.horizons && horizonsJson(plan, [...horizonsOf(plan)]);
  return { ...planned, ...horizons, proofs };
}

/** A plan in its published form without its horizons, which take longest. */
export function plannedJson(plan: ReadPlan): PublishedPlan {
  const { clearBy, on, budget } = plan;
  const cleared = clearBy === undefined ? undefined : clearedBy(plan, clearBy);
  const used = budget && budgetWay(plan, budget.monthly, budget.use);
  const [totals] = cleared?.totals.values() ?? [];
  const income = totals
    ? incomeJson(plan, totals.all.yearlyCash, firstYearsInterest(cleared?.planned ?? [], on))
    : used?.income;
  return {
    ...(cleared && { loans: cleared.loans, totals: cleared.json }),
    ...(used && { budget: used.budget }),
    ...(income && { income }),
    proofs: [...(cleared?.proofs ?? []), ...(used?.proofs ?? [])],
  };
}

/** A way of using a budget. */
export interface PlannedWay {
  readonly budget: PublishedBudget | PublishedNoCommonDay;
  /** What it asks of income; nothing where that is not asked, or the budget is refused. */
  readonly income: PublishedIncome | undefined;
  readonly proofs: readonly PublishedProof[];
  readonly made: BudgetOutcome | undefined;
}

/** What a budget comes to that is used in a way, with what it asks of income and its proofs. */
export function budgetWay(plan: ReadPlan, monthly: MinorUnits, use: BudgetUse): PlannedWay {
  const { members, on } = plan;
  const made = budgetOutcome(members, on, monthly, use);
  const outcome = isOutcome(made) ? made : undefined;
  const digits = members[0]?.schedule.terms.digits ?? 2;
  return {
    budget: budgetJson(use, made, members),
    income:
      outcome && !outcome.short
        ? incomeJson(plan, 12 * monthly, firstYearsInterest(outcome.members, on))
        : undefined,
    proofs: outcome ? budgetProofs(outcome, monthly).map((proof) => publishedProof(proof, digits)) : [],
    made: outcome,
  };
}

interface Cleared {
  readonly planned: readonly PlannedMember[];
  readonly loans: readonly (PublishedPlannedLoan | PublishedUnreached)[];
  readonly totals: ReadonlyMap<string, { readonly all: PlanTotals; readonly digits: number }>;
  readonly json: NonNullable<PublishedPlan['totals']>;
  readonly proofs: readonly PublishedProof[];
}

function clearedBy(plan: ReadPlan, clearBy: number): Cleared {
  const { members, on, fund, document } = plan;
  const yearEnd = document.fiscalYearEndMonth ?? 12;
  const made = planFor(members, on, clearBy, fund);
  const planned = made.filter(isPlanned);
  const through = Math.max(clearBy, ...planned.map(({ rows }) => rows.at(-1)?.on ?? on));
  const years = new Map(planned.map((member) => [member, planYears(member, on, through, yearEnd)]));
  const loans = made.map((member, at): PublishedPlannedLoan | PublishedUnreached => {
    const { schedule, name } = members[at] as (typeof members)[number];
    if (!isPlanned(member)) {
      return {
        name,
        outOfReach: true,
        earliest: member.earliest === undefined ? null : formatDay(member.earliest),
      };
    }
    const { digits } = schedule.terms;
    const least = leastOf(members[at] as (typeof members)[number], on);
    return loanJson(member, years.get(member) ?? [], { clearBy, least, digits });
  });
  const termsOf = (name: string): { readonly currency: string; readonly digits: number } =>
    members.find((member) => member.name === name)?.schedule.terms ?? { currency: '', digits: 2 };
  const currencies = [...new Set(members.map(({ schedule }) => schedule.terms.currency))];
  const totals = new Map(
    currencies.map((currency) => {
      const ofCurrency = planned.filter(({ name }) => termsOf(name).currency === currency);
      const all = planTotals(
        ofCurrency,
        ofCurrency.map((member) => years.get(member) ?? []),
      );
      const { digits } = members
        .map(({ name }) => termsOf(name))
        .find((terms) => terms.currency === currency) ?? {
        digits: 2,
      };
      return [currency, { all, members: ofCurrency, digits }] as const;
    }),
  );
  const without = made.length - planned.length;
  const jsonOf = ({ all, digits }: { all: PlanTotals; digits: number }): PublishedPlanTotals => ({
    balance: formatAmount(all.balance, digits),
    interest: formatAmount(all.interest, digits),
    paid: formatAmount(all.paid, digits),
    monthlyCash: formatAmount(Math.round(all.yearlyCash / 12), digits),
    years: all.years.map((year) => yearJson(year, digits)),
    ...(without > 0 && { without }),
  });
  const [only] = totals.values();
  return {
    planned,
    loans,
    totals,
    json:
      totals.size === 1 && only
        ? jsonOf(only)
        : Object.fromEntries([...totals].map(([currency, each]) => [currency, jsonOf(each)])),
    proofs: [...totals].flatMap(([currency, { all, members: ofCurrency, digits }]) =>
      planProofs(ofCurrency, all).map((proof) =>
        publishedProof(totals.size === 1 ? proof : { ...proof, name: `${currency}: ${proof.name}` }, digits),
      ),
    ),
  };
}

function loanJson(
  member: PlannedMember,
  years: readonly PlanYear[],
  { clearBy, least, digits }: { clearBy: number; least: number; digits: number },
): PublishedPlannedLoan {
  const money = (minor: MinorUnits): string => formatAmount(minor, digits);
  const { fund } = member;
  return {
    name: member.name,
    balance: money(member.balance),
    least: money(least),
    payment: money(member.payment),
    exceeds: money(Math.max(0, member.payment - least)),
    payments: member.payments,
    finalPayment: money(member.finalPayment),
    clears: formatDay(member.clears),
    daysEarly: clearBy - member.clears,
    interest: money(member.interest),
    paid: money(member.paid),
    bound: member.bound,
    ...(fund && {
      fund: {
        deposit: money(fund.deposit ?? 0),
        deposits: fund.rows.length,
        finalDeposit: money(fund.rows.at(-1)?.deposit ?? 0),
        first: formatDay(fund.rows[0]?.due ?? clearBy),
        holds: money(fund.rows.at(-1)?.closing ?? 0),
        on: formatDay(clearBy),
      },
    }),
    years: years.map((year) => yearJson(year, digits)),
  };
}

function yearJson({ year, closing, interest, principal }: PlanYear, digits: number): PublishedPlanYear {
  const money = (minor: MinorUnits): string => formatAmount(minor, digits);
  return { year, closing: money(closing), interest: money(interest), principal: money(principal) };
}
