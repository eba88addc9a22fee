import type { Decimal } from 'decimal.js';
import { formatAmount } from '../../money/amount-text.ts';
import { ratioFromDecimal, type Ratio } from '../../money/ratio.ts';
import { decimalOf, Precise } from '../../money/precise.ts';
import { roundedDecimal } from '../../money/rounded-decimal.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import { checkLoanTerms } from './check-loan-terms.ts';
import { balanceLeft, broughtInOf, leftInDoubles } from './contract-balance.ts';
import { agreedRates, growthOfParts } from './contract-growth.ts';
import { contractSteps, type ContractStep } from './contract-steps.ts';
import type { LoanTerms } from './loan-terms.ts';
import { solveSamePayment, type SamePayment } from './solve-same-payment.ts';

/** The highest rate that is looked for, as a fraction. */
const highestRate = 10;

/**
 * What of a loan's terms may be unknown and solved from the rest: a payment or count is that of a level phase, and
 * one payment may be that of several phases.
 */
export type LoanUnknown = 'amount' | 'annual' | 'payment' | 'count' | SamePayment;

/**
 * The terms with their unknown solved. A level payment and a count are solved while scheduling, from the balance then;
 * the terms only remember that they were asked for. Throws {@link TermsFault} for what cannot be reached.
 *
 * @example
 * formatPercent(solveUnknown(thousand([level(12, 12, 8_885)]), 'annual').annualRate).slice(0, 6) // '12.002'
 */
export function solveUnknown(terms: LoanTerms, unknown: LoanUnknown): LoanTerms {
  checkLoanTerms({ ...terms, amount: Math.max(1, terms.amount) });
  if (unknown === 'amount') return solveAmount(terms);
  if (unknown === 'annual') return solveAnnualRate(terms);
  if (typeof unknown === 'object') return solveSamePayment(terms, unknown);
  return { ...terms, solved: { unknown, value: '' } };
}

/** The terms with their amount solved from rate and payments, rounded to the minor unit. Throws {@link TermsFault}. */
function solveAmount(terms: LoanTerms): LoanTerms {
  const steps = contractSteps(terms, 'amount');
  const growths = growthOfParts(terms, agreedRates(terms));
  // The balance at the end is a·amount + b; the amount that makes it zero is −b/a.
  const constant = balanceLeft(steps, new Precise(0), growths, broughtInOf(terms));
  const slope = balanceLeft(steps, new Precise(1), growths, broughtInOf(terms)).minus(constant);
  const exact = constant.neg().div(slope);
  const amount = roundedDecimal(exact, terms.rounding.ties).toNumber();
  if (amount <= 0 || !Number.isSafeInteger(amount)) {
    throw new TermsFault('amount', 'These payments do not repay any amount at this rate; raise them.');
  }
  const value = exact
    .div(10 ** terms.digits)
    .toSignificantDigits(30)
    .toFixed();
  return { ...terms, amount, solved: { unknown: 'amount', value } };
}

/**
 * The terms with their annual rate solved from amount and payments, to 30 digits: the rate at which the payments
 * leave nothing, with what they would leave. Throws {@link TermsFault} where none from 0 to 1000 % does, with what would.
 */
function solveAnnualRate(terms: LoanTerms): LoanTerms {
  const rates = agreedRates(terms);
  if (rates[0]?.because !== 'agreed') {
    throw new TermsFault(
      'rate.annual',
      'The rate is set from the start by its index or a step, so this one is never in force; leave it out.',
    );
  }
  const steps = contractSteps(terms, 'rate.annual');
  const left = (rate: Decimal): Decimal =>
    balanceLeft(steps, new Precise(terms.amount), growthOfParts(terms, rates, rate), broughtInOf(terms));
  const atZero = left(new Precise(0));
  if (left(new Precise(highestRate)).eq(atZero)) {
    throw new TermsFault(
      'rate.annual',
      'While this rate is in force only its interest is paid, so any rate would do; give the rate.',
    );
  }
  if (atZero.gt(0)) throw tooLittle(terms, steps, atZero.toNumber());
  if (left(new Precise(highestRate)).lt(0)) {
    throw new TermsFault('rate.annual', 'Even at 1000% these payments repay more than is owed; lower them.');
  }
  const rate = root(left, leftInDoubles(terms, rates, steps));
  const value = rate.times(100).toSignificantDigits(30).toFixed();
  const percent = ratioFromDecimal(value);
  const annualRate: Ratio = { num: percent.num, den: percent.den * 100n };
  const residual = left(decimalOf(annualRate))
    .div(10 ** terms.digits)
    .toSignificantDigits(4)
    .toString();
  return { ...terms, annualRate, solved: { unknown: 'annual', value: `${value}%`, residual } };
}

function tooLittle(terms: LoanTerms, steps: readonly ContractStep[], missing: number): TermsFault {
  const money = (minor: number): string => formatAmount(Math.ceil(minor), terms.digits);
  const paying = steps.filter(({ does }) => does === 'pays' || does === 'repays').length;
  return new TermsFault(
    'rate.annual',
    `The payments sum to ${money(missing)} less than the amount, so no rate from 0% up is reached; ` +
      `with ${money(missing / paying)} more in each they repay it at 0%.`,
  );
}

/**
 * The zero of a rising function between 0 and the highest rate: halving in doubles to a good start, then by secants in
 * decimals.
 *
 * @param estimate the same function in doubles
 */
function root(left: (rate: Decimal) => Decimal, estimate: (rate: number) => number): Decimal {
  let low = 0;
  let high = highestRate;
  for (let step = 0; step < 60; step += 1) {
    const middle = (low + high) / 2;
    if (estimate(middle) > 0) high = middle;
    else low = middle;
  }
  const near = new Precise(low);
  let [a, b] = [near.times('0.999999999').minus('1e-12'), near.times('1.000000001').plus('1e-12')];
  let [atA, atB] = [left(a), left(b)];
  for (let step = 0; step < 40 && !atB.isZero() && !atB.eq(atA); step += 1) {
    const next = b.minus(atB.times(b.minus(a)).div(atB.minus(atA)));
    [a, atA] = [b, atB];
    b = next;
    atB = left(b);
    if (b.minus(a).abs().lt('1e-45')) break;
  }
  return b;
}
