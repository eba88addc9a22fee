import { balanceCurve, loanOutcome, type LoanSchedule } from '@coffer/core';
import {
  asScheduled,
  changedInstrument,
  changesFromTheStart,
  type Fault,
  type InstrumentChange,
  type LoanDocument,
  type TermsChange,
} from '@coffer/contract';
import type { Axis, GridQuestion, Tried, TriedCell } from './tried';

type Reading =
  | { readonly ok: true; readonly schedule: LoanSchedule }
  | { readonly ok: false; readonly faults: readonly Fault[] };

/** The schedule that a change makes. Where it reaches back to the start, payments are taken as scheduled. */
function scheduleWith(document: LoanDocument, ways: InstrumentChange): Reading {
  const { change } = ways;
  const before = change && changesFromTheStart(change) ? asScheduled(document) : document;
  const reading = changedInstrument(before, ways);
  return reading.ok ? { ok: true, schedule: reading.instrument.schedule as LoanSchedule } : reading;
}

/** Tries a change: what it comes to and how its balance falls. */
export function tryOut(document: LoanDocument, ways: InstrumentChange): Tried {
  const made = scheduleWith(document, ways);
  if (!made.ok) return made;
  return { ok: true, outcome: loanOutcome(made.schedule), curve: balanceCurve(made.schedule) };
}

/** A value of a varied term, as the change states it. */
export function varied({ term }: Pick<Axis, 'term'>, value: string): TermsChange {
  return term === 'payments' ? { payments: Number(value) } : { [term]: value };
}

/** One row of a grid: what each pair comes to, or by how much that differs from the same pair with another change. */
export function tryRow(
  document: LoanDocument,
  { change, against, across, down }: GridQuestion,
  row: number,
): TriedCell[] {
  return across.values.map((value) => {
    const pair = { ...varied(down, down.values[row] ?? ''), ...varied(across, value) };
    const cell = tryCell(document, { ...change, ...pair });
    return against ? lessThan(cell, tryCell(document, { ...against, ...pair })) : cell;
  });
}

function tryCell(document: LoanDocument, change: TermsChange): TriedCell {
  const made = scheduleWith(document, { change });
  return made.ok ? loanOutcome(made.schedule) : (made.faults[0]?.message ?? '');
}

/** One outcome less another, figure by figure; the reason where one of them cannot be. */
function lessThan(cell: TriedCell, other: TriedCell): TriedCell {
  if (typeof cell === 'string') return cell;
  if (typeof other === 'string') return other;
  const both = cell.payment !== undefined && other.payment !== undefined;
  return {
    payment: both ? (cell.payment ?? 0) - (other.payment ?? 0) : undefined,
    payments: cell.payments - other.payments,
    interest: cell.interest - other.interest,
    paid: cell.paid - other.paid,
    last: cell.last - other.last,
    left: cell.left - other.left,
  };
}
