import { describe, expect, it } from 'vitest';
import { formatDay } from '../calendar/calendar-day.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import type { LoanSchedule } from '../loan/schedule/loan-schedule.ts';
import { day, percent, thousand } from '../testing/plain-loan.ts';
import type { AccountRole } from './account-role.ts';
import type { AccrualChoice } from './accruals.ts';
import {
  booksDiffer,
  booksOff,
  closeEntries,
  unseen,
  withdrawalEntries,
  type Books,
  type MonthBooked,
} from './close-entries.ts';
import { entries, entriesOnDay, issueEntry } from './entries.ts';
import type { Entry } from './entry.ts';
import { standingBalances, type Balances } from './standing-balances.ts';

// Worked by hand: 1,000.00 for a year from 1 January 2025, interest each quarter by actual days over 360. At 36 % each day
// costs 1.00, at 18 % half of that: 30 days to the end of January, 58 to that of February, 89 to that of March, and 90 to
// the payment. All of it is due within dear months, so it is current from its first month end on (IAS 1.69).
const atRate = (rate: string, start = '2025-01-01'): LoanSchedule =>
  buildLoanSchedule(
    thousand([{ type: 'interest-only', count: 4 }], {
      annualRate: percent(rate),
      start: day(start),
      first: day('2025-04-01'),
      every: 'quarter',
      dayCount: 'ACT/360',
    }),
  );
const [dear, cheap] = [atRate('36'), atRate('18')];

const told = ({ date, kind, belongsTo, lines }: Entry): unknown[] => [
  formatDay(date),
  kind,
  ...(belongsTo === undefined ? [] : [formatDay(belongsTo)]),
  Object.fromEntries(lines.map(({ account, debit, credit }) => [account, debit - credit])),
];
const withoutCurrent = (found: readonly Entry[]): unknown[] =>
  found.filter(({ kind }) => kind !== 'current-portion').map(told);
const interest = (amount: number): Partial<Record<AccountRole, number>> => ({
  'interest-expense': amount,
  'interest-payable': -amount,
});

describe('entries of a loan', () => {
  // Common practice: an accrual is reversed on the first day of the next period, or cleared by the payment.
  it('reverse the accrual on the day after its period end, and no other', () => {
    const made = (from: string, to: string): unknown[] =>
      withoutCurrent(entries(dear, day(from), day(to), 'month', 'reversed'));
    expect(made('2025-01-02', '2025-04-01')).toEqual([
      ['2025-01-31', 'accrual', interest(3_000)],
      ['2025-02-01', 'reversal', interest(-3_000)],
      ['2025-02-28', 'accrual', interest(5_800)],
      ['2025-03-01', 'reversal', interest(-5_800)],
      ['2025-03-31', 'accrual', interest(8_900)],
      ['2025-04-01', 'reversal', interest(-8_900)],
      ['2025-04-01', 'payment', { 'interest-expense': 9_000, cash: -9_000 }],
    ]);
    expect(made('2025-02-01', '2025-02-01')).toEqual([['2025-02-01', 'reversal', interest(-3_000)]]);
    expect(made('2025-01-31', '2025-01-31')).toEqual([['2025-01-31', 'accrual', interest(3_000)]]);
    expect(made('2025-02-02', '2025-02-27')).toEqual([]);
  });

  it('leave it standing until the payment, and then accrue what is new', () => {
    const made = (from: string, to: string): unknown[] =>
      withoutCurrent(entries(dear, day(from), day(to), 'month', 'standing'));
    const paid = [
      '2025-04-01',
      'payment',
      { 'interest-expense': 100, 'interest-payable': 8_900, cash: -9_000 },
    ];
    expect(made('2025-01-02', '2025-04-30')).toEqual([
      ['2025-01-31', 'accrual', interest(3_000)],
      ['2025-02-28', 'accrual', interest(2_800)],
      ['2025-03-31', 'accrual', interest(3_100)],
      paid,
      ['2025-04-30', 'accrual', interest(2_900)],
    ]);
    expect(made('2025-02-15', '2025-02-28')).toEqual([['2025-02-28', 'accrual', interest(2_800)]]);
    expect(made('2025-04-01', '2025-04-01')).toEqual([paid]);
    expect(made('2025-04-02', '2025-04-29')).toEqual([]);
  });

  it('of one day are what falls on it and what would accrue', () => {
    expect(entriesOnDay(dear, day('2025-01-31')).map(told)).toEqual([
      ['2025-01-31', 'accrual', interest(3_000)],
    ]);
    expect(entriesOnDay(dear, day('2026-01-01')).map(told)).toEqual([
      ['2026-01-01', 'payment', { 'interest-expense': 9_200, 'loan-payable': 100_000, cash: -109_200 }],
    ]);
    const issue = ['2025-01-01', 'issue', { cash: 100_000, 'loan-payable': -100_000 }];
    expect(told(issueEntry(dear) as Entry)).toEqual(issue);
  });

  // The last day of a month is in the month.
  it('stand where they should at the end of the month that a loan began on the last day of', () => {
    const late = atRate('36', '2025-01-31');
    expect([...standingBalances(late, day('2025-01-30'))]).toEqual([]);
    expect(Object.fromEntries(standingBalances(late, day('2025-01-31')))).toMatchObject({
      cash: 100_000,
      'loan-payable': 0,
      'current-portion': -100_000,
    });
  });
});

const moved = (amounts: Partial<Record<AccountRole, number>>): Balances =>
  new Map(Object.entries(amounts) as [AccountRole, number][]);
const month = (end: string, amounts: Partial<Record<AccountRole, number>>): MonthBooked => ({
  end: day(end),
  moved: moved(amounts),
});
/** What the books hold of the loan at 36 %: January with its accrual, and of each month after what accrued in it. */
const january = month('2025-01-31', {
  cash: 100_000,
  'current-portion': -100_000,
  'interest-expense': 3_000,
  'interest-payable': -3_000,
});
const february = month('2025-02-28', interest(2_800));
const march = month('2025-03-31', interest(3_100));
/** Held by books whose open month began with the reversal of so much. */
const held = (closed: readonly MonthBooked[], reversed = 0, more: Partial<Books> = {}): Books => ({
  ...unseen,
  closed,
  open: moved(reversed === 0 ? {} : { 'interest-expense': -reversed, 'interest-payable': reversed }),
  known: true,
  ...more,
});
const begin = day('2025-01-01');
const close = (
  schedule: LoanSchedule,
  end: string,
  books: Books,
  { accruals = 'reversed', from = begin }: { accruals?: AccrualChoice; from?: number } = {},
): unknown[] => {
  const accruing = { before: accruals, now: accruals, leaveOut: false };
  const { inPeriod, opening } = closeEntries(schedule, day(end), from, books, accruing);
  return withoutCurrent([...inPeriod, ...(opening ? [opening] : [])]);
};

describe('a loan older than the books', () => {
  it('is brought in with what had accrued, which is reversed', () => {
    const from = day('2025-02-01');
    const brought = [
      '2025-02-01',
      'opening',
      '2025-01-31',
      { 'current-portion': -100_000, 'interest-payable': -3_000, 'opening-balances': 103_000 },
    ];
    expect(close(dear, '2025-02-28', unseen, { from })).toEqual([
      brought,
      ['2025-02-01', 'reversal', interest(-3_000)],
      ['2025-02-28', 'accrual', interest(5_800)],
      ['2025-03-01', 'reversal', interest(-5_800)],
    ]);
    expect(close(dear, '2025-02-28', unseen, { from, accruals: 'standing' })).toEqual([
      brought,
      ['2025-02-28', 'accrual', interest(2_800)],
    ]);
    const [{ memo } = { memo: '' }] = closeEntries(dear, day('2025-02-28'), from, unseen, {
      before: 'reversed',
      now: 'reversed',
      leaveOut: false,
    }).inPeriod;
    expect(memo).toBe('Balances brought in as of 2025-01-31');
  });

  it('is brought in as it stood before what falls on the first day of the books', () => {
    expect(close(dear, '2025-04-30', unseen, { from: day('2025-04-01') }).slice(0, 3)).toEqual([
      [
        '2025-04-01',
        'opening',
        '2025-03-31',
        { 'current-portion': -100_000, 'interest-payable': -8_900, 'opening-balances': 108_900 },
      ],
      ['2025-04-01', 'reversal', interest(-8_900)],
      ['2025-04-01', 'payment', { 'interest-expense': 9_000, cash: -9_000 }],
    ]);
  });

  it('that is entered late brings in only what lay before the books as their opening', () => {
    // Books from February, entered in March: February's 28.00 is expense of the books, January's is not.
    const [opening] = close(dear, '2025-03-31', unseen, { from: day('2025-02-01') });
    expect(opening).toEqual([
      '2025-03-01',
      'opening',
      '2025-02-28',
      {
        'current-portion': -100_000,
        'interest-payable': -5_800,
        'interest-expense': 2_800,
        'opening-balances': 103_000,
      },
    ]);
  });

  it('is no opening where it begins in the month itself', () => {
    expect(close(dear, '2025-01-31', unseen)).toEqual([
      ['2025-01-01', 'issue', { cash: 100_000, 'loan-payable': -100_000 }],
      ['2025-01-31', 'accrual', interest(3_000)],
      ['2025-02-01', 'reversal', interest(-3_000)],
    ]);
  });
});

describe('closed months that come out otherwise', () => {
  // IAS 8.42 leaves immaterial errors to the period in which they are found; each entry says the month that it is for.
  it('are made good one by one in the open month, and what had accrued is reversed as it should have been', () => {
    const books = held([january, february, march], 8_900);
    expect(close(cheap, '2025-04-30', books)).toEqual([
      ['2025-04-01', 'correction', '2025-01-31', interest(-1_500)],
      ['2025-04-01', 'correction', '2025-02-28', interest(-1_400)],
      ['2025-04-01', 'correction', '2025-03-31', interest(-1_550)],
      ['2025-04-01', 'reversal', interest(4_450)],
      ['2025-04-01', 'payment', { 'interest-expense': 4_500, cash: -4_500 }],
      ['2025-04-30', 'accrual', interest(1_450)],
      ['2025-05-01', 'reversal', interest(-1_450)],
    ]);
    const [correction, , , reversal] = closeEntries(cheap, day('2025-04-30'), begin, books, {
      before: 'reversed',
      now: 'reversed',
      leaveOut: false,
    }).inPeriod;
    expect(correction?.memo).toBe('Correction of the month to 2025-01-31');
    expect(reversal?.memo).toBe('Reversal: what had accrued otherwise to 2025-03-31');
  });

  it('are made good alone where the accrual was left standing', () => {
    expect(close(cheap, '2025-03-31', held([january, february]), { accruals: 'standing' })).toEqual([
      ['2025-03-01', 'correction', '2025-01-31', interest(-1_500)],
      ['2025-03-01', 'correction', '2025-02-28', interest(-1_400)],
      ['2025-03-31', 'accrual', interest(1_550)],
    ]);
  });

  it('are none where the books agree, and what was reversed is not reversed again', () => {
    expect(close(dear, '2025-02-28', held([january], 3_000))).toEqual([
      ['2025-02-28', 'accrual', interest(5_800)],
      ['2025-03-01', 'reversal', interest(-5_800)],
    ]);
  });

  it('begin with the month that an opening stands for', () => {
    const brought = month('2025-02-28', {
      'interest-expense': 5_800,
      cash: 100_000,
      'current-portion': -100_000,
      'interest-payable': -5_800,
    });
    const books = held([brought], 5_800, { openedAt: day('2025-02-28') });
    expect(close(cheap, '2025-03-31', books)[0]).toEqual([
      '2025-03-01',
      'correction',
      '2025-02-28',
      interest(-2_900),
    ]);
  });

  it('give back all that they hold before a loan that turns out to have begun later', () => {
    const later = atRate('36', '2025-03-01');
    expect(close(later, '2025-03-31', held([january, february], 5_800)).slice(0, 3)).toEqual([
      [
        '2025-03-01',
        'correction',
        '2025-01-31',
        { cash: -100_000, 'current-portion': 100_000, 'interest-expense': -3_000, 'interest-payable': 3_000 },
      ],
      ['2025-03-01', 'correction', '2025-02-28', interest(-2_800)],
      ['2025-03-01', 'reversal', interest(5_800)],
    ]);
  });

  it('keep an accrual out that was too small to be booked, whatever is known later', () => {
    const small = month('2025-01-31', { cash: 100_000, 'current-portion': -100_000 });
    const leftOut = new Set([day('2025-01-31')]);
    expect(booksDiffer(cheap, day('2025-02-28'), begin, held([small], 0, { leftOut }))).toBe(false);
    expect(close(cheap, '2025-02-28', held([small], 0, { leftOut }))).toEqual([
      ['2025-02-28', 'accrual', interest(2_900)],
      ['2025-03-01', 'reversal', interest(-2_900)],
    ]);
  });

  it('are told by how much they hold more than the schedule says', () => {
    const off = (schedule: LoanSchedule, on: string, books: Books): unknown =>
      Object.fromEntries(booksOff(schedule, day(on), begin, books));
    expect(off(cheap, '2025-02-14', held([january]))).toEqual(interest(1_500));
    expect(booksDiffer(cheap, day('2025-02-14'), begin, held([january]))).toBe(true);
    expect(off(dear, '2025-02-14', held([january]))).toEqual({});
    expect(booksDiffer(dear, day('2025-02-14'), begin, held([january]))).toBe(false);
    // Months closed and none known to have been, or known with nothing to post: both were seen.
    expect(off(cheap, '2025-02-14', { ...held([january]), known: false })).toEqual(interest(1_500));
    expect(off(dear, '2025-04-30', held([january, february]))).toEqual(interest(-3_100));
    expect(off(dear, '2025-02-14', held([]))).toEqual({
      cash: -100_000,
      'current-portion': 100_000,
      ...interest(-3_000),
    });
    expect(booksOff(dear, day('2025-02-14'), begin, unseen)).toEqual([]);
    expect(booksDiffer(dear, day('2025-02-14'), begin, unseen)).toBe(false);
  });
});

describe('a loan that was taken on by mistake', () => {
  it('goes with all that closed months hold, and is not reversed twice', () => {
    const books = held([january, february], 5_800);
    const out = (accruals: AccrualChoice): Entry[] => withdrawalEntries(day('2025-03-14'), books, accruals);
    const [first, second, reversal] = out('reversed');
    expect(out('reversed').map(told)).toEqual([
      [
        '2025-03-01',
        'correction',
        '2025-01-31',
        { cash: -100_000, 'current-portion': 100_000, 'interest-expense': -3_000, 'interest-payable': 3_000 },
      ],
      ['2025-03-01', 'correction', '2025-02-28', interest(-2_800)],
      ['2025-03-01', 'reversal', interest(5_800)],
    ]);
    expect(out('standing')).toEqual([first, second]);
    expect([first?.memo, reversal?.memo]).toEqual([
      'Withdrawn: what the month to 2025-01-31 held',
      'Reversal: what had accrued to 2025-02-28 was withdrawn',
    ]);
    expect(
      withdrawalEntries(day('2025-03-14'), held([month('2025-01-31', { cash: 0 })]), 'reversed'),
    ).toEqual([]);
  });
});
