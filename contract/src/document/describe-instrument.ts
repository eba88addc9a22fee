import {
  formatDay,
  formatPercent,
  lastDay,
  phaseCount,
  rateAt,
  type CalendarDay,
  type LoanSchedule,
  type Phase,
  type Schedule,
} from '@coffer/core';
import type { InstrumentClass } from '../api/views.ts';
import type { InstrumentDocument } from './instrument-document.ts';

const everyWords: Readonly<Record<string, string>> = {
  week: 'weekly',
  'two-weeks': 'every two weeks',
  'half-month': 'twice a month',
  month: 'monthly',
  'two-months': 'every two months',
  'four-months': 'every four months',
  quarter: 'quarterly',
  'half-year': 'half-yearly',
  year: 'yearly',
};

/** A frequency in words, such as `half-yearly`. */
export function frequencyInWords(every: string): string {
  return everyWords[every] ?? every;
}

/** An instrument in a line of the register. */
export interface InstrumentSummary {
  readonly class: InstrumentClass;
  readonly pattern: string;
  readonly rate: string;
  readonly rateNote: string | null;
  readonly matures: string | null;
  /** Minor units. */
  readonly borrowed: number;
}

/** What the register says of an instrument beside its figures. */
export function describeInstrument(
  document: InstrumentDocument,
  schedule: Schedule,
  on: CalendarDay,
): InstrumentSummary {
  const matures = formatDay(lastDay(schedule));
  if (schedule.kind === 'bond') {
    const { terms } = schedule;
    const every = frequencyInWords(terms.every);
    const serial = terms.instalments.length > 0 ? ', by instalments' : '';
    return {
      class: document.kind === 'bond' ? (document.class ?? 'bond') : 'bond',
      pattern: terms.zeroCoupon
        ? `no coupon, yield ${every}${serial}`
        : `coupon ${formatPercent(terms.couponRate)} ${every}${serial}`,
      rate: `${schedule.rates.effective.times(100).toFixed(2)}%`,
      rateNote: terms.method === 'straight-line' ? 'straight-line' : 'effective',
      matures,
      borrowed: terms.face,
    };
  }
  const { terms } = schedule;
  if (document.kind === 'credit-line') {
    return {
      class: 'credit-line',
      pattern: `credit line, billed monthly${indexWords(terms)}`,
      ...rateWords(schedule, on),
      matures: document.matures ?? null,
      borrowed: terms.creditLine?.limit ?? 0,
    };
  }
  const phases = terms.phases.map((phase) => phaseWords[phase.type]).join(', then ');
  const once = terms.phases.length === 1 && phaseCount(terms.phases[0] as Phase) === 1;
  return {
    class: document.kind === 'loan' ? (document.class ?? 'term-loan') : 'term-loan',
    pattern: (once ? 'all at maturity' : `${phases}, ${frequencyInWords(terms.every)}`) + indexWords(terms),
    ...rateWords(schedule, on),
    matures,
    borrowed: terms.amount,
  };
}

const phaseWords: Readonly<Record<Phase['type'], string>> = {
  level: 'level',
  fixed: 'fixed payment',
  'equal-principal': 'equal principal',
  'interest-only': 'interest only',
  'no-payment': 'nothing paid',
  custom: 'listed payments',
};

/** The rate on a day, and whether it is one for good. */
function rateWords(
  { terms, rates }: LoanSchedule,
  on: CalendarDay,
): Pick<InstrumentSummary, 'rate' | 'rateNote'> {
  const rate = formatPercent(rates[rateAt(rates, on)]?.annualRate ?? terms.annualRate);
  return { rate, rateNote: terms.index ? 'floating' : rates.length > 1 ? 'changes' : null };
}

/** What a floating rate follows, such as `, base rate + 1.85%`. */
function indexWords({ index }: LoanSchedule['terms']): string {
  if (!index) return '';
  const margin = formatPercent(index.margin);
  return `, ${index.name} ${margin.startsWith('-') ? margin : `+ ${margin}`}`;
}
