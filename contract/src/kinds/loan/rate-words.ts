import { formatPercent, rateAt, type CalendarDay, type LoanSchedule } from '@coffer/core';
import type { InstrumentSummary } from '../document-kind.ts';

/** The rate on a day, and whether it is one for good. */
export function rateWords(
  { terms, rates }: LoanSchedule,
  on: CalendarDay,
): Pick<InstrumentSummary, 'rate' | 'rateNote'> {
  const rate = formatPercent(rates[rateAt(rates, on)]?.annualRate ?? terms.annualRate);
  return { rate, rateNote: terms.index ? 'floating' : rates.length > 1 ? 'changes' : null };
}

/** What a floating rate follows, such as `, base rate + 1.85%`. */
export function indexWords({ index }: LoanSchedule['terms']): string {
  if (!index) return '';
  const margin = formatPercent(index.margin);
  return `, ${index.name} ${margin.startsWith('-') ? margin : `+ ${margin}`}`;
}
