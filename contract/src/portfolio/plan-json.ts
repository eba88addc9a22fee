import {
  budgetOutcome,
  crossings,
  formatAmount,
  formatDay,
  frontier,
  incomeNeeded,
  isPlanned,
  leastWorth,
  planFor,
  planProofs,
  planTotals,
  planYears,
  stepFrom,
  type Horizon,
  type PlannedMember,
  type PlanTotals,
  type PlanYear,
  type Step,
} from '@coffer/core';
import { publishedProof } from '../document/proofs-json.ts';
import type { PublishedProof } from '../document/published-schedule.ts';
import { leastOf, type ReadPlan } from './read-plan.ts';

type Json = Readonly<Record<string, unknown>>;

/** A plan in its published form. */
export interface PublishedPlan {
  readonly loans?: readonly Json[];
  /** By currency where there are several. */
  readonly totals?: Json;
  readonly horizons?: readonly Json[];
  readonly worthIt?: Json;
  readonly budget?: Json;
  readonly income?: Json;
  readonly proofs: readonly PublishedProof[];
}

const rate = (fraction: number): string => `${(100 * fraction).toFixed(2)}%`;

/** Works a plan out and publishes it. */
export function planJson(plan: ReadPlan): PublishedPlan {
  const { clearBy, document, members, on } = plan;
  const digits = members[0]?.schedule.terms.digits ?? 2;
  const cleared = clearBy === undefined ? undefined : clearedBy(plan, clearBy);
  const horizons = document.horizons && comparedHorizons(plan, digits);
  const budget = plan.budget && budgetJson(plan, digits);
  const [totals] = cleared?.totals.values() ?? [];
  const service = totals?.all.yearlyCash ?? (plan.budget ? 12 * plan.budget.monthly : undefined);
  const income =
    plan.income && service !== undefined
      ? incomeJson(plan, service, firstYearsInterest(cleared?.planned ?? [], on), digits)
      : undefined;
  return {
    ...(cleared && { loans: cleared.loans, totals: cleared.json }),
    ...horizons,
    ...(budget && { budget }),
    ...(income && { income }),
    proofs: cleared?.proofs ?? [],
  };
}

interface Cleared {
  readonly planned: readonly PlannedMember[];
  readonly loans: readonly Json[];
  readonly totals: ReadonlyMap<string, { readonly all: PlanTotals; readonly digits: number }>;
  readonly json: Json;
  readonly proofs: readonly PublishedProof[];
}

function clearedBy(plan: ReadPlan, clearBy: number): Cleared {
  const { members, on, fund, document } = plan;
  const yearEnd = document.fiscalYearEndMonth ?? 12;
  const made = planFor(members, on, clearBy, fund);
  const planned = made.filter(isPlanned);
  const through = Math.max(clearBy, ...planned.map(({ rows }) => rows.at(-1)?.on ?? on));
  const years = new Map(planned.map((member) => [member, planYears(member, on, through, yearEnd)]));
  const loans = made.map((member, at): Json => {
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
  const jsonOf = ({ all, digits }: { all: PlanTotals; digits: number }): Json => ({
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
): Json {
  const money = (minor: number): string => formatAmount(minor, digits);
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

function yearJson({ year, closing, interest, principal }: PlanYear, digits: number): Json {
  const money = (minor: number): string => formatAmount(minor, digits);
  return { year, closing: money(closing), interest: money(interest), principal: money(principal) };
}

function comparedHorizons(
  { members, on, fund, document }: ReadPlan,
  digits: number,
): { readonly horizons: readonly Json[]; readonly worthIt: Json } {
  const months = document.freedCash === 'year' ? 12 : 1;
  const horizons = document.horizons ? [...frontier(members, on, document.horizons, fund)] : [];
  const steps = horizons.map((horizon, at) => stepFrom(horizons[at - 1], horizon, on));
  const crossed = crossings(horizons, steps, months).map(({ years, yearlyCash }) => ({
    years: years.toFixed(2),
    monthlyCash: formatAmount(Math.round(yearlyCash / 12), digits),
  }));
  const least =
    document.hurdle === undefined
      ? undefined
      : leastWorth(horizons, on, Number.parseFloat(document.hurdle) / 100);
  const [first, ...others] = crossed;
  return {
    horizons: horizons.map((horizon, at) => horizonJson(horizon, steps[at], months, digits)),
    worthIt: {
      crossing: first ? { ...first, ...(others.length > 0 && { others }) } : null,
      ...(document.hurdle !== undefined && {
        hurdle: least
          ? {
              clearBy: formatDay(least.horizon.clearBy),
              presentValue: formatAmount(Math.round(least.presentValue), digits),
            }
          : null,
      }),
    },
  };
}

function horizonJson(horizon: Horizon, step: Step | undefined, months: number, digits: number): Json {
  const money = (minor: number): string => formatAmount(Math.round(minor), digits);
  return {
    clearBy: formatDay(horizon.clearBy),
    interest: money(horizon.interest),
    monthlyCash: money(horizon.yearlyCash / 12),
    addedInterest: step ? money(step.addedInterest) : null,
    freedCash: step ? money((step.freedYearlyCash * months) / 12) : null,
    priceOfWaiting: step?.priceOfWaiting === undefined ? null : rate(step.priceOfWaiting),
    ...(horizon.without > 0 && { without: horizon.without }),
  };
}

function budgetJson({ members, on, budget }: ReadPlan, digits: number): Json {
  const { monthly, use } = budget ?? { monthly: 0, use: 'same-day' as const };
  const outcome = budgetOutcome(members, on, monthly, use);
  const money = (minor: number): string => formatAmount(minor, digits);
  return {
    use,
    clears: formatDay(outcome.clears),
    interest: money(outcome.interest),
    ...(use === 'same-day' && { unspent: money(outcome.unspent) }),
    loans: outcome.members.map(({ name, clears }) => ({ name, clears: formatDay(clears) })),
    months: outcome.months.map(({ month, paid }) => ({
      month: formatDay(month).slice(0, 7),
      paid: money(paid),
    })),
  };
}

/** Interest of the rows of the first year after a day. Minor units. */
function firstYearsInterest(planned: readonly PlannedMember[], on: number): number {
  const rows = planned.flatMap((member) => member.rows.filter((row) => row.on <= on + 365));
  return rows.reduce((sum, row) => sum + row.interest, 0);
}

function incomeJson({ document, income }: ReadPlan, service: number, interest: number, digits: number): Json {
  const { outlaysDeductible = false, taxRate = '0%', interestDeductible = false } = document.income ?? {};
  const question = {
    outlays: income?.outlays ?? 0,
    outlaysDeductible,
    taxRate: Number.parseFloat(taxRate) / 100,
    interestDeductible,
  };
  return {
    needed: formatAmount(Math.round(incomeNeeded(question, service, interest)), digits),
    ...(income?.operatingCash !== undefined && { coverage: (income.operatingCash / service).toFixed(2) }),
  };
}
