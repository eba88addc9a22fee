import {
  couponFrequencies,
  cycleDate,
  formatDay,
  parseDay,
  type CalendarDay,
  type DayCountName,
  type Frequency,
} from '@coffer/core';
import type { Repaid } from '../sheets/cells';
import type { Meaning } from './meanings';

/** What the cells of a row were read as; what is empty is left out. Amounts, rates and days as documents write them. */
export interface RowFields {
  readonly amount: string;
  readonly start: string;
  readonly percent: string;
  readonly count?: number;
  readonly every?: Frequency;
  readonly first?: string;
  readonly last?: string;
  readonly repaid?: Repaid;
  readonly dayCount?: DayCountName;
  readonly price?: string;
  readonly drawn?: string;
  /** The payment of the sheet, where that is the one agreed. */
  readonly agreed?: string;
}

/** What holds where the sheet does not say. */
export interface RowDefaults {
  readonly every: Frequency;
  readonly repaid: Repaid;
  readonly dayCount: DayCountName;
}

/** How a kind of instrument stands in a row. */
interface RowKind {
  /** How a cell calls it. */
  readonly called: RegExp;
  /** What a row of it cannot do without. */
  readonly needed: readonly Meaning[];
  /** What of a document is its own. */
  readonly part: (fields: RowFields, defaults: RowDefaults) => Record<string, unknown>;
  /** What of its cells cannot be: by the meaning. */
  readonly faults?: (fields: RowFields) => Partial<Record<Meaning, string>>;
}

/** The same day one period later, in a shorter month its last day. */
function firstAfter(start: string, every: Frequency): string {
  const anchor = parseDay(start) as CalendarDay;
  return formatDay(cycleDate({ anchor, every, keepMonthEnd: false }, 1));
}

function phaseOf(repaid: Repaid, count: number | undefined, agreed: string | undefined): object {
  if (repaid !== 'level') return { type: repaid, count };
  return { type: 'level', count, ...(agreed !== undefined && { payment: agreed }) };
}

const pays = (every: Frequency): boolean => couponFrequencies.some((each) => each === every);

/** The kinds that a row can be of, by the document's word for them: a loan where the sheet does not say. */
export const rowKinds = {
  loan: {
    called: /loan|mortgage|term|note payable/i,
    needed: ['name', 'amount', 'start', 'rate', 'count'],
    part({ amount, start, percent, count, every, first, repaid, dayCount, agreed }, defaults) {
      const often = every ?? defaults.every;
      return {
        amount,
        start,
        rate: { annual: `${percent}%`, dayCount: dayCount ?? defaults.dayCount },
        payments: {
          every: often,
          first: first ?? firstAfter(start, often),
          phases: [phaseOf(repaid ?? defaults.repaid, count, agreed)],
        },
      };
    },
  },
  bond: {
    called: /bond|debenture|note/i,
    needed: ['name', 'amount', 'start', 'rate', 'last', 'price'],
    part({ amount, start, percent, every = 'half-year', last, dayCount, price }) {
      const days = dayCount && { dayCount };
      return {
        face: amount,
        issued: start,
        matures: last,
        coupon: Number(percent) === 0 ? null : { annual: `${percent}%`, every, ...days },
        price,
      };
    },
    faults: ({ every = 'half-year' }) =>
      pays(every)
        ? {}
        : { every: 'No coupon is paid so often; type yearly, half-yearly, quarterly or monthly.' },
  },
  'credit-line': {
    called: /line|revolv|overdraft/i,
    needed: ['name', 'amount', 'start', 'rate'],
    part({ amount, start, percent, last, first, dayCount, drawn }) {
      const draw = { type: 'draw', on: start, amount: drawn };
      return {
        limit: amount,
        start,
        ...(last !== undefined && { matures: last }),
        rate: { annual: `${percent}%`, ...(dayCount && { dayCount }) },
        ...(first !== undefined && { firstBill: first }),
        ...(drawn !== undefined && Number(drawn) > 0 && { events: [draw] }),
      };
    },
  },
} as const satisfies Record<string, RowKind>;

export type RowKindName = keyof typeof rowKinds;

/** The kind that a cell calls. */
export function rowKindOf(cell: string): RowKindName | undefined {
  const names = Object.keys(rowKinds) as RowKindName[];
  return names.find((name) => rowKinds[name].called.test(cell));
}

export const rowKind = (name: RowKindName): RowKind => rowKinds[name];
