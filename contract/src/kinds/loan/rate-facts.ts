import { dayCounts } from '@coffer/core';
import { compoundedInWords, statedAmount, type Fact } from '../../words/fact.ts';
import { showDay, showRate } from '../../words/show.ts';
import { eventText } from '../../words/event-text.ts';
import type { CreditLineDocument } from '../credit-line/credit-line-document.ts';
import type { LoanDocument } from './loan-document.ts';

/** The rate of a loan or a line: annual rate, index, compounding and days. */
export function rateFacts({ rate }: LoanDocument | CreditLineDocument): Fact[] {
  const { index } = rate;
  const bounds = [
    index?.floor && `floor ${showRate(index.floor)}`,
    index?.cap && `cap ${showRate(index.cap)}`,
  ].filter(Boolean);
  return [
    ...(rate.annual === undefined
      ? []
      : [['Annual rate', rate.annual === '?' ? 'worked out' : showRate(rate.annual)] as const]),
    ...(index
      ? [['Index', [`${index.name} + ${showRate(index.margin ?? '0%')}`, ...bounds].join(', ')] as const]
      : []),
    ['Compounded', compoundedInWords(rate.compounding ?? 'each-payment')],
    ['Days', dayCounts[rate.dayCount ?? 'even-periods'].title],
  ];
}

const moved: Readonly<Record<string, string>> = {
  following: 'to the next business day',
  'modified-following': 'to the next business day within the month',
  preceding: 'to the business day before',
};

/** How payments move off closed days. */
export function movingFacts(moving: LoanDocument['payments']['businessDays']): Fact[] {
  if (!moving) return [];
  const interest = moving.accrual === 'moved' ? '; interest moves too' : '';
  const besides = moving.closed?.length ?? 0;
  const more = besides === 0 ? '' : ` and ${besides} ${besides === 1 ? 'day' : 'days'} besides`;
  return [['Closed days', `${moved[moving.rule] ?? moving.rule}, ${moving.calendar}${more}${interest}`]];
}

/** Costs, and how interest is rounded. */
export function costFacts({ issueCosts, rounding }: LoanDocument | CreditLineDocument): Fact[] {
  const to: Readonly<Record<string, string>> = { unit: 'to the whole unit', none: 'not at all' };
  const method = issueCosts?.method === 'straight-line' ? 'in equal parts' : 'in the effective rate';
  return [
    ...(issueCosts ? [['Costs', `${statedAmount(issueCosts.amount)}, amortized ${method}`] as const] : []),
    ['Interest rounded', to[rounding?.interest ?? ''] ?? 'to the cent'],
  ];
}

/** The dated events of a loan or a line in words, in order of date: steps and fixings of a rate among them. */
export function rateAndEventFacts(document: LoanDocument | CreditLineDocument): Fact[] {
  const { steps, index } = document.rate;
  const events = (document.events ?? []).map((event) => {
    const each = event.type === 'extra-principal' && event.every !== undefined;
    const day = (each ? event.from : event.on) ?? document.start;
    return { day, when: each ? 'each payment' : showDay(day), what: eventText(event) };
  });
  const rates = [
    ...(steps ?? []).map(({ from, annual }) => ({ day: from, what: `the rate becomes ${showRate(annual)}` })),
    ...(index?.fixings ?? []).map(({ on, rate }) => ({
      day: on,
      what: `${index?.name} is fixed at ${showRate(rate)}`,
    })),
  ].map((rate) => ({ ...rate, when: showDay(rate.day) }));
  return [...events, ...rates]
    .sort((a, b) => a.day.localeCompare(b.day))
    .map(({ when, what }) => [when, what]);
}
