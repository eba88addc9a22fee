import * as v from 'valibot';
import { dayText } from '../document/scalars.ts';
import { instrumentId, minorUnits } from './ids.ts';
import { instrumentClasses, unworkable } from './views.ts';

/** One instrument over the periods of a portfolio. */
export const portfolioRow = v.strictObject({
  id: instrumentId,
  name: v.string(),
  lender: v.nullable(v.string()),
  class: v.picklist(instrumentClasses),
  /** Whether its rate follows an index. */
  floating: v.boolean(),
  /** A measure in each period, minor units. */
  values: v.array(minorUnits),
  /** Opening + drawn + interest added − principal repaid less closing over all periods: nothing where it cross-foots. */
  off: minorUnits,
  /** Of payments: the due date of the one payment of a period that can be another one, else null. */
  dues: v.optional(v.array(v.nullable(dayText))),
});
export type PortfolioRow = v.InferOutput<typeof portfolioRow>;

/** The instruments of a company over periods, those aside of which nothing is owed or paid in any. */
export const portfolioView = v.strictObject({
  periods: v.array(v.strictObject({ from: dayText, to: dayText })),
  rows: v.array(portfolioRow),
  unworkable: v.array(unworkable),
});
export type PortfolioView = v.InferOutput<typeof portfolioView>;
