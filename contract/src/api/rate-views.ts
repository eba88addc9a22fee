import * as v from 'valibot';
import { dayText, shortText, signedRateText } from '../document/scalars.ts';
import { question } from './confirm.ts';
import { instrumentId, minorUnits } from './ids.ts';
import { reasonText } from './views.ts';

/** The most fixings that are kept at once. */
export const mostFixings = 5000;
/** Where a fixing came from. */
export const fixingSources = ['typed', 'sheet', 'service'] as const;

/** A fixing of an index as it is kept, and by whom; nobody where it came with the company. */
export const keptFixing = v.strictObject({
  on: dayText,
  rate: signedRateText,
  source: v.picklist(fixingSources),
  by: v.nullable(v.string()),
  at: v.string(),
});

/** A reference rate of the company. */
export const keptIndex = v.strictObject({
  name: v.string(),
  /** Sent back with a change, so that nobody writes over what somebody else kept meanwhile. */
  revision: v.number(),
  /** Newest first. */
  fixings: v.array(keptFixing),
  /** How many instruments follow it. */
  followers: v.number(),
});
export type KeptIndex = v.InferOutput<typeof keptIndex>;

/** The reference rates of a company. */
export const ratesView = v.strictObject({
  indexes: v.array(keptIndex),
  /** Names that instruments follow and that no index of the company has. */
  unkept: v.array(v.strictObject({ name: v.string(), followers: v.number() })),
});
export type RatesView = v.InferOutput<typeof ratesView>;

/** Values of an index to be kept; one without a rate is taken back. */
export const newFixings = v.pipe(
  v.array(v.strictObject({ on: dayText, rate: v.nullable(signedRateText) })),
  v.maxLength(mostFixings, 'expected at most 5,000 fixings at once.'),
);

/** Values of an index that are looked at before they are kept. */
export const fixingsBody = v.strictObject({ index: shortText, fixings: newFixings });

const beforeAndAfter = v.strictObject({ before: minorUnits, after: minorUnits });

/** What new fixings do to an instrument that follows their index. */
export const followedInstrument = v.strictObject({
  instrumentId,
  name: v.string(),
  version: v.number(),
  taken: v.array(
    v.strictObject({ on: dayText, rate: v.nullable(signedRateText), was: v.nullable(signedRateText) }),
  ),
  /** Days for which it has another fixing of its own, which stays. */
  own: v.array(v.strictObject({ on: dayText, own: signedRateText, published: signedRateText })),
  /** What cannot be kept, in sentences; nothing else is told then. */
  faults: v.array(v.string()),
  effect: v.nullable(
    v.strictObject({
      /** The rate of the instrument on the last day that it takes a fixing for, its margin included. */
      rate: v.strictObject({ on: dayText, before: v.string(), after: v.string() }),
      /** The payment that falls due next after the first of them; none where nothing does. */
      payment: v.nullable(v.strictObject({ due: dayText, ...beforeAndAfter.entries })),
      /** Interest expense of the months before the open one, of the open month, and of the rest of its fiscal year. */
      closed: beforeAndAfter,
      month: beforeAndAfter,
      year: beforeAndAfter,
    }),
  ),
  questions: v.array(question),
});
export type FollowedInstrument = v.InferOutput<typeof followedInstrument>;

/** What new fixings do, before they are kept. */
export const followView = v.strictObject({
  /** The revision of the index; 0 where it is new. */
  revision: v.number(),
  fixings: v.array(
    v.strictObject({ on: dayText, rate: v.nullable(signedRateText), was: v.nullable(signedRateText) }),
  ),
  /** The open month, which what is late falls in; none where no month is open. */
  month: v.nullable(dayText),
  instruments: v.array(followedInstrument),
});
export type FollowView = v.InferOutput<typeof followView>;

/** Fixings that are kept and reach the instruments named, as they were looked at. */
export const keepFixingsBody = v.strictObject({
  ...fixingsBody.entries,
  revision: v.pipe(v.number(), v.integer(), v.minValue(0)),
  source: v.picklist(fixingSources),
  reason: reasonText,
  instruments: v.array(v.strictObject({ id: instrumentId, version: v.number() })),
});

/** What the rate service has published and the company has not kept so, by index. */
export const fetchedView = v.strictObject({
  indexes: v.array(
    v.strictObject({
      name: v.string(),
      fixings: v.array(v.strictObject({ on: dayText, rate: signedRateText })),
    }),
  ),
});
export type FetchedView = v.InferOutput<typeof fetchedView>;
