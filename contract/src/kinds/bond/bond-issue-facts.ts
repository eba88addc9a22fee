import { type BondSchedule, discountAtIssue, type MinorUnits } from '@coffer/core';
import { showAmount, showRate } from '../../words/show.ts';
import type { Fact } from '../../words/fact.ts';

/** What a bond's issue came to: proceeds, discount or premium, rates. */
export function bondIssueFacts(schedule: BondSchedule): Fact[] {
  const { terms, rates, proceeds, accruedReceived } = schedule;
  const money = (minor: MinorUnits): string => showAmount(minor, terms.digits);
  const percent = (rate: typeof rates.effective): string =>
    showRate(`${rate.times(100).toDecimalPlaces(8).toFixed()}%`);
  const discount = discountAtIssue(schedule);
  return [
    ['Price worked with', `${showRate(rates.price.times(100).toDecimalPlaces(8).toFixed())} percent of face`],
    ['Proceeds', money(proceeds)],
    ...(accruedReceived === 0 ? [] : [['Of it accrued coupon', money(accruedReceived)] as const]),
    [discount < 0 ? 'Premium at issue' : 'Discount at issue', money(Math.abs(discount))],
    ...(rates.ofPrice.eq(rates.effective) ? [] : [['Yield of the price', percent(rates.ofPrice)] as const]),
    ['Effective rate', percent(rates.effective)],
  ];
}
