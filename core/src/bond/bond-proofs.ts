import { ratio } from '../money/ratio.ts';
import { exactProof, type Proof } from '../proofs/proof.ts';
import { bondStep, roundForBond, type BondSchedule } from './bond-schedule.ts';

/**
 * The proofs of a bond's schedule. The difference left to the last row is shown whatever its size; it holds
 * when rounding each row (and the stated price) explains it.
 */
export function bondProofs(schedule: BondSchedule): Proof[] {
  const { rows, terms, proceeds } = schedule;
  const total = (of: (row: (typeof rows)[number]) => number): number =>
    rows.reduce((sum, row) => sum + of(row), 0);
  const last = rows[rows.length - 1] as (typeof rows)[number];
  const opening = (at: number): number => rows[at - 1]?.closing ?? proceeds;
  const chain = rows.reduce((sum, row, at) => sum + Math.abs(row.opening - opening(at)), 0);
  const sums = rows.reduce((sum, row) => sum + Math.abs(row.unamortized + row.closing - terms.face), 0);
  const parts = rows.reduce((sum, row) => sum + Math.abs(row.expense - row.coupon - row.amortization), 0);
  const left = last.expense - roundForBond(terms, last.exactExpense);
  return [
    exactProof('The last row lands on face', last.closing - terms.face),
    exactProof('Unamortized discount or premium plus carrying amount is the face in every row', sums),
    exactProof('Interest expense is coupon plus amortization in every row', parts),
    exactProof('Each row opens where the one before it closed', chain),
    exactProof(
      'Total expense is total coupons plus the discount, or less the premium',
      total((row) => row.expense) - total((row) => row.coupon) - (terms.face - proceeds),
    ),
    {
      name: 'The difference left to the last row is no more than rounding explains',
      holds: Math.abs(left) <= explainedByRounding(schedule),
      difference: left,
    },
  ];
}

/** Half a unit a row, and half the last decimal of a stated price, grown to maturity; rounded up. */
function explainedByRounding({ terms, periods, effectiveRate }: BondSchedule): number {
  const perPeriod = 1 + Math.max(0, effectiveRate.toNumber() / (terms.every === 'year' ? 1 : 2));
  const count = periods.length;
  const statedTwice = terms.price && terms.effectiveRate === 'yield';
  const priceUnit = ratio(BigInt(terms.face), 2n * 10n ** BigInt(2 + (terms.price?.decimals ?? 0)));
  const ofPrice = statedTwice ? Number(priceUnit.num) / Number(priceUnit.den) : 0;
  let grown = ofPrice + 0.5 * bondStep(terms);
  for (let period = 0; period < count; period += 1) grown = grown * perPeriod + bondStep(terms);
  return Math.ceil(grown);
}
