import * as v from 'valibot';
import { accountRoles } from '@coffer/core';
import { dayText } from '../document/scalars.ts';
import { instrumentId, minorUnits } from './ids.ts';
import { entryLineView } from './views.ts';

/** What a closed month should have held otherwise, booked in a later one. */
export const catchUp = v.strictObject({
  /** Of the entry; null while the month that books it is not locked. */
  number: v.nullable(v.number()),
  /** Last day of the month that books it. */
  bookedIn: dayText,
  /** Last day of the closed month that it stands for. */
  forMonth: dayText,
  instrumentId,
  instrument: v.string(),
  version: v.number(),
  /** Why that version was made, and by whom. */
  reason: v.string(),
  by: v.nullable(v.string()),
  lines: v.array(entryLineView),
  /** What it does to profit: positive lowers it. */
  expense: minorUnits,
});
export type CatchUp = v.InferOutput<typeof catchUp>;

/** An account with what catch-ups move in it; debits are positive. */
export const correctedAccount = v.strictObject({
  role: v.picklist(accountRoles),
  code: v.string(),
  account: v.string(),
  amount: minorUnits,
});
export type CorrectedAccount = v.InferOutput<typeof correctedAccount>;

/** The months that book what is asked for, by their last days, both included. */
export const catchUpsQuery = v.strictObject({ from: dayText, to: dayText });

/** The catch-ups that the months of a span book, in order of the month, and what they come to together. */
export const catchUpsView = v.strictObject({
  from: dayText,
  to: dayText,
  catchUps: v.array(catchUp),
  accounts: v.array(correctedAccount),
  expense: minorUnits,
});
export type CatchUpsView = v.InferOutput<typeof catchUpsView>;

/** A closed month as it was reported beside what is known now; debits are positive. */
export const monthCorrectedView = v.strictObject({
  endsOn: dayText,
  /** Of profit what the month moved, of all else where it stood at its end; those that are otherwise by now. */
  accounts: v.array(
    v.strictObject({
      role: v.picklist(accountRoles),
      account: v.string(),
      reported: minorUnits,
      known: minorUnits,
    }),
  ),
  /** What corrects it and months before it. */
  catchUps: v.array(catchUp),
});
export type MonthCorrectedView = v.InferOutput<typeof monthCorrectedView>;
