import {
  debtKindOf,
  formatDay,
  movementOver,
  movementProof,
  portfolioValues,
  type PortfolioMeasure,
  type PortfolioPeriod,
  type Schedule,
} from '@coffer/core';
import { describeInstrument, type PortfolioRow, type ReadInstrument } from '@coffer/contract';
import { workedOut, type StoredVersion, type Worked } from '../instruments/known-instruments.ts';

/** What is asked of every instrument of a portfolio. */
export interface PortfolioAsked {
  readonly periods: readonly PortfolioPeriod[];
  readonly show: PortfolioMeasure;
}

/** Works out one instrument over the periods of a portfolio; nothing where nothing is owed or paid in any of them. */
export function portfolioOfInstrument(
  { version }: { readonly version: StoredVersion },
  asked: PortfolioAsked,
): Worked<PortfolioRow | undefined> {
  return workedOut(version, (instrument) => {
    const movement = movementOver(instrument.schedule, asked.periods);
    if (Object.values(movement).every((amount) => amount === 0)) return undefined;
    return portfolioRowOf(version.id, instrument, asked);
  });
}

/** An instrument as a row of a portfolio. */
export function portfolioRowOf(
  id: string,
  { document, schedule }: Pick<ReadInstrument, 'document' | 'schedule'>,
  { periods, show }: PortfolioAsked,
): PortfolioRow {
  const { name, lender = null } = document;
  return {
    id,
    name,
    lender,
    class: describeInstrument(document, schedule, periods[0]?.from ?? 0).class,
    floating: 'index' in schedule.terms && schedule.terms.index !== undefined,
    values: portfolioValues(schedule, periods, show),
    off: movementProof('', [movementOver(schedule, periods)]).difference,
    ...(show === 'payment' && { dues: duesToChange(schedule, periods) }),
  };
}

/** The due date of the one payment of each period that could be another one: agreed, and not recorded. */
function duesToChange(schedule: Schedule, periods: readonly PortfolioPeriod[]): (string | null)[] {
  const [first] = periods;
  const dues = first ? (debtKindOf(schedule).contract(schedule, first.from - 1)?.dues ?? []) : [];
  return periods.map(({ from, to }) => {
    const [due, ...more] = dues.filter(({ on }) => on >= from && on <= to);
    return due && more.length === 0 ? formatDay(due.due) : null;
  });
}
