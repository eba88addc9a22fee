import { FormControl, FormGroup } from '@angular/forms';
import {
  callOn,
  formatDay,
  formatPrice,
  parseAmount,
  parseDay,
  position,
  ratio,
  ratioFromDecimal,
  redemptionOutcome,
  TermsFault,
  type BondSchedule,
  type Ratio,
  type RedemptionOutcome,
} from '@coffer/core';
import { showAmount, showDay, type Fault, showRate } from '@coffer/contract';
import { FieldReader } from '../../fields/field-reader';

const text = (): FormControl<string> => new FormControl('', { nonNullable: true });

/** What is asked for a redemption that is tried. */
export function redemptionForm(): FormGroup<
  Record<'on' | 'face' | 'price' | 'refundedBy' | 'reason', FormControl<string>>
> {
  return new FormGroup({ on: text(), face: text(), price: text(), refundedBy: text(), reason: text() });
}

export type TypedRedemption = ReturnType<ReturnType<typeof redemptionForm>['getRawValue']>;

/** The redemption as the document has it. */
export interface RedemptionEntry {
  readonly on: string;
  readonly face: string;
  readonly price: string;
  readonly refundedBy?: string;
}

/** What was typed, worked out: its faults by field, or the redemption and what it makes. */
export type RedemptionReading =
  | { readonly ok: true; readonly redemption: RedemptionEntry; readonly outcome: RedemptionOutcome }
  | { readonly ok: false; readonly faults: readonly Fault[] };

/** All that is outstanding on a day, at the price it may be called at, or at face. */
export function suggested(
  schedule: BondSchedule,
  on: number,
): Pick<TypedRedemption, 'on' | 'face' | 'price'> {
  const { terms } = schedule;
  const day = Math.min(Math.max(on, terms.issued + 1), terms.matures - 1);
  const call = callOn(terms.calls, day);
  return {
    on: showDay(day),
    face: showAmount(position(schedule, day).outstanding, terms.digits),
    price: showRate(formatPrice(call?.price ?? ratio(1n))),
  };
}

/** Reads a typed redemption and tries it. */
export function readRedemption(schedule: BondSchedule, typed: TypedRedemption): RedemptionReading {
  const read = new FieldReader();
  const on = read.day('on', typed.on);
  const face = read.amount('face', typed.face);
  const price = read.price('price', typed.price);
  const faults = [...read.faults, ...read.missing.map((key) => ({ key, message: 'Needed.' }))];
  if (on === undefined || face === undefined || price === undefined) return { ok: false, faults };
  const minor = parseAmount(face, schedule.terms.digits);
  if (!minor)
    return { ok: false, faults: [{ key: 'face', message: 'Type an amount above zero in this currency.' }] };
  const refundedBy = typed.refundedBy.trim();
  try {
    const outcome = redemptionOutcome(schedule, {
      on: parseDay(on) as number,
      face: minor,
      price: ofFace(price),
      ...(refundedBy && { refundedBy }),
    });
    return { ok: true, redemption: { on, face, price, ...(refundedBy && { refundedBy }) }, outcome };
  } catch (error) {
    if (!(error instanceof TermsFault)) throw error;
    return { ok: false, faults: [{ key: error.key.split('.').at(-1) ?? '', message: error.message }] };
  }
}

/** What the call schedule says of a redemption, where it says something. */
export function callNotice({ terms }: BondSchedule, { on, price }: RedemptionEntry): string {
  if (terms.calls.length === 0) return '';
  const call = callOn(terms.calls, parseDay(on) as number);
  const first = terms.calls[0];
  if (!call)
    return `It may be called from ${showDay(formatDay(first?.from ?? 0))}; before that it can only be bought back.`;
  const agreed = formatPrice(call.price);
  return agreed === formatPrice(ofFace(price))
    ? ''
    : `On this day it may be called at ${showRate(agreed)}; ${showRate(price)} is another price.`;
}

/** A price in percent of face as a fraction of it. */
function ofFace(price: string): Ratio {
  const percent = ratioFromDecimal(price);
  return ratio(percent.num, percent.den * 100n);
}
