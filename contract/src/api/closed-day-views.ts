import * as v from 'valibot';
import { dayText } from '../document/scalars.ts';
import { question } from './confirm.ts';
import { instrumentId, minorUnits } from './ids.ts';
import { reasonText } from './views.ts';

const beforeAndAfter = v.strictObject({ before: minorUnits, after: minorUnits });

/** What taking the company's closed days does to an instrument whose due dates move. */
export const closedDaysOfInstrument = v.strictObject({
  instrumentId,
  name: v.string(),
  version: v.number(),
  /** Whether it has had closed days of the company before. */
  follows: v.boolean(),
  added: v.array(dayText),
  removed: v.array(dayText),
  /** Payments that fall due on another day then. */
  moved: v.array(v.strictObject({ from: dayText, to: dayText })),
  /** What cannot be kept, in sentences; nothing else is told then. */
  faults: v.array(v.string()),
  /** Interest expense of closed months, and of the open one. */
  effect: v.nullable(v.strictObject({ closed: beforeAndAfter, month: beforeAndAfter })),
  questions: v.array(question),
});
export type ClosedDaysOfInstrument = v.InferOutput<typeof closedDaysOfInstrument>;

/** The instruments of which payments or interest move with the closed days of the company as they are kept. */
export const closedDaysView = v.strictObject({
  /** The open month; none where none is open. */
  month: v.nullable(dayText),
  instruments: v.array(closedDaysOfInstrument),
});
export type ClosedDaysView = v.InferOutput<typeof closedDaysView>;

/** Instruments that are to take them, as they were looked at. */
export const takeClosedDaysBody = v.strictObject({
  reason: reasonText,
  instruments: v.pipe(
    v.array(v.strictObject({ id: instrumentId, version: v.number() })),
    v.minLength(1, 'expected an instrument that takes them.'),
  ),
});
