import type { FundTerms } from '@coffer/core';
import type { AmountReader } from '../../document/amount-reader.ts';
import type { FundDocument } from './fund-document.ts';
import { dayOf, rateOf } from '../../document/rate-terms-of.ts';

/** The terms of a validated fund document. What does not fit together is told to the reader. */
export function fundTermsOf(document: FundDocument, read: AmountReader): FundTerms {
  const { rate, rounding, opening } = document;
  const goal = known(document.goal);
  const first = document.first ?? document.deposits?.[0]?.on;
  if (first === undefined) read.fault('first', 'This key is missing; give the day of the first deposit.');
  return {
    kind: 'fund',
    currency: document.currency,
    digits: read.digits,
    annualRate: rateOf(rate.annual),
    compounding: rate.compounding ?? 'each-payment',
    dayCount: rate.dayCount ?? 'even-periods',
    every: document.every,
    first: dayOf(first ?? '2000-01-01'),
    keepMonthEnd: document.monthEnd ?? false,
    deposits: depositsOf(document, read),
    rounding: {
      interest: rounding?.interest ?? 'cent',
      deposit: rounding?.deposit ?? 'cent',
      ties: rounding?.ties ?? 'away-from-zero',
    },
    ...(goal !== undefined && { goal: read.positive('goal', goal) }),
    ...(opening && {
      opening: { on: dayOf(opening.on), amount: read.amount('opening.amount', opening.amount) },
    }),
    ...(document.for !== undefined && { repays: document.for }),
    ...(document.events && { made: madeOf(document.events, read) }),
  };
}

/** Deposits as they were made, each due once. */
function madeOf(
  events: NonNullable<FundDocument['events']>,
  read: AmountReader,
): NonNullable<FundTerms['made']> {
  return events.map(({ due, on, amount }, at) => {
    if (events.findIndex((each) => each.due === due) < at) {
      read.fault(`events.${at}.due`, `The deposit due ${due} is recorded twice; add the two up.`);
    }
    return { due: dayOf(due), on: dayOf(on), amount: read.amount(`events.${at}.amount`, amount) };
  });
}

function depositsOf(document: FundDocument, read: AmountReader): FundTerms['deposits'] {
  const { deposits } = document;
  const [amount, count] = [known(document.deposit), known(document.count)];
  if (deposits) {
    for (const key of ['deposit', 'count'] as const) {
      if (document[key] !== undefined) {
        read.fault(key, 'Listed deposits have their own amounts and days; leave this out.');
      }
    }
    if (document.first !== undefined && document.first !== deposits[0]?.on) {
      read.fault('first', 'The first listed deposit is on another day; leave this out.');
    }
    return {
      type: 'listed',
      list: deposits.map(({ on, amount: text }, at) => ({
        on: dayOf(on),
        amount: read.amount(`deposits.${at}.amount`, text),
      })),
    };
  }
  return {
    type: 'level',
    ...(amount !== undefined && { amount: read.positive('deposit', amount) }),
    ...(count !== undefined && { count }),
  };
}

/** What is stated, where it is not left to be worked out. */
function known<Stated extends string | number>(
  stated: Stated | '?' | undefined,
): Exclude<Stated, '?'> | undefined {
  return stated === '?' ? undefined : (stated as Exclude<Stated, '?'> | undefined);
}
