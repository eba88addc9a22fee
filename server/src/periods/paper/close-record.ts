import { comparedFigures, type ComparedFigure } from '@coffer/core';
import {
  agreedWords,
  assumed,
  missingFixings,
  notFixed,
  type CloseView,
  type ConfirmCode,
  type DifferencesView,
  type EntryView,
  type TrailHead,
} from '@coffer/contract';

/** The close of a month as papers tell it, all of one moment. */
export interface CloseRecord {
  readonly view: CloseView;
  readonly differences: DifferencesView;
  /** Where the audit trail stood. */
  readonly trail: TrailHead | undefined;
  /** How many entries the month has, posted and still to be. */
  readonly many: number;
  /** Those entries; none where a paper would be too long for them. */
  readonly entries: readonly EntryView[];
}

/** The figures of an instrument that a close tells, as they are booked, and what they are called. */
export const closeFigures = [
  { key: 'accrued', name: 'Accrued' },
  { key: 'expense', name: 'Expense' },
  { key: 'amortized', name: 'Amortized' },
  { key: 'carrying', name: 'Carrying' },
  { key: 'current', name: 'Current' },
  { key: 'nonCurrent', name: 'Non-current' },
] as const;

/** Lines of what differs that somebody has to look at; the others ran as scheduled. */
export function toLookAt({ lines }: DifferencesView): DifferencesView['lines'] {
  return lines.filter(({ asScheduled }) => !asScheduled);
}

/** What all lines that ran as scheduled changed together, by figure. */
export function ofItself({ lines }: DifferencesView): Readonly<Record<ComparedFigure, number>> {
  const own = lines.filter(({ asScheduled }) => asScheduled);
  const sums = comparedFigures.map(
    (figure) => [figure, own.reduce((sum, line) => sum + line[figure].change, 0)] as const,
  );
  return Object.fromEntries(sums) as Record<ComparedFigure, number>;
}

/** How far a month has come, in words. */
export function stateInWords({ state, closedAs, closedBy }: CloseView): string {
  if (state === 'open') return 'open: nothing of it is posted but the reversals that it began with';
  if (state === 'prepared') return 'handed over: somebody who had no hand in it approves it';
  const by = closedBy ?? 'Coffer';
  if (closedAs === 'reviewed') return `closed, approved by ${by}`;
  return closedAs === 'alone'
    ? `closed by ${by} alone: no second person looked`
    : 'closed where it was brought from';
}

/** The state of a check, in words. */
export const stepStates = { done: 'holds', agreed: 'agreed to', wrong: 'open' } as const;

const stepNames = { 'handed-over': 'handed over', returned: 'returned', closed: 'closed' } as const;

/** Something that somebody did to a month, or said about it. */
export interface SaidOrDone {
  readonly at: string;
  readonly by: string;
  readonly what: string;
  readonly said: string;
}

/** Who did and said what about a month, oldest first. */
export function saidAndDone(view: CloseView, digits: number): SaidOrDone[] {
  const { review, rows } = view;
  const { steps, comments } = review;
  const names = new Map(rows.map(({ id, name }) => [id, name]));
  const done = steps.map(({ step, by, at, comment, confirmed }): SaidOrDone => {
    const agreed =
      confirmed.length > 0
        ? [`agreed to ${confirmed.map((code) => agreedTo(code, view, digits)).join(', ')}`]
        : [];
    const said = [...(comment === null ? [] : [comment]), ...agreed].join('; ');
    return { at, by: by ?? 'Coffer', what: stepNames[step], said };
  });
  const told = comments.map(({ instrumentId, text, by, at }): SaidOrDone => {
    const about = instrumentId === null ? 'the month' : (names.get(instrumentId) ?? 'an instrument');
    return { at, by: by ?? 'Coffer', what: `about ${about}`, said: text };
  });
  return [...done, ...told].sort((one, other) => (one.at < other.at ? -1 : 1));
}

/** What somebody agreed to; of a closed month with what it was about. */
function agreedTo(code: ConfirmCode, view: CloseView, digits: number): string {
  const about: Partial<Record<ConfirmCode, string>> =
    view.state === 'closed'
      ? {
          'payments-unrecorded': assumed(view.unrecorded, digits),
          'fixings-missing': notFixed(missingFixings(view)),
        }
      : {};
  return [agreedWords[code], about[code]].filter(Boolean).join(' – ');
}

/** A moment in words, in UTC. */
export function momentInWords(at: string): string {
  return `${at.slice(0, 10)} ${at.slice(11, 16)} UTC`;
}
