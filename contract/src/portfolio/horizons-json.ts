import {
  crossings,
  formatAmount,
  formatDay,
  frontier,
  type Horizon,
  isPlanned,
  leastWorth,
  type MinorUnits,
  planFor,
  type Step,
  stepFrom,
} from '@coffer/core';
import { firstYearsInterest, incomeJson } from './income-json.ts';
import type { PublishedHorizon, PublishedIncome, PublishedPlan } from './published-plan.ts';
import type { ReadPlan } from './read-plan.ts';

const rate = (fraction: number): string => `${(100 * fraction).toFixed(2)}%`;

/** The horizons of a plan, each worked out as it is asked for; none where the plan asks for none. */
export function* horizonsOf({ members, on, fund, document }: ReadPlan): Generator<Horizon> {
  if (document.horizons) yield* frontier(members, on, document.horizons, fund);
}

/** Horizons with what each adds and frees against the one before, and where paying faster stops being worth it. */
export function horizonsJson(
  plan: ReadPlan,
  horizons: readonly Horizon[],
): Required<Pick<PublishedPlan, 'horizons' | 'worthIt'>> {
  const { on, document, members } = plan;
  const digits = members[0]?.schedule.terms.digits ?? 2;
  const months = document.freedCash === 'year' ? 12 : 1;
  const steps = horizons.map((horizon, at) => stepFrom(horizons[at - 1], horizon, on));
  const crossed = crossings(horizons, steps, months).map(({ years, yearlyCash }) => ({
    years: years.toFixed(2),
    monthlyCash: formatAmount(Math.round(yearlyCash / 12), digits),
    ...incomeAt(plan, yearlyCash, () => interestAt(plan, horizons, years)),
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
              ...incomeAt(plan, least.horizon.yearlyCash, () => firstInterest(plan, least.horizon.clearBy)),
            }
          : null,
      }),
    },
  };
}

/** What a place on the curve asks of income, where that is asked. */
function incomeAt(
  plan: ReadPlan,
  yearlyCash: MinorUnits,
  interest: () => MinorUnits,
): { readonly income?: PublishedIncome } {
  const income = plan.income && incomeJson(plan, yearlyCash, interest());
  return income ? { income } : {};
}

/** Interest of the first year where all is cleared by a day. */
function firstInterest({ members, on, fund }: ReadPlan, clearBy: number): MinorUnits {
  return firstYearsInterest(planFor(members, on, clearBy, fund).filter(isPlanned), on);
}

/** The same between two horizons, taken to run straight, as the cash of a month does there. */
function interestAt(plan: ReadPlan, horizons: readonly Horizon[], years: number): MinorUnits {
  const at = horizons.findIndex((horizon) => horizon.years >= years);
  const [from, to] = [horizons[at - 1], horizons[at]];
  if (!to) return 0;
  const then = firstInterest(plan, to.clearBy);
  if (!from || to.years === years) return then;
  const before = firstInterest(plan, from.clearBy);
  return before + ((then - before) * (years - from.years)) / (to.years - from.years);
}

function horizonJson(
  horizon: Horizon,
  step: Step | undefined,
  months: number,
  digits: number,
): PublishedHorizon {
  const money = (minor: MinorUnits): string => formatAmount(Math.round(minor), digits);
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
