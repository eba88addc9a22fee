import { FormControl, FormGroup } from '@angular/forms';
import {
  addMonths,
  cycleDate,
  cycleIndexOnOrAfter,
  firstDay,
  isDebt,
  lastDay,
  monthEnd,
  type Compounding,
  type DayCountName,
  type Frequency,
  type FundSchedule,
  type Schedule,
} from '@coffer/core';
import {
  documentVersion,
  readDocument,
  showAmount,
  showDay,
  showDecimal,
  type Fault,
  type FundDocument,
  type InstrumentDocument,
} from '@coffer/contract';
import { viewKindOf } from '../kinds/view-kinds';
import { choice, flag, text, type Text } from '../fields/controls';
import { FieldReader, present } from '../fields/field-reader';
import { percentOf } from '../fields/typed-text';
import { listedAmounts } from '../typed/listed-amounts';

/** What is asked for a fund. */
export type FundForm = FormGroup<{
  goal: Text;
  rate: Text;
  compounding: FormControl<Compounding>;
  dayCount: FormControl<DayCountName>;
  every: FormControl<Frequency>;
  monthEnd: FormControl<boolean>;
  deposits: FormControl<'level' | 'listed'>;
  first: Text;
  deposit: Text;
  count: Text;
  listed: Text;
  held: Text;
  heldOn: Text;
  rounding: FormControl<FundRounded>;
}>;

/** Whether a fund's amounts are rounded to the cent, or nothing is. */
export type FundRounded = 'cent' | 'none';

export const fundRoundingChoices = [
  ['cent', 'to the cent'],
  ['none', 'not rounded'],
] as const satisfies readonly (readonly [FundRounded, string])[];

export type TypedFund = ReturnType<FundForm['getRawValue']>;

/** An empty form. */
export function fundForm(): FundForm {
  return new FormGroup({
    goal: text(),
    rate: text(),
    compounding: choice<Compounding>('each-payment'),
    dayCount: choice<DayCountName>('even-periods'),
    every: choice<Frequency>('month'),
    monthEnd: flag(),
    deposits: choice<'level' | 'listed'>('level'),
    first: text(),
    deposit: text(),
    count: text(),
    listed: text(),
    held: text(),
    heldOn: text(),
    rounding: choice<FundRounded>('cent'),
  });
}

/**
 * A fund that ends with the debt: its goal is what falls due with the last payment, and monthly deposits from the
 * next one on lead up to it.
 */
export function suggestedFund(debt: Schedule, on: number): Partial<TypedFund> {
  const end = lastDay(debt);
  const keepMonthEnd = end === monthEnd(end);
  const cycle = { anchor: end, every: 'month', keepMonthEnd } as const;
  const begun = Math.max(on, firstDay(debt));
  const index = cycleIndexOnOrAfter(cycle, begun + 1);
  const due = index <= 0;
  return {
    goal: showAmount(viewKindOf(debt).dueLast(debt), debt.terms.digits),
    monthEnd: keepMonthEnd,
    first: showDay(due ? cycleDate(cycle, index) : addMonths(begun, 1)),
    count: due ? String(1 - index) : '12',
  };
}

/** What was typed, worked out: the fund and its document, or what is wrong or still needed, by the document's keys. */
export type FundReading =
  | { readonly ok: true; readonly document: object; readonly schedule: FundSchedule }
  | { readonly ok: false; readonly faults: readonly Fault[]; readonly missing: readonly string[] };

/** Reads a typed fund that repays an instrument. */
export function readTypedFund(typed: TypedFund, repays: InstrumentDocument): FundReading {
  const read = new FieldReader();
  const held = typed.held.trim() !== '' || typed.heldOn.trim() !== '';
  const level = typed.deposits === 'level';
  const document = present({
    document: documentVersion,
    kind: 'fund',
    name: `Fund for ${repays.name}`.slice(0, 120),
    currency: repays.currency,
    goal: optionalAmount(read, 'goal', typed.goal),
    rate: present({
      annual: read.rate('rate.annual', typed.rate),
      compounding: typed.compounding === 'each-payment' ? undefined : typed.compounding,
      dayCount: typed.dayCount === 'even-periods' ? undefined : typed.dayCount,
    }),
    every: typed.every,
    first: level ? read.day('first', typed.first) : undefined,
    monthEnd: typed.monthEnd || undefined,
    deposit: level ? optionalAmount(read, 'deposit', typed.deposit) : undefined,
    count: level
      ? read.optional(typed.count, () => read.solvable(typed.count, () => read.count('count', typed.count)))
      : undefined,
    deposits: level ? undefined : listedAmounts(typed.listed, 'deposits', read),
    opening: held
      ? { on: read.day('opening.on', typed.heldOn), amount: read.amount('opening.amount', typed.held) }
      : undefined,
    rounding: typed.rounding === 'none' ? { interest: 'none', deposit: 'none' } : undefined,
    for: repays.name,
  });
  if (read.faults.length > 0 || read.missing.length > 0) {
    return { ok: false, faults: read.faults, missing: read.missing };
  }
  const reading = readDocument(document);
  if (!reading.ok) return { ok: false, faults: reading.faults, missing: [] };
  if (isDebt(reading.schedule)) throw new Error('A fund was read as something else.');
  return { ok: true, document, schedule: reading.schedule };
}

/** A fund document as it would be typed: what a fund written here, or by the command line, begins from again. */
export function typedFundOf(document: FundDocument): TypedFund {
  const { rate, opening, deposits, rounding } = document;
  const shown = (amount: string | undefined): string =>
    amount === undefined || amount === '?' ? (amount ?? '') : showDecimal(amount);
  return {
    ...fundForm().getRawValue(),
    goal: shown(document.goal),
    rate: percentOf(rate.annual),
    compounding: rate.compounding ?? 'each-payment',
    dayCount: rate.dayCount ?? 'even-periods',
    every: document.every,
    monthEnd: document.monthEnd ?? false,
    deposits: deposits ? 'listed' : 'level',
    first: document.first === undefined ? '' : showDay(document.first),
    deposit: shown(document.deposit),
    count: document.count === undefined ? '' : String(document.count),
    listed: (deposits ?? []).map(({ on, amount }) => `${showDay(on)} ${showDecimal(amount)}`).join('\n'),
    held: opening ? showDecimal(opening.amount) : '',
    heldOn: opening ? showDay(opening.on) : '',
    rounding: rounding?.interest === 'none' || rounding?.deposit === 'none' ? 'none' : 'cent',
  };
}

function optionalAmount(read: FieldReader, key: string, typed: string): string | undefined {
  return read.optional(typed, () => read.solvable(typed, () => read.amount(key, typed)));
}
