import { grainsOf, interestStep, minorOf, toMinor } from '../../money/rounding.ts';
import { formatDay } from '../../calendar/calendar-day.ts';
import { exactProof, type Proof } from '../../proofs/proof.ts';
import { lastCouponRow, type BondRow, type BondSchedule } from './bond-schedule.ts';
import { couponsPerYear } from '../terms/coupon-periods.ts';

/** A row's figures as they are proven: as shown where amounts are rounded, in grains where nothing is. */
type Figures = BondRow['exact'];

/**
 * The proofs of a bond's schedule. The difference left to the last row is shown whatever its size; it holds when
 * rounding each row (and the stated price) explains it.
 */
export function bondProofs(schedule: BondSchedule): Proof[] {
  const { rows, terms } = schedule;
  const grains = grainsOf(terms);
  const shown = (row: BondRow): Figures => (grains === 1n ? inGrains(row) : row.exact);
  const figures = rows.map(shown);
  const minor = (amount: bigint): number => minorOf(terms, amount);
  const off = (difference: (row: Figures, at: number) => bigint): number => {
    const sum = figures.reduce((total, row, at) => total + absolute(difference(row, at)), 0n);
    return sum === 0n ? 0 : Math.max(1, minor(sum));
  };
  const total = (of: keyof Figures): bigint => figures.reduce((sum, row) => sum + row[of], 0n);
  const last = rows.at(-1) as BondRow;
  const issue = figures[0] as Figures;
  // What redemptions take out of the books unamortized is gain or loss, not expense.
  const writtenOff = figures.reduce(
    (sum, row, at) => sum + ((figures[at - 1]?.faceAfter ?? issue.faceAfter) - row.faceAfter - row.retired),
    0n,
  );
  return [
    exactProof(
      last.faceAfter === 0
        ? `All is redeemed by ${formatDay(last.due)} and nothing is left`
        : 'The last row lands on the face due at maturity',
      last.closing - last.faceAfter,
    ),
    exactProof(
      'Unamortized discount, premium and costs plus carrying amount are the face outstanding in every row',
      off((row) => row.unamortized + row.closing - row.faceAfter),
    ),
    exactProof(
      'Interest expense is coupon, less what was received for it at issue, plus amortization in every row',
      off((row) => row.expense - row.coupon + row.received - row.amortization),
    ),
    exactProof(
      'Each row opens where the one before it closed',
      off((row, at) => row.opening - (figures[at - 1]?.closing ?? issue.opening)),
    ),
    exactProof(
      'Opening plus amortization less what is retired is closing in every row',
      off((row) => row.opening + row.amortization - row.retired - row.closing),
    ),
    exactProof(
      'Total expense is total coupons plus the discount (or less the premium) and costs, less what redemptions write off',
      minor(total('expense') - total('coupon') + total('received') - issue.unamortized + writtenOff),
    ),
    ...redemptionProof(schedule),
    leftToTheLastRow(schedule),
  ];
}

function redemptionProof({ rows }: BondSchedule): Proof[] {
  const redeemed = rows.filter(({ kind }) => kind === 'redemption');
  if (redeemed.length === 0) return [];
  const off = redeemed.reduce((sum, row) => sum + Math.abs(row.retired - row.paid - row.gain), 0);
  return [
    exactProof('In each redemption the carrying amount retired is the price paid and the gain or loss', off),
  ];
}

function leftToTheLastRow(schedule: BondSchedule): Proof {
  const row = lastCouponRow(schedule);
  const left = row ? row.expense - toMinor(schedule.terms, row.exactExpense) : 0;
  return {
    name: 'Rounding explains the difference left to the last row',
    holds: Math.abs(left) <= explainedByRounding(schedule),
    difference: left,
  };
}

/**
 * Half a unit a row, and where price and yield are both stated half the last decimal of each, grown to maturity;
 * rounded up. What a yield moves the price by is at most the price × the years to run.
 */
function explainedByRounding({ terms, periods, rates, proceeds }: BondSchedule): number {
  const perYear = couponsPerYear(terms);
  let grown = 0.5 * interestStep(terms);
  if (terms.price && terms.effectiveRate === 'yield') {
    const yearsToRun = (terms.matures - terms.issued) / 365;
    grown += terms.face / (2 * 10 ** (2 + terms.price.decimals));
    grown += (Math.max(terms.face, proceeds) * yearsToRun) / (2 * 10 ** (2 + (terms.yieldDecimals ?? 12)));
  }
  for (const { years } of periods) {
    const growth =
      (1 + Math.max(0, rates.effective.toNumber()) / perYear) ** ((perYear * years.num) / years.den);
    grown = grown * growth + interestStep(terms);
  }
  return Math.ceil(grown + 2 * terms.redemptions.length * interestStep(terms));
}

function inGrains(row: BondRow): Figures {
  const { faceAfter, opening, coupon, received, expense, amortization, retired, unamortized, closing } = row;
  return {
    faceAfter: BigInt(faceAfter),
    opening: BigInt(opening),
    coupon: BigInt(coupon),
    received: BigInt(received),
    expense: BigInt(expense),
    amortization: BigInt(amortization),
    retired: BigInt(retired),
    unamortized: BigInt(unamortized),
    closing: BigInt(closing),
  };
}

function absolute(amount: bigint): bigint {
  return amount < 0n ? -amount : amount;
}
