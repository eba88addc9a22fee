import {
  formatDay,
  interestExpense,
  lastDay,
  parseDay,
  position,
  type CalendarDay,
  type Schedule,
} from '@coffer/core';
import {
  describeInstrument,
  followIndex,
  type Followed,
  type FollowedInstrument,
  type InstrumentDocument,
  type Published,
  type TakenFixing,
} from '@coffer/contract';
import type { ClosedMonths } from '../periods/period-store.ts';
import { triedDocument } from '../instruments/tried-document.ts';
import { attempted, knownInstrument, nameOf, type StoredVersion } from '../instruments/known-instruments.ts';

/** What is asked of every instrument that follows an index. */
export interface FollowAsked {
  /** What the index has published, and what it has with the new fixings. */
  readonly before: readonly Published[];
  readonly after: readonly Published[];
  readonly closed: ClosedMonths;
  /** Last day of the open month, and of its fiscal year. */
  readonly monthEnd: CalendarDay;
  readonly yearEnd: CalendarDay;
}

/** What new fixings do to an instrument, and its next version where there is one that can be kept. */
export interface FollowingInstrument {
  readonly view: FollowedInstrument;
  readonly document?: InstrumentDocument;
}

/** What new fixings of an index do to an instrument; nothing where it takes none of them and keeps none of its own. */
export function followedInstrument(
  { version }: { readonly version: StoredVersion },
  asked: FollowAsked,
): FollowingInstrument | undefined {
  const about = { instrumentId: version.id, name: nameOf(version), version: version.version };
  const nothing = { ...about, taken: [], own: [], faults: [], effect: null, questions: [] };
  const worked = attempted(version, () => follow(version, asked));
  if ('unworkable' in worked) return { view: { ...nothing, faults: [worked.unworkable.message] } };
  if (!worked.made) return undefined;
  const { followed, before } = worked.made;
  const { taken, own, document } = followed;
  if (taken.length === 0) return own.length === 0 ? undefined : { view: { ...nothing, own: [...own] } };
  const told = { ...nothing, taken: [...taken], own: [...own] };
  const tried = triedDocument(version, document, asked.closed, (schedule) =>
    effectOf(before, { document, schedule }, taken, asked),
  );
  if (!tried.ok) return { view: { ...told, faults: tried.faults } };
  const { effect, questions } = tried;
  return { view: { ...told, effect, questions }, document };
}

/** A document with the schedule that it makes. */
interface Made {
  readonly document: InstrumentDocument;
  readonly schedule: Schedule;
}

function follow(
  version: StoredVersion,
  { before, after }: FollowAsked,
): { followed: Followed<InstrumentDocument>; before: Made } | undefined {
  const known = knownInstrument(version);
  if (!('rate' in known.document)) return undefined;
  // A fixing on the day of the last payment sets the rate of nothing.
  const until = formatDay(lastDay(known.schedule) - 1);
  const followed = followIndex(known.document, before, after, until);
  return followed && { followed, before: known };
}

function effectOf(
  before: Made,
  after: Made,
  taken: readonly TakenFixing[],
  { closed, monthEnd, yearEnd }: FollowAsked,
): FollowedInstrument['effect'] {
  const days = taken.map(({ on }) => parseDay(on) as CalendarDay);
  const [first, last] = [Math.min(...days), Math.max(...days)];
  const rate = ({ document, schedule }: Made): string => describeInstrument(document, schedule, last).rate;
  const [was, is] = [position(before.schedule, first).next, position(after.schedule, first).next];
  const over = (from: CalendarDay, to: CalendarDay): { before: number; after: number } => ({
    before: interestExpense(before.schedule, from, to),
    after: interestExpense(after.schedule, from, to),
  });
  return {
    rate: { on: formatDay(last), before: rate(before), after: rate(after) },
    payment: is && { due: formatDay(is.due), before: was?.payment ?? 0, after: is.payment },
    closed: over(closed.from - 1, closed.to),
    month: over(closed.to, monthEnd),
    year: over(monthEnd, yearEnd),
  };
}
