import {
  movementOver,
  movementProof,
  portfolioValues,
  type PortfolioMeasure,
  type PortfolioPeriod,
} from '@coffer/core';
import { describeInstrument, type PortfolioRow } from '@coffer/contract';
import { workedOut, type StoredVersion, type Worked } from '../instruments/known-instruments.ts';

/** What is asked of every instrument of a portfolio. */
export interface PortfolioAsked {
  readonly periods: readonly PortfolioPeriod[];
  readonly show: PortfolioMeasure;
}

/** Works out one instrument over the periods of a portfolio; nothing where nothing is owed or paid in any of them. */
export function portfolioOfInstrument(
  { version }: { readonly version: StoredVersion },
  { periods, show }: PortfolioAsked,
): Worked<PortfolioRow | undefined> {
  return workedOut(version, ({ id, document, schedule }) => {
    const movement = movementOver(schedule, periods);
    if (Object.values(movement).every((amount) => amount === 0)) return undefined;
    const { name, lender = null } = document;
    return {
      id,
      name,
      lender,
      class: describeInstrument(document, schedule, periods[0]?.from ?? 0).class,
      floating: 'index' in schedule.terms && schedule.terms.index !== undefined,
      values: portfolioValues(schedule, periods, show),
      off: movementProof('', [movement]).difference,
    };
  });
}
