import * as v from 'valibot';
import { dayText } from '../document/scalars.ts';
import { instrumentId, minorUnits } from './ids.ts';

/** The figures of a fund, minor units. */
export const fundFigures = v.strictObject({
  balance: minorUnits,
  /** Earned since the last deposit, not yet added. */
  accruedInterest: minorUnits,
  /** So far, with what it held as it began. */
  deposited: minorUnits,
  earned: minorUnits,
  toGoal: minorUnits,
});
export type FundFigures = v.InferOutput<typeof fundFigures>;

/** A fund in the register: an asset, held to repay a debt. */
export const fundRowView = v.strictObject({
  id: instrumentId,
  version: v.number(),
  name: v.string(),
  /** Who keeps it. */
  lender: v.nullable(v.string()),
  /** What it repays, by name; and where that is in the register, its id and what is owed on it. */
  repays: v.nullable(v.string()),
  repaysId: v.nullable(instrumentId),
  owed: v.nullable(minorUnits),
  rate: v.string(),
  /** The day of its last deposit, on which it is paid out. */
  ends: dayText,
  next: v.nullable(v.strictObject({ due: dayText, deposit: minorUnits })),
  figures: fundFigures,
});
export type FundRowView = v.InferOutput<typeof fundRowView>;

/** One fund in a period close. */
export const closeFund = v.strictObject({
  id: instrumentId,
  name: v.string(),
  version: v.number(),
  figures: fundFigures,
});
export type CloseFund = v.InferOutput<typeof closeFund>;
