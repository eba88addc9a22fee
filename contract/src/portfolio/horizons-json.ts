import {
  crossings,
  formatAmount,
  formatDay,
  frontier,
  type Horizon,
  leastWorth,
  type MinorUnits,
  type Step,
  stepFrom,
} from '@coffer/core';
import type { PublishedHorizon, PublishedPlan } from './published-plan.ts';
import type { ReadPlan } from './read-plan.ts';

const rate = (fraction: number): string => `${(100 * fraction).toFixed(2)}%`;

/** The horizons of a plan, each worked out as it is asked for; none where the plan asks for none. */
export function* horizonsOf({ members, on, fund, document }: ReadPlan): Generator<Horizon> {
  if (document.horizons) yield* frontier(members, on, document.horizons, fund);
}

/** Horizons with what each adds and frees against the one before, and where paying faster stops being worth it. */
export function horizonsJson(
  { on, document, members }: ReadPlan,
  horizons: readonly Horizon[],
): Required<Pick<PublishedPlan, 'horizons' | 'worthIt'>> {
  const digits = members[0]?.schedule.terms.digits ?? 2;
  const months = document.freedCash === 'year' ? 12 : 1;
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
