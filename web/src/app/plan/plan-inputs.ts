import { addMonths, monthEnd, parseDay } from '@coffer/core';
import { planVersion, type Fault, type RegisterRow } from '@coffer/contract';
import { FieldReader, present } from '../fields/field-reader';

/** What is typed of a plan; an empty field leaves out what it is about. */
export interface TypedPlan {
  readonly clearBy: string;
  readonly fundRate: string;
  readonly hurdle: string;
  readonly outlays: string;
  readonly taxRate: string;
  readonly operatingCash: string;
  readonly monthly: string;
}

/** A plan of which nothing is typed yet. */
export const emptyPlan: TypedPlan = {
  clearBy: '',
  fundRate: '',
  hurdle: '',
  outlays: '',
  taxRate: '',
  operatingCash: '',
  monthly: '',
};

/** Whether payments are sought for a day, or the day for a budget. */
export type PlanMode = 'day' | 'budget';

/** What is chosen of a plan besides what is typed. */
export interface PlanChoices {
  readonly mode: PlanMode;
  /** Ids of the instruments in it. */
  readonly chosen: readonly string[];
  /** Least payments as they are typed, by instrument. */
  readonly least: Readonly<Record<string, string>>;
  /** Whether freed cash of a month or of a year is held against interest. */
  readonly freed: 'month' | 'year';
  /** Ids of what is not to be repaid early though it may. */
  readonly kept: readonly string[];
  readonly outlaysDeductible: boolean;
  readonly interestDeductible: boolean;
  /** Names in the order in which a budget of one's own clears them; none while the order is not one's own. */
  readonly order: readonly string[];
}

/** What is chosen at first. */
export const firstChoices: Omit<PlanChoices, 'chosen'> = {
  mode: 'day',
  least: {},
  freed: 'year',
  kept: [],
  outlaysDeductible: false,
  interestDeductible: false,
  order: [],
};

/** An instrument that may be in a plan, with its document once it is there. */
export interface PlanCandidate {
  readonly row: RegisterRow;
  readonly document: unknown;
}

/** Months of horizons that are compared: to the end of what is owed, ten years at least and twenty at most. */
const [fewest, most] = [120, 240];

/** The plan document of what is typed, or what cannot be read, by the fields; `*` for what belongs to none. */
export function planOf(
  typed: TypedPlan,
  { mode, chosen, least, freed, kept, outlaysDeductible, interestDeductible }: PlanChoices,
  on: string,
  candidates: readonly PlanCandidate[],
): { readonly document: unknown; readonly faults: readonly Fault[] } {
  const read = new FieldReader();
  const rate = (key: 'fundRate' | 'hurdle' | 'taxRate'): string | undefined =>
    read.optional(typed[key], () => read.rate(key, typed[key]));
  const amount = (key: 'outlays' | 'operatingCash' | 'monthly'): string | undefined =>
    read.optional(typed[key], () => read.amount(key, typed[key]));
  const [fundRate, taxRate] = [rate('fundRate') ?? '0%', rate('taxRate')];
  const [outlays, operatingCash] = [amount('outlays'), amount('operatingCash')];
  const members = candidates
    .filter(({ row }) => chosen.includes(row.id))
    .map(({ row, document }) => {
      const text = least[row.id] ?? '';
      const stated = read.optional(text, () => read.amount(`least.${row.id}`, text));
      return {
        instrument: document,
        ...(stated !== undefined && { least: stated }),
        ...(kept.includes(row.id) && { prepay: false }),
      };
    });
  const income = present({ outlays, taxRate, operatingCash, outlaysDeductible, interestDeductible });
  const monthly = amount('monthly');
  const clearBy = read.day('clearBy', typed.clearBy);
  const document = {
    document: planVersion,
    on,
    instruments: members,
    fund: { rate: fundRate },
    ...(mode === 'day' && {
      ...(clearBy !== undefined && { clearBy }),
      horizons: {
        every: 'month',
        count: horizonMonths(
          on,
          candidates.filter(({ row }) => chosen.includes(row.id)),
        ),
      },
      ...present({ hurdle: rate('hurdle') }),
      freedCash: freed,
    }),
    ...(mode === 'budget' && monthly !== undefined && { budget: { monthly, use: 'same-day' } }),
    ...((mode === 'day' || monthly !== undefined) && { income }),
  };
  return { document, faults: read.faults };
}

function horizonMonths(on: string, candidates: readonly PlanCandidate[]): number {
  const ends = candidates.map(({ row }) => row.matures ?? on).sort();
  const last = ends.at(-1) ?? on;
  const years = Number(last.slice(0, 4)) - Number(on.slice(0, 4)) + 1;
  return Math.min(most, Math.max(fewest, 12 * years));
}

/** The day that a plan wishes for at first: three years after the day it starts from. */
export function firstWish(on: string): number {
  const day = parseDay(on) ?? 0;
  return addMonths(day, 36, day === monthEnd(day));
}

/** Where a fault of the plan document stands among the fields; `*` where it belongs to none. */
export function fieldOf(
  key: string,
  candidates: readonly PlanCandidate[],
  chosen: readonly string[],
): string {
  const fields: Readonly<Record<string, string>> = {
    clearBy: 'clearBy',
    fund: 'fundRate',
    'fund.rate': 'fundRate',
    hurdle: 'hurdle',
    'budget.monthly': 'monthly',
    'income.taxRate': 'taxRate',
    'income.outlays': 'outlays',
    'income.operatingCash': 'operatingCash',
  };
  const member = /^instruments\.(\d+)\.(least|instrument|prepay)/.exec(key);
  if (!member) return fields[key] ?? '*';
  const of = candidates.filter(({ row }) => chosen.includes(row.id))[Number(member[1])];
  return of ? `${member[2] === 'least' ? 'least' : 'of'}.${of.row.id}` : '*';
}
