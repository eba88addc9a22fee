import { grainsOf, minorOf } from '../money/rounding.ts';
import type { Decimal } from 'decimal.js';
import { formatAmount } from '../money/amount-text.ts';
import { TermsFault } from '../faults/terms-fault.ts';
import { checkFundTerms } from './check-fund-terms.ts';
import { fundInterest } from './fund-interest.ts';
import { agreedDays, depositDays, fundPeriod, fundYears, mostDeposits } from './fund-periods.ts';
import type { FundNotice, FundRow, FundSchedule } from './fund-schedule.ts';
import { type FundTerms } from './fund-terms.ts';
import { paymentRounding, roundedPayment } from '../money/rounding.ts';
import { levelDeposit } from './level-deposit.ts';

/**
 * The schedule of a sinking fund: a pure function of its terms. A level deposit left open is solved and rounded once,
 * and the last one takes the difference; a count left open ends with the first deposit that reaches the goal, cut so
 * that the fund ends exactly on it. Throws {@link TermsFault} for terms that cannot be, or a goal never reached.
 */
export function buildFundSchedule(terms: FundTerms): FundSchedule {
  checkFundTerms(terms);
  const { goal, deposits } = terms;
  // What is made otherwise changes nothing of what was agreed.
  const { made: _, ...agreedTerms } = terms;
  const exact =
    deposits.type === 'level' && deposits.amount === undefined && goal !== undefined
      ? levelDeposit(agreedTerms, goal, deposits.count ?? 1)
      : undefined;
  const grains = grainsOf(terms);
  const agreed = deposits.type === 'level' ? deposits.amount : undefined;
  const level = exact
    ? depositInGrains(terms, exact)
    : agreed === undefined
      ? undefined
      : BigInt(agreed) * grains;
  const rows = walk(terms, level, exact !== undefined);
  const deposit = level === undefined ? null : minorOf(terms, level);
  const schedule = { kind: 'fund', terms, rows, deposit } as const;
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

/** A level deposit that was solved, in grains, rounded as the terms say. */
function depositInGrains(terms: FundTerms, exact: Decimal): bigint {
  const grains = grainsOf(terms);
  if (terms.rounding.deposit === 'none') return BigInt(exact.times(grains.toString()).toFixed(0));
  return BigInt(roundedPayment(paymentRounding(terms, 'deposit'), exact)) * grains;
}

/** The rows, worked out in grains. */
function walk(terms: FundTerms, level: bigint | undefined, solved: boolean): FundRow[] {
  const { deposits, opening } = terms;
  const grains = grainsOf(terms);
  const goal = terms.goal === undefined ? undefined : BigInt(terms.goal) * grains;
  const days = depositDays(terms);
  const agreed = agreedDays(terms);
  const made = new Map(terms.made?.map(({ due, amount }) => [due, BigInt(amount) * grains]));
  const rows: FundRow[] = [];
  let balance = BigInt(opening?.amount ?? 0) * grains;
  let paidIn = balance;
  for (let at = 0; at < days.length; at += 1) {
    const due = days[at] as number;
    const period = fundPeriod(terms, days, at);
    const earning = terms.compounding === 'simple' ? paidIn : balance;
    const interest = fundInterest(terms, earning, fundYears(terms, period, due));
    const listed = deposits.type === 'listed' ? BigInt(deposits.list[at]?.amount ?? 0) * grains : 0n;
    const planned = deposits.type === 'listed' ? listed : (level ?? 0n);
    const lacks = goal === undefined ? undefined : goal - balance - interest;
    const missing = lacks !== undefined && lacks < 0n ? 0n : lacks;
    const recorded = made.get(agreed[at] as number);
    // A deposit that was solved lands on the goal with the last one, which takes what rounding left.
    const reaches = missing !== undefined && missing <= (recorded ?? planned);
    const lands = reaches || (recorded === undefined && solved && at === days.length - 1);
    const deposit = recorded ?? (lands && missing !== undefined ? missing : planned);
    const closing = balance + interest + deposit;
    const minor = (amount: bigint): number => minorOf(terms, amount);
    if (!Number.isSafeInteger(minor(closing))) {
      throw new TermsFault('rate.annual', 'The fund grows beyond what can be kept exactly.');
    }
    rows.push({
      n: at + 1,
      due,
      agreed: agreed[at] as number,
      opening: minor(balance),
      interest: minor(interest),
      deposit: minor(deposit),
      closing: minor(closing),
      earning: minor(earning),
      period,
      exact: { opening: balance, interest, deposit, closing, earning },
    });
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
  const least = roundedPayment({ step: 1, how: 'upward' }, levelDeposit(terms, goal, mostDeposits));
  return new TermsFault(
    'deposit',
    `After ${mostDeposits} deposits the fund would hold ${money(held)}, not the goal of ${money(goal)}; ` +
      `the least deposit that reaches it by then is ${money(least)}.`,
  );
}
