import { formatDay, mostSteps, parseDay, stepsToWorkOut } from '@coffer/core';
import {
  readInstrument,
  type CreditLineDocument,
  type LoanDocument,
  type LoanEventDocument,
  type ReadInstrument,
} from '@coffer/contract';

const start = parseDay('2024-01-15') as number;
const after = (days: number): string => formatDay(start + days);
const inAmount = (cents: number): string => (cents / 100).toFixed(2);

/** A level loan on actual days, changed as asked. */
export function loan(name: string, count: number, every: 'month' | 'week', more: object = {}): LoanDocument {
  return {
    document: 'coffer.instrument/1',
    kind: 'loan',
    name,
    currency: 'EUR',
    amount: '300000.00',
    start: after(0),
    rate: { annual: '6%', dayCount: 'ACT/365F' },
    payments: {
      every,
      first: every === 'week' ? after(7) : '2024-02-15',
      phases: [{ type: 'level', count }],
    },
    ...more,
  };
}

const issueCosts = { amount: '3000.00', method: 'effective' } as const;
const fee = (days: number): LoanEventDocument => ({
  type: 'fee',
  on: after(days),
  amount: '500.00',
  treatment: 'defer',
});
const extra = (days: number): LoanEventDocument => ({
  type: 'extra-principal',
  on: after(days),
  amount: '1000.00',
  then: 'shorten',
});
const every17Days = (events: number, event: (days: number) => LoanEventDocument): LoanEventDocument[] =>
  Array.from({ length: events }, (_, at) => event(20 + 17 * at));

/** A thirty-year mortgage with effective costs, an extra payment and a deferred fee. */
export function mortgage(at: number): LoanDocument {
  return loan(`Mortgage ${at + 1}`, 360, 'month', {
    amount: inAmount(30_000_000 + at * 10_000),
    issueCosts,
    events: [extra(430), fee(510)],
  });
}

/** Reads a document that has to be right. */
export function read(document: LoanDocument | CreditLineDocument): ReadInstrument {
  const reading = readInstrument(document);
  if (!reading.ok) throw new Error(`${document.name}: ${reading.faults[0]?.message ?? ''}`);
  return reading.instrument;
}

/** As many events of a kind as the budget takes. */
function most(events: number, make: (events: number) => LoanDocument): LoanDocument {
  let [least, largest] = [0, events];
  while (least < largest) {
    const middle = Math.ceil((least + largest) / 2);
    if (stepsToWorkOut(read(make(middle)).schedule) <= mostSteps) least = middle;
    else largest = middle - 1;
  }
  return make(least);
}

/** The dearest documents that are accepted, named by what makes them dear. */
export function dearest(): (LoanDocument | CreditLineDocument)[] {
  return [
    most(200, (events) =>
      loan('weekly, 24 years, costs spread anew as often as may be', 1200, 'week', {
        issueCosts,
        events: every17Days(events, fee),
      }),
    ),
    most(400, (events) =>
      loan('monthly, 30 years, as many extra payments with costs as may be', 360, 'month', {
        issueCosts,
        events: every17Days(events, extra),
      }),
    ),
    most(1200, (events) =>
      loan('weekly, the rate stepping with every payment', 1200, 'week', {
        rate: {
          annual: '6%',
          dayCount: 'ACT/365F',
          steps: Array.from({ length: events }, (_, at) => ({
            from: after(5 + 7 * at),
            annual: `${((30 + (at % 7)) / 10).toFixed(1)}%`,
            payment: 're-level',
          })),
        },
      }),
    ),
    {
      document: 'coffer.instrument/1',
      kind: 'credit-line',
      name: 'credit line with 5,000 draws and repayments',
      currency: 'EUR',
      limit: '9000000000.00',
      start: after(0),
      matures: '2044-01-15',
      rate: { annual: '6%', dayCount: 'ACT/365F' },
      unusedFee: '0.5%',
      events: Array.from({ length: 5000 }, (_, at) =>
        at % 2 === 0
          ? { type: 'draw', on: after(5 + at), amount: inAmount(1000 + (at % 3)) }
          : { type: 'repayment', on: after(5 + at), amount: '10.00' },
      ),
    },
    loan('rate solved over 1,200 payments', 1200, 'week', {
      rate: { annual: '?', compounding: 'daily', dayCount: 'ACT/365F' },
      payments: {
        every: 'week',
        first: after(7),
        phases: [{ type: 'level', count: 1200, payment: '600.00' }],
      },
    }),
  ];
}
