import type { PhaseDocument } from '@coffer/contract';
import { calendarFields, cycleDate } from '@coffer/core';
import { amountOf } from '../../fields/typed-text';
import { typedMonths, type Month } from '../../typed/typed-months';
import { firstPayment } from './first-payment';
import type { TypedLoan } from './loan-form';
import type { TypedStretch } from './stretch-form';

/** Due dates of a loan as its first one and its frequency make them. */
type Dated = Pick<TypedLoan, 'due' | 'every' | 'financed' | 'first' | 'monthEnd' | 'start'>;

/** So many due dates one after another that are paid, or are not. */
export interface Season {
  readonly paid: boolean;
  readonly count: number;
}

/** A stretch that was found in phases of a document, and how many of them it is. */
export interface SeasonalStretch {
  readonly stretch: Partial<TypedStretch>;
  readonly phases: number;
}

/** The month of the year that each of so many due dates falls in, from one on; nothing where the first is not known. */
function monthsDue(loan: Dated, from: number, count: number): Month[] {
  const anchor = firstPayment(loan);
  if (anchor === undefined) return [];
  const cycle = { anchor, every: loan.every, keepMonthEnd: loan.monthEnd };
  return Array.from({ length: count }, (_, at) => calendarFields(cycleDate(cycle, from + at)).month);
}

/**
 * The seasons of so many due dates, from one on, of which those in some months are paid. The last season of a loan is a
 * paid one: its last payment ends it.
 */
export function seasonsOf(
  loan: Dated,
  from: number,
  count: number,
  months: ReadonlySet<Month>,
  last: boolean,
): Season[] {
  const seasons: { paid: boolean; count: number }[] = [];
  for (const month of monthsDue(loan, from, count)) {
    const paid = months.has(month);
    const season = seasons.at(-1);
    if (season?.paid === paid) season.count += 1;
    else seasons.push({ paid, count: 1 });
  }
  if (last && seasons.at(-1)?.paid === false) seasons.pop();
  return seasons;
}

/**
 * The phases at the beginning of a list that are seasons of one stretch, as it is typed, and how many they are; nothing
 * where there is no such stretch.
 *
 * @param from how many due dates come before
 */
export function seasonalStretch(
  loan: Dated,
  phases: readonly PhaseDocument[],
  from: number,
): SeasonalStretch | undefined {
  const many = alternating(phases);
  if (many < 3) return undefined;
  const seasons = phases
    .slice(0, many)
    .map((phase): Season => ({ paid: phase.type === 'level', count: countOf(phase) }));
  const count = seasons.reduce((sum, season) => sum + season.count, 0);
  const due = monthsDue(loan, from, count);
  const paid = seasons.flatMap((season) => Array.from({ length: season.count }, () => season.paid));
  const months = new Set(due.filter((_, at) => paid[at]));
  if (due.length === 0 || due.some((month, at) => months.has(month) !== paid[at])) return undefined;
  const level = phases.find((phase) => phase.type === 'level');
  const outside = phases.slice(0, many).some(({ type }) => type === 'interest-only');
  return {
    stretch: {
      type: 'seasonal',
      count: String(count),
      months: typedMonths(months),
      payment: amountOf(level?.payment),
      outside: outside ? 'interest-paid' : 'interest-added',
    },
    phases: many,
  };
}

/** How many phases, from the first on, are level ones of one payment and, between them, ones of one kind without. */
function alternating(phases: readonly PhaseDocument[]): number {
  const plain = phases.map((phase): string | undefined => {
    if (phase.type === 'level') {
      const { amortizeOver, balloon, count, payment } = phase;
      return amortizeOver === undefined && balloon === undefined && count !== '?'
        ? `level ${payment ?? ''}`
        : undefined;
    }
    if (phase.type === 'interest-only') return 'outside interest';
    const { interest = 'added-each-period' } = phase.type === 'no-payment' ? phase : {};
    return phase.type === 'no-payment' && interest === 'added-each-period' ? 'outside' : undefined;
  });
  let many = 0;
  while (
    plain[many] !== undefined &&
    (many < 2 ? plain[0] !== plain[1] : plain[many] === plain[many - 2]) &&
    (many < 1 || plain[many]?.startsWith('level') !== plain[many - 1]?.startsWith('level'))
  )
    many += 1;
  // Without a payment that is the same in each, several level phases are levelled one by one.
  return plain.slice(0, many).includes('level ') ? 0 : many;
}

function countOf(phase: PhaseDocument): number {
  return 'count' in phase ? Number(phase.count) : 0;
}
