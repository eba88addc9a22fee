import { formatAmount } from '../money/amount-text.ts';
import { TermsFault } from '../terms-fault.ts';
import { checkFundTerms } from './check-fund-terms.ts';
import { fundInterest } from './fund-interest.ts';
import { depositDays, fundPeriod, fundYears, mostDeposits } from './fund-periods.ts';
import type { FundNotice, FundRow, FundSchedule } from './fund-schedule.ts';
import type { FundTerms } from './fund-terms.ts';
import { levelDeposit, roundedDeposit } from './level-deposit.ts';

/**
 * The schedule of a sinking fund: a pure function of its terms. A level deposit left open is solved and rounded once,
 * and the last one takes the difference; a count left open ends with the first deposit that reaches the goal, cut so
 * that the fund ends exactly on it. Throws {@link TermsFault} for terms that cannot be, or a goal never reached.
 */
export function buildFundSchedule(terms: FundTerms): FundSchedule {
  checkFundTerms(terms);
  const { goal, deposits } = terms;
  const exact =
    deposits.type === 'level' && deposits.amount === undefined && goal !== undefined
      ? levelDeposit(terms, goal, deposits.count ?? 1)
      : undefined;
  const level = exact
    ? roundedDeposit(terms, exact)
    : deposits.type === 'level'
      ? deposits.amount
      : undefined;
  const rows = walk(terms, level, exact !== undefined);
  const schedule = { kind: 'fund', terms, rows, deposit: level ?? null } as const;
  const end = rows.at(-1) as FundRow;
  const held = end.closing;
  if (goal !== undefined && held < goal && deposits.type === 'level' && deposits.count === undefined) {
    throw neverReached(terms, goal, held);
  }
  const reached = goal === undefined || held >= goal ? end.due : undefined;
  const planned = depositDays(terms).length;
  const notices: FundNotice[] = [];
  if (goal !== undefined && held < goal) notices.push({ kind: 'short', on: end.due, amount: goal - held });
  if (goal !== undefined && held > goal) {
    notices.push({ kind: 'passed-by-interest', on: end.due, amount: held - goal });
  }
  const counted = deposits.type === 'listed' || deposits.count !== undefined;
  if (counted && rows.length < planned) {
    notices.push({ kind: 'reached-early', on: end.due, deposits: planned - rows.length });
  }
  const solved = solvedOf(terms, rows.length, held, exact?.div(10 ** terms.digits).toSignificantDigits(30));
  return { ...schedule, reached, notices, ...(solved && { solved }) };
}

function walk(terms: FundTerms, level: number | undefined, solved: boolean): FundRow[] {
  const { goal, deposits, opening } = terms;
  const days = depositDays(terms);
  const rows: FundRow[] = [];
  let balance = opening?.amount ?? 0;
  let paidIn = balance;
  for (let at = 0; at < days.length; at += 1) {
    const due = days[at] as number;
    const period = fundPeriod(terms, days, at);
    const earning = terms.compounding === 'simple' ? paidIn : balance;
    const interest = fundInterest(terms, earning, fundYears(terms, period, due));
    const planned = deposits.type === 'listed' ? (deposits.list[at]?.amount ?? 0) : (level ?? 0);
    const missing = goal === undefined ? undefined : Math.max(0, goal - balance - interest);
    // A deposit that was solved lands on the goal with the last one, which takes what rounding left.
    const lands = missing !== undefined && (missing <= planned || (solved && at === days.length - 1));
    const deposit = lands ? missing : planned;
    const closing = balance + interest + deposit;
    if (!Number.isSafeInteger(closing)) {
      throw new TermsFault('rate.annual', 'The fund grows beyond what can be kept exactly.');
    }
    rows.push({ n: at + 1, due, opening: balance, interest, deposit, closing, earning, period });
    balance = closing;
    paidIn += deposit;
    if (lands) break;
  }
  return rows;
}

function solvedOf(
  { goal, deposits, digits }: FundTerms,
  count: number,
  held: number,
  deposit: { toFixed(): string } | undefined,
): FundSchedule['solved'] {
  if (deposit) return { unknown: 'deposit', value: deposit.toFixed() };
  if (goal === undefined) return { unknown: 'goal', value: formatAmount(held, digits) };
  if (deposits.type === 'level' && deposits.count === undefined) {
    return { unknown: 'count', value: String(count) };
  }
  return undefined;
}

function neverReached(terms: FundTerms, goal: number, held: number): TermsFault {
  const money = (minor: number): string => formatAmount(minor, terms.digits);
  const least = roundedDeposit(
    { ...terms, rounding: { ...terms.rounding, deposit: 'cent-up' } },
    levelDeposit(terms, goal, mostDeposits),
  );
  return new TermsFault(
    'deposit',
    `After ${mostDeposits} deposits the fund would hold ${money(held)}, not the goal of ${money(goal)}; ` +
      `the least deposit that reaches it by then is ${money(least)}.`,
  );
}
