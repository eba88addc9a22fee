import { firstDay, formatDay, interestExpense, lastDay, type CalendarDay, type Schedule } from '@coffer/core';
import {
  paymentsDue,
  recordsPayments,
  takeClosedDays,
  type ClosedDaysOfInstrument,
  type CompanyClosedDays,
  type InstrumentDocument,
} from '@coffer/contract';
import type { ClosedMonths } from '../periods/period-store.ts';
import { triedDocument } from '../instruments/tried-document.ts';
import { attempted, knownInstrument, nameOf, type StoredVersion } from '../instruments/known-instruments.ts';

/** What is asked of every instrument about the closed days of its company. */
export interface ClosedDaysAsked {
  readonly days: CompanyClosedDays;
  readonly closed: ClosedMonths;
  /** Last day of the open month. */
  readonly monthEnd: CalendarDay;
}

/** What taking the closed days does to an instrument, and its next version where there is one that can be kept. */
export interface ClosedDaysTaken {
  readonly view: ClosedDaysOfInstrument;
  readonly document?: InstrumentDocument;
}

/** How many days of a renewed or prolonged life a due date may move by. */
const farthest = 31;

/** What taking the closed days of its company does to an instrument; nothing where that moves no payment and no interest. */
export function closedDaysTaken(
  { version }: { readonly version: StoredVersion },
  { days, closed, monthEnd }: ClosedDaysAsked,
): ClosedDaysTaken | undefined {
  const about = { instrumentId: version.id, name: nameOf(version), version: version.version };
  const nothing = {
    follows: true,
    added: [],
    removed: [],
    moved: [],
    faults: [],
    effect: null,
    questions: [],
  };
  const worked = attempted(version, () => {
    const { document, schedule } = knownInstrument(version);
    const until = formatDay(lastDay(schedule) + farthest);
    const taken = 'start' in document ? takeClosedDays(document, days, until) : undefined;
    return taken && { taken, schedule };
  });
  if ('unworkable' in worked) return { view: { ...about, ...nothing, faults: [worked.unworkable.message] } };
  if (!worked.made) return undefined;
  const { document, follows, added, removed } = worked.made.taken;
  const told = { ...about, ...nothing, follows, added: [...added], removed: [...removed] };
  const before = worked.made.schedule;
  const tried = triedDocument(version, document, closed, (after) => {
    const over = (from: CalendarDay, to: CalendarDay): { before: number; after: number } => ({
      before: interestExpense(before, from, to),
      after: interestExpense(after, from, to),
    });
    const expense = { closed: over(closed.from - 1, closed.to), month: over(closed.to, monthEnd) };
    return { moved: moves(before, after), expense };
  });
  if (!tried.ok) return { view: { ...told, faults: tried.faults } };
  const { effect, questions } = tried;
  const same = Object.values(effect.expense).every((of) => of.before === of.after);
  // Days on which nothing falls due change nothing: nobody is asked about them.
  if (effect.moved.length === 0 && same) return undefined;
  return { view: { ...told, moved: effect.moved, effect: effect.expense, questions }, document };
}

/** The payments that fall due on another day. */
function moves(before: Schedule, after: Schedule): { from: string; to: string }[] {
  const dues = (schedule: Schedule): CalendarDay[] =>
    recordsPayments(schedule)
      ? paymentsDue(schedule, firstDay(schedule), lastDay(schedule)).map(({ due }) => due)
      : [];
  const then = dues(after);
  return dues(before).flatMap((due, at) => {
    const to = then[at];
    return to === undefined || to === due ? [] : [{ from: formatDay(due), to: formatDay(to) }];
  });
}
