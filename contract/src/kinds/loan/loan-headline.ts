import { costAmortization, firstDay, formatDay, minorOf, principalOf, type LoanSchedule } from '@coffer/core';
import type { Fact } from '../../words/fact.ts';
import { showAmount, showRate } from '../../words/show.ts';

/** What was asked for when a loan was composed: what was left open, what costs make of it, what a renewal asks. */
export function loanHeadline(schedule: LoanSchedule): Fact[] {
  return [...workedOut(schedule), ...withCosts(schedule), ...renewed(schedule)];
}

function workedOut({ terms }: LoanSchedule): Fact[] {
  const { solved, digits } = terms;
  if (solved?.unknown === 'annual')
    return [['Annual rate, worked out', percent(Number(solved.value.replace('%', '')))]];
  if (solved?.unknown === 'amount') return [['Amount, worked out', showAmount(terms.amount, digits)]];
  return [];
}

/** Net proceeds and the effective rate, where costs are taken from what is lent. */
function withCosts(schedule: LoanSchedule): Fact[] {
  const { issueCosts, digits } = schedule.terms;
  if (!issueCosts) return [];
  const proceeds = principalOf(schedule.terms) - issueCosts.amount;
  const [first] = costAmortization(schedule).effectiveRates;
  const rate = first && `${first.overAgreed ? '+' : ''}${percent(100 * Number(first.rate))}`;
  const name = first?.overAgreed ? 'Costs add, a year' : 'Effective rate';
  return [
    ['Net proceeds', showAmount(proceeds, digits)],
    ...(rate === undefined ? [] : [[name, rate] as const]),
  ];
}

/** The payment from each renewal on. */
function renewed(schedule: LoanSchedule): Fact[] {
  const { terms, stretches, settings } = schedule;
  const renewals = terms.events.filter(({ type }) => type === 'renewal').length;
  const from = stretches.length - renewals;
  return stretches.slice(from).flatMap((stretch, at): Fact[] => {
    const set = settings.find((setting) => setting.stretch === from + at);
    if (!set || set.amount <= 0n) return [];
    const on = formatDay(stretch.dues[0] ?? firstDay(schedule));
    return [[`Payment from ${on}`, showAmount(minorOf(terms, set.amount), terms.digits)]];
  });
}

const percent = (rate: number): string => showRate(`${rate.toFixed(3)}%`);
