import * as v from 'valibot';
import { dayText } from '../document/scalars.ts';
import { instrumentId } from './ids.ts';

const wholeNumber = v.pipe(v.string(), v.regex(/^\d{1,9}$/, 'expected a whole number.'), v.transform(Number));

/** Which events of the audit trail are asked for: all that fit everything that is named. */
export const trailQuery = v.strictObject({
  /** Days, both included. */
  from: v.optional(dayText),
  to: v.optional(dayText),
  instrument: v.optional(instrumentId),
  /** The number of a person. */
  person: v.optional(wholeNumber),
  /** Events before this one. */
  before: v.optional(wholeNumber),
});
export type TrailQuery = v.InferOutput<typeof trailQuery>;

/** Something that happened in a company, as the audit trail tells of it. */
export const trailEvent = v.strictObject({
  id: v.number(),
  at: v.string(),
  /** Null where nobody did it. */
  by: v.nullable(v.string()),
  sentence: v.string(),
  instrumentId: v.nullable(instrumentId),
  /** What it changed, in the words of the screen; what is new has no before, what is gone no after. */
  changes: v.array(v.strictObject({ name: v.string(), before: v.string(), after: v.string() })),
});
export type TrailEvent = v.InferOutput<typeof trailEvent>;

/** Events of the audit trail, newest first. */
export const trailView = v.strictObject({
  events: v.array(trailEvent),
  /** The event to ask before for the rest; null when these are the last. */
  next: v.nullable(v.number()),
  /** Whoever did anything in the company, by name. */
  people: v.array(v.strictObject({ id: v.number(), name: v.string() })),
});
export type TrailView = v.InferOutput<typeof trailView>;

/** How far the audit trail of the installation was followed, and where it breaks. */
export const trailChecked = v.strictObject({
  from: v.nullable(v.number()),
  to: v.nullable(v.number()),
  /** The hash of the last event in hexadecimal. */
  head: v.nullable(v.string()),
  /** The event that is not as it was written, or that follows one that is gone; null where it is whole. */
  broken: v.nullable(v.number()),
});
export type TrailChecked = v.InferOutput<typeof trailChecked>;
