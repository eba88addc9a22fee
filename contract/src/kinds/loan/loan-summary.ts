import {
  formatDay,
  lastDay,
  phaseCount,
  type CalendarDay,
  type LoanSchedule,
  type Phase,
} from '@coffer/core';
import { frequencyInWords } from '../../words/frequency.ts';
import type { InstrumentSummary } from '../document-kind.ts';
import type { LoanDocument } from './loan-document.ts';
import { indexWords, rateWords } from './rate-words.ts';

const phaseWords: Readonly<Record<Phase['type'], string>> = {
  level: 'level',
  fixed: 'fixed payment',
  'equal-principal': 'equal principal',
  'interest-only': 'interest only',
  'no-payment': 'nothing paid',
  custom: 'listed payments',
};

/** A loan in a line of the register. */
export function loanSummary(
  document: LoanDocument,
  schedule: LoanSchedule,
  on: CalendarDay,
): InstrumentSummary {
  const { terms } = schedule;
  const phases = terms.phases.map((phase) => phaseWords[phase.type]).join(', then ');
  const once = terms.phases.length === 1 && phaseCount(terms.phases[0] as Phase) === 1;
  return {
    class: document.class ?? 'term-loan',
    pattern: (once ? 'all at maturity' : `${phases}, ${frequencyInWords(terms.every)}`) + indexWords(terms),
    ...rateWords(schedule, on),
    matures: formatDay(lastDay(schedule)),
    borrowed: terms.amount,
  };
}
