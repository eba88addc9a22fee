import { formatDay, formatPercent, lastDay, type Schedule } from '@coffer/core';
import type { InstrumentClass } from '../api/views.ts';
import type { InstrumentDocument } from './instrument-document.ts';

const everyWords: Readonly<Record<string, string>> = {
  week: 'weekly',
  'two-weeks': 'every two weeks',
  'half-month': 'twice a month',
  month: 'monthly',
  'two-months': 'every two months',
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
  readonly matures: string;
  /** Minor units. */
  readonly borrowed: number;
}

/** What the register says of an instrument beside its figures. */
export function describeInstrument(document: InstrumentDocument, schedule: Schedule): InstrumentSummary {
  const matures = formatDay(lastDay(schedule));
  if (schedule.kind === 'bond') {
    const rate = schedule.effectiveRate.times(100).toFixed(2);
    return {
      class: document.class ?? 'bond',
      pattern: `coupon ${formatPercent(schedule.terms.couponRate)} ${frequencyInWords(schedule.terms.every)}`,
      rate: `${rate}% eff.`,
      matures,
      borrowed: schedule.terms.face,
    };
  }
  const { terms } = schedule;
  const words = { level: 'level', fixed: 'fixed payment', 'interest-only': 'interest only' };
  const phases = terms.phases.map((phase) => words[phase.type]).join(', then ');
  const once = terms.phases.length === 1 && terms.phases[0]?.count === 1;
  return {
    class: document.class ?? 'term-loan',
    pattern: once ? 'all at maturity' : `${phases}, ${frequencyInWords(terms.every)}`,
    rate: formatPercent(terms.annualRate),
    matures,
    borrowed: terms.amount,
  };
}
