import {
  formatDay,
  formatPercent,
  lastDay,
  phaseCount,
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
      class: document.kind === 'bond' ? (document.class ?? 'bond') : 'bond',
      pattern: `coupon ${formatPercent(schedule.terms.couponRate)} ${frequencyInWords(schedule.terms.every)}`,
      rate: `${rate}% eff.`,
      matures,
      borrowed: schedule.terms.face,
    };
  }
  const { terms } = schedule;
  if (document.kind === 'credit-line') {
    return {
      class: 'credit-line',
      pattern: 'credit line, billed monthly',
      rate: rateWords(schedule),
      matures: document.matures ?? 'open',
      borrowed: terms.creditLine?.limit ?? 0,
    };
  }
  const phases = terms.phases.map((phase) => phaseWords[phase.type]).join(', then ');
  const once = terms.phases.length === 1 && phaseCount(terms.phases[0] as Phase) === 1;
  return {
    class: document.kind === 'loan' ? (document.class ?? 'term-loan') : 'term-loan',
    pattern: once ? 'all at maturity' : `${phases}, ${frequencyInWords(terms.every)}`,
    rate: rateWords(schedule),
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

/** The rate at the start, marked where it follows an index or has steps. */
function rateWords({ terms, rates }: LoanSchedule): string {
  const first = formatPercent(rates[0]?.annualRate ?? terms.annualRate);
  if (terms.index) return `${terms.index.name} + ${formatPercent(terms.index.margin)}`;
  return terms.rateSteps.length > 0 ? `${first}, stepped` : first;
}
