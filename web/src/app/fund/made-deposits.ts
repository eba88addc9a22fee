import { formatDay, parseDay, type FundSchedule } from '@coffer/core';
import { showAmount, showDay, type FundDocument } from '@coffer/contract';

/** A deposit as it is recorded: for which it was made, when, and how much; plain decimal. */
export interface MadeDepositTyped {
  readonly due: string;
  readonly on: string;
  readonly amount: string;
}

/** A fund's document with a deposit recorded, in place of what was recorded for the same. */
export function withDeposit(document: FundDocument, { due, on, amount }: MadeDepositTyped): FundDocument {
  const others = (document.events ?? []).filter((event) => event.due !== due);
  const events = [...others, { type: 'paid' as const, due, on, amount }].sort((one, other) =>
    one.due.localeCompare(other.due),
  );
  return { ...document, events };
}

/** A fund's document without what was recorded for a deposit. */
export function withoutDeposit(document: FundDocument, due: string): FundDocument {
  const { events, ...rest } = document;
  const others = (events ?? []).filter((event) => event.due !== due);
  return others.length > 0 ? { ...rest, events: others } : rest;
}

/** Months around a day whose deposits can be recorded, as choices: those not recorded first in the order of days. */
export function depositChoices(
  { rows, terms }: FundSchedule,
  on: string,
): readonly (readonly [due: string, name: string])[] {
  const day = parseDay(on) ?? 0;
  const made = new Set(terms.made?.map(({ due }) => due));
  return rows
    .filter(({ agreed }) => agreed > day - 400 && agreed < day + 100)
    .map(({ agreed, deposit, n }) => [
      formatDay(agreed),
      `${n}, ${showDay(agreed)}: ${showAmount(deposit, terms.digits)}${made.has(agreed) ? ', recorded' : ''}`,
    ]);
}

/** The deposit that is most likely meant: the last that fell due by a day and is not recorded. */
export function likelyDeposit({ rows, terms }: FundSchedule, on: string): string {
  const day = parseDay(on) ?? 0;
  const made = new Set(terms.made?.map(({ due }) => due));
  const open = rows.filter(({ agreed }) => !made.has(agreed));
  const found = open.findLast(({ agreed }) => agreed <= day) ?? open[0] ?? rows[0];
  return found ? formatDay(found.agreed) : '';
}
