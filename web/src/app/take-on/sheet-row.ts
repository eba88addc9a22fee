import {
  dayCountNames,
  firstDay,
  formatAmount,
  formatDay,
  lastDay,
  parseDay,
  position,
  type CalendarDay,
  type DayCountName,
  type Frequency,
} from '@coffer/core';
import { askedFor, paymentsDue, readInstrument, recordsPayments } from '@coffer/contract';
import {
  countOf,
  dayCountOf,
  dayOf,
  figureOf,
  frequencyOf,
  rateOf,
  repaidOf,
  type Repaid,
  type SheetHabits,
} from '../sheets/cells';
import { meanings, type Meaning } from './meanings';
import { rowKind, rowKindOf, type RowFields, type RowKindName } from './row-kinds';

/** What is the same for all rows of which the sheet does not tell it. */
export interface SameForAll {
  readonly currency: string;
  readonly digits: number;
  readonly every: Frequency;
  readonly repaid: Repaid;
  readonly dayCount: DayCountName;
  readonly habits: SheetHabits;
  /** The evening before the books begin, at which balances are compared. */
  readonly before: CalendarDay;
}

/** The cells of a row by what they mean. */
export type RowCells = Readonly<Partial<Record<Meaning, string>>>;

/** What a row mends itself by: a day count, or the payment of the sheet as the one that was agreed. */
export interface Mend {
  readonly meaning: 'dayCount' | 'payment';
  readonly value: string;
}

/** Figures of a row: as the sheet says them, or as they come out. Minor units, and a date. */
export interface RowFigures {
  readonly payment?: number | undefined;
  readonly balance?: number | undefined;
  readonly last?: string | undefined;
}

/** What became of a row. */
export interface RowOutcome {
  readonly document?: Readonly<Record<string, unknown>>;
  /** What is wrong, by the column that it stands in. */
  readonly faults: Readonly<Partial<Record<Meaning, string>>>;
  readonly says: RowFigures;
  readonly worked?: RowFigures;
  /** The figures in which Coffer and the sheet differ. */
  readonly differs: readonly (keyof RowFigures)[];
  readonly mend?: Mend;
}

const compared = ['payment', 'balance', 'last'] as const;

/** The document of a row, with what is wrong at its cells; mends are made to it. */
class RowReader {
  readonly faults: Partial<Record<Meaning, string>> = {};
  private readonly kind: RowKindName;

  constructor(
    private readonly cells: RowCells,
    private readonly same: SameForAll,
  ) {
    this.kind = this.read('kind', rowKindOf, 'no kind; type loan, bond or credit line') ?? 'loan';
  }

  private text(meaning: Meaning): string {
    return (this.cells[meaning] ?? '').trim();
  }

  private read<Value>(
    meaning: Meaning,
    to: (cell: string) => Value | undefined,
    expected: string,
  ): Value | undefined {
    const text = this.text(meaning);
    if (text === '') return undefined;
    const value = to(text);
    if (value === undefined) this.faults[meaning] = `“${text}” is ${expected}.`;
    return value;
  }

  private day(meaning: Meaning): string | undefined {
    return this.read(
      meaning,
      (cell) => dayOf(cell, this.same.habits),
      'no day; type one such as 15 Jun 2026',
    );
  }

  private figure(meaning: Meaning): string | undefined {
    return this.read(meaning, (cell) => figureOf(cell, this.same.habits), 'no amount');
  }

  private fields(agreed: string | undefined): Partial<RowFields> {
    const { habits } = this.same;
    const read = {
      amount: this.figure('amount'),
      start: this.day('start'),
      percent: this.read('rate', (cell) => rateOf(cell, habits), 'no rate'),
      count: this.read('count', countOf, 'no number of payments'),
      every: this.read('every', frequencyOf, 'not understood; type monthly, quarterly or yearly'),
      first: this.day('first'),
      last: this.day('last'),
      repaid: this.read('repaid', repaidOf, 'not understood; type level, equal principal or interest only'),
      dayCount: this.read('dayCount', dayCountOf, 'no day count; type one such as 30/360 or ACT/365F'),
      price: this.figure('price'),
      drawn: this.figure('drawn'),
      agreed,
    };
    return Object.fromEntries(Object.entries(read).filter(([, value]) => value !== undefined));
  }

  document(agreed: string | undefined): Record<string, unknown> | undefined {
    const { needed, part, faults } = rowKind(this.kind);
    const fields = this.fields(agreed);
    for (const meaning of needed)
      if (this.text(meaning) === '') this.faults[meaning] = `${meanings[meaning].title} is empty.`;
    if (faults) Object.assign(this.faults, faults(fields as RowFields));
    if (Object.keys(this.faults).length > 0) return undefined;
    const [lender, agreement] = [this.text('lender'), this.text('agreement')];
    return {
      document: 'coffer.instrument/1',
      kind: this.kind,
      name: this.text('name'),
      ...(lender !== '' && { lender }),
      ...(agreement !== '' && { agreement }),
      currency: this.text('currency').toUpperCase() || this.same.currency,
      ...part(fields as RowFields, this.same),
    };
  }

  says(): RowFigures {
    const money = (meaning: 'payment' | 'balance'): number | undefined => {
      const plain = this.figure(meaning);
      return plain === undefined ? undefined : Math.round(Number(plain) * 10 ** this.same.digits);
    };
    return { payment: money('payment'), balance: money('balance'), last: this.day('last') };
  }
}

/** Keys of a document, from the most telling part of them, and the column whose cell they come from. */
const keyed: readonly (readonly [RegExp, Meaning])[] = [
  [/^name/, 'name'],
  [/^lender/, 'lender'],
  [/^agreement/, 'agreement'],
  [/^kind/, 'kind'],
  [/^(amount|face|limit)/, 'amount'],
  [/^(start|issued)/, 'start'],
  [/^matures/, 'last'],
  [/^(price|yield)/, 'price'],
  [/^events/, 'drawn'],
  [/^currency/, 'currency'],
  [/dayCount/, 'dayCount'],
  [/first/i, 'first'],
  [/every/, 'every'],
  [/^(rate|coupon)/, 'rate'],
  [/count|phases/, 'count'],
  [/payment$/, 'payment'],
];

/** The column that a fault of a document stands in. */
export function meaningOfKey(key: string): Meaning {
  return keyed.find(([shape]) => shape.test(key))?.[1] ?? 'name';
}

/** Works a row out: its document, what comes of it beside what the sheet says, and what would mend a difference. */
export function outcomeOf(cells: RowCells, same: SameForAll, agreed?: string): RowOutcome {
  const reader = new RowReader(cells, same);
  const says = reader.says();
  const document = reader.document(agreed);
  if (!document) return { faults: reader.faults, says, differs: [] };
  const made = workedOut(document, same.before);
  if ('faults' in made) return { faults: { ...reader.faults, ...made.faults }, says, differs: [] };
  const differs = differences(says, made);
  if (differs.length === 0) return { document, faults: {}, says, worked: made, differs };
  const mend = agreed === undefined ? mendOf(document, says, same) : undefined;
  return { document, faults: {}, says, worked: made, differs, ...(mend && { mend }) };
}

function workedOut(
  document: Readonly<Record<string, unknown>>,
  before: CalendarDay,
): RowFigures | { readonly faults: Partial<Record<Meaning, string>> } {
  const reading = readInstrument(document);
  if (!reading.ok) {
    return {
      faults: Object.fromEntries(reading.faults.map(({ key, message }) => [meaningOfKey(key), message])),
    };
  }
  const { schedule } = reading.instrument;
  const end = lastDay(schedule);
  const [first] = recordsPayments(schedule) ? paymentsDue(schedule, firstDay(schedule), end) : [];
  return {
    payment: first && recordsPayments(schedule) ? askedFor(schedule, first) : undefined,
    balance: position(schedule, before).outstanding,
    last: formatDay(end),
  };
}

function differences(says: RowFigures, worked: RowFigures): (keyof RowFigures)[] {
  return compared.filter(
    (key) => says[key] !== undefined && worked[key] !== undefined && says[key] !== worked[key],
  );
}

/** Another day count with which all that the sheet says comes out, or else its payment as the one that was agreed. */
function mendOf(
  document: Readonly<Record<string, unknown>>,
  says: RowFigures,
  { before, digits }: SameForAll,
): Mend | undefined {
  if (says.payment === undefined && says.balance === undefined) return undefined;
  if (!('payments' in document)) return undefined;
  const fits = (changed: Readonly<Record<string, unknown>>): boolean => {
    const made = workedOut(changed, before);
    return !('faults' in made) && differences(says, made).length === 0;
  };
  const rate = document['rate'] as { readonly annual: string; readonly dayCount: DayCountName };
  const other = dayCountNames.find(
    (dayCount) => dayCount !== rate.dayCount && fits({ ...document, rate: { ...rate, dayCount } }),
  );
  if (other !== undefined) return { meaning: 'dayCount', value: other };
  const payments = document['payments'] as {
    readonly phases: readonly [{ readonly type: string; readonly count: number }];
  };
  const [phase] = payments.phases;
  if (says.payment === undefined || phase.type !== 'level') return undefined;
  const payment = formatAmount(says.payment, digits);
  const agreed = { ...document, payments: { ...payments, phases: [{ ...phase, payment }] } };
  return fits(agreed) ? { meaning: 'payment', value: payment } : undefined;
}

/** The evening before a day. */
export function eveningBefore(day: string): CalendarDay {
  return (parseDay(day) as CalendarDay) - 1;
}
