import {
  comparedFigures,
  whyChanged,
  type CalendarDay,
  type ComparedFigure,
  type MonthChange,
} from '@coffer/core';
import type { Difference, DifferenceLine, DifferenceReason } from '@coffer/contract';
import { workedOut, type StoredVersion, type Worked } from '../instruments/known-instruments.ts';

/** The compared figures of a month, minor units; catch-ups are not in its expense. */
export type Compared = Readonly<Record<ComparedFigure, number>>;

/** An instrument of a month, with what the month before reported of it. */
export interface ComparedInstrument {
  readonly version: StoredVersion;
  readonly now: Compared;
  /** None where nothing was reported of it. */
  readonly before: Compared | undefined;
  /** What of each figure is too small to be booked, less what is charged of what the month before left out. */
  readonly leftOut: { readonly now: Compared; readonly before: Compared };
  /** Expense of closed months that this one books, and that the month before booked. */
  readonly catchUp: { readonly now: number; readonly before: number };
}

/** What is no cause: it runs so by itself. */
const ofItself: readonly DifferenceReason[] = ['paid', 'added', 'balance', 'days', 'amortized', 'fee'];

/** Holds the month of one instrument against what the month before reported. */
export function differenceOfInstrument(
  { version, now, before, leftOut, catchUp }: ComparedInstrument,
  { end }: { readonly end: CalendarDay },
): Worked<DifferenceLine> {
  return workedOut(version, ({ id, document, schedule }) => {
    if (!before)
      return lineOf(id, document.name, allBecause('new', booked(now, leftOut.now), undefined, catchUp));
    const why = whyChanged(schedule, end);
    const settled = now.carrying === 0 && before.carrying !== 0;
    const figures = figuresBy((figure): Difference => {
      const { before: known, now: is, parts, over } = why[figure];
      const caught = figure === 'expense' ? catchUp : { now: 0, before: 0 };
      const own =
        settled && figure !== 'expense' ? [{ reason: 'settled' as const, amount: is - known }] : parts;
      return differenceOf(
        now[figure] - leftOut.now[figure] + caught.now,
        before[figure] - leftOut.before[figure] + caught.before,
        [
          { reason: 'catch-up', amount: caught.now - caught.before },
          { reason: 'left-out', amount: leftOut.before[figure] - leftOut.now[figure] },
          { reason: 'put-right', amount: known - before[figure] },
          ...own,
          // What the month shows must be what was looked at here.
          { reason: 'unexplained', amount: now[figure] - is },
        ],
        over,
      );
    });
    return lineOf(id, document.name, figures, why);
  });
}

/** Figures as they are booked: without what is left out. */
export function booked(figures: Compared, leftOut: Compared): Compared {
  return figuresBy((figure) => figures[figure] - leftOut[figure]);
}

/** A line whose whole change has one reason. */
export function allBecause(
  reason: DifferenceReason,
  now: Compared,
  before: Compared | undefined,
  catchUp: ComparedInstrument['catchUp'],
): Record<ComparedFigure, Difference> {
  return figuresBy((figure) => {
    const booked = figure === 'expense' ? catchUp : { now: 0, before: 0 };
    const [was, is] = [(before?.[figure] ?? 0) + booked.before, now[figure] + booked.now];
    const caught = booked.now - booked.before;
    return differenceOf(is, was, [
      { reason: 'catch-up', amount: caught },
      { reason, amount: is - was - caught },
    ]);
  });
}

/** A line of what differs; it ran as scheduled where nothing else is a cause. */
export function lineOf(
  id: string,
  name: string,
  figures: Record<ComparedFigure, Difference>,
  { happened, undisturbed, rates }: Pick<MonthChange, 'happened' | 'undisturbed' | 'rates'> = nothingKnown,
): DifferenceLine {
  const caused = comparedFigures.some((figure) =>
    figures[figure].parts.some(({ reason }) => !ofItself.includes(reason)),
  );
  return {
    id,
    name,
    asScheduled: undisturbed && !caused,
    happened: [...happened],
    ...(rates && { rates: [rates[0], rates[1]] }),
    ...figures,
  };
}

const nothingKnown = { happened: [], undisturbed: false } as const;

function differenceOf(
  now: number,
  before: number,
  parts: Difference['parts'],
  over?: Difference['over'] | readonly [Readonly<Averages>, Readonly<Averages>],
): Difference {
  const told = parts.filter(({ amount }) => amount !== 0);
  return { now, change: now - before, parts: told, ...(over && { over: [over[0], over[1]] }) };
}

type Averages = NonNullable<Difference['over']>[number];

function figuresBy<Of>(of: (figure: ComparedFigure) => Of): Record<ComparedFigure, Of> {
  const made = comparedFigures.map((figure) => [figure, of(figure)] as const);
  return Object.fromEntries(made) as Record<ComparedFigure, Of>;
}
