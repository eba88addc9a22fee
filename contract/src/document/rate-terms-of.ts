import {
  formatDay,
  parseDay,
  ratio,
  ratioFromDecimal,
  type LoanTerms,
  type Ratio,
  type RateIndex,
} from '@coffer/core';
import type { AmountReader } from './amount-reader.ts';
import type { RateDocument } from './rate-document.ts';

/** A rate such as `6.10%` as a fraction. The text has passed validation. */
export function rateOf(text: string): Ratio {
  const percent = ratioFromDecimal(text.slice(0, -1));
  return ratio(percent.num, percent.den * 100n);
}

/** A date that has passed validation. */
export function dayOf(text: string): number {
  return parseDay(text) as number;
}

type RateTerms = Pick<LoanTerms, 'annualRate' | 'compounding' | 'dayCount' | 'rateSteps' | 'index'>;

/** The rate of a validated document. What does not fit together is told to the reader. */
export function rateTermsOf(rate: RateDocument, start: number, read: AmountReader): RateTerms {
  const steps = rate.steps ?? [];
  const fromDays = new Set<string>();
  steps.forEach(({ from }, at) => {
    const key = `rate.steps.${at}.from`;
    if (dayOf(from) < start) read.fault(key, `This is before the start, ${formatDay(start)}.`);
    if (fromDays.has(from)) read.fault(key, `Two steps begin on ${from}; leave one.`);
    fromDays.add(from);
  });
  const index = rate.index && indexOf(rate.index, read);
  if (rate.annual === undefined && !index?.fixings.some(({ on }) => on <= start)) {
    const message = index
      ? `${index.name} has no fixing on or before the start, ${formatDay(start)}; give one, or the rate until the first.`
      : 'This key is missing; give the annual rate such as "6.10%", or an index.';
    read.fault('rate.annual', message);
  }
  return {
    annualRate: rate.annual === undefined || rate.annual === '?' ? ratio(0n) : rateOf(rate.annual),
    compounding: rate.compounding ?? 'each-payment',
    dayCount: rate.dayCount ?? 'even-periods',
    rateSteps: steps.map(({ from, annual, payment }) => ({
      from: dayOf(from),
      annualRate: rateOf(annual),
      payment: payment ?? 're-level',
    })),
    ...(index && { index }),
  };
}

function indexOf(index: NonNullable<RateDocument['index']>, read: AmountReader): RateIndex {
  const { floor, cap } = index;
  if (floor !== undefined && cap !== undefined && Number.parseFloat(floor) > Number.parseFloat(cap)) {
    read.fault('rate.index.cap', `The cap, ${cap}, is below the floor, ${floor}.`);
  }
  const days = new Set<string>();
  index.fixings.forEach(({ on }, at) => {
    if (days.has(on))
      read.fault(`rate.index.fixings.${at}.on`, `Two fixings are given for ${on}; leave one.`);
    days.add(on);
  });
  return {
    name: index.name,
    margin: rateOf(index.margin ?? '0%'),
    payment: index.payment ?? 're-level',
    fixings: index.fixings
      .map(({ on, rate }) => ({ on: dayOf(on), rate: rateOf(rate) }))
      .sort((a, b) => a.on - b.on),
    ...(floor !== undefined && { floor: rateOf(floor) }),
    ...(cap !== undefined && { cap: rateOf(cap) }),
    ...(index.resetEvery && { resetEvery: index.resetEvery }),
  };
}
