import {
  debtKindOf,
  flowsOf,
  formatAmount,
  formatDay,
  type Contract,
  type PlannedRow,
  type PlanMember,
} from '@coffer/core';
import type { InstrumentDocument } from '../document/instrument-document.ts';
import { changedInstrument, type InstrumentChange } from '../scenario/instrument-change.ts';

/** What makes an instrument be paid as a plan pays it. */
export interface PlanChange {
  readonly name: string;
  /** Nothing where the plan leaves it as it is, or where no events pay it so. */
  readonly change: InstrumentChange | undefined;
  /** Whether the plan pays it otherwise than its contract, and no events can say so. */
  readonly unsaid: boolean;
}

/** An instrument and the rows by which a plan pays it. */
export interface PaidMember {
  readonly member: PlanMember;
  readonly document: InstrumentDocument;
  readonly rows: readonly PlannedRow[];
}

/**
 * What a plan changes of each instrument, as events of a scenario: extra principal on its due dates, in place of what
 * voluntary extra principal it has after the plan's day. Each is worked out, and stands only where it pays as the plan.
 */
export function planChanges(members: readonly PaidMember[], on: number): PlanChange[] {
  return members.map(({ member, document, rows }) => {
    const { name, schedule } = member;
    const contract = debtKindOf(schedule).contract(schedule, on);
    if (!contract || sameAmounts(paidByDay(flowsOf(schedule), on), paidByDay(rows)))
      return { name, change: undefined, unsaid: false };
    const change =
      onceEach(document, contract, rows, on) ?? dayByDay(document, schedule.terms.digits, rows, on);
    return { name, change, unsaid: change === undefined };
  });
}

const extraPrincipal = 'extra-principal';

/** One event of the same amount with each payment, where that pays as the plan. */
function onceEach(
  document: InstrumentDocument,
  contract: Contract,
  rows: readonly PlannedRow[],
  on: number,
): InstrumentChange | undefined {
  const paid = paidByDay(rows);
  const { digits } = contract.schedule.terms;
  const [first] = contract.dues.flatMap(({ on: day, amount }) => {
    const more = (paid.get(day) ?? 0) - amount;
    return more > 0 ? [{ day, more }] : [];
  });
  if (!first) return undefined;
  const from = formatDay(first.day);
  const event = { type: extraPrincipal, every: 'payment', from, amount: formatAmount(first.more, digits) };
  const change = { ...withoutVoluntary(document, on), events: [event] };
  const made = paidUnder(document, change, on);
  return made && sameAmounts(made, paid) ? change : undefined;
}

/** As often as the payment is levelled anew, and once more. */
const mostPasses = 60;

/** One event a payment. What is paid on one day may level the payments after it anew, so that amounts are sought. */
function dayByDay(
  document: InstrumentDocument,
  digits: number,
  rows: readonly PlannedRow[],
  on: number,
): InstrumentChange | undefined {
  const paid = paidByDay(rows);
  const terms = withoutVoluntary(document, on);
  const extras = new Map<number, number>();
  for (let pass = 0; pass < mostPasses; pass += 1) {
    const events = [...extras]
      .filter(([, amount]) => amount > 0)
      .sort(([one], [other]) => one - other)
      .map(([day, amount]) => ({
        type: extraPrincipal,
        on: formatDay(day),
        amount: formatAmount(amount, digits),
      }));
    const change = { ...terms, events };
    const made = paidUnder(document, change, on);
    if (!made) return undefined;
    if (sameAmounts(made, paid)) return change;
    for (const [day, amount] of paid) {
      const more = amount - (made.get(day) ?? 0);
      if (more !== 0) extras.set(day, Math.max(0, (extras.get(day) ?? 0) + more));
    }
  }
  return undefined;
}

/** Terms without extra principal that is meant to be paid after a day. */
function withoutVoluntary(document: InstrumentDocument, on: number): Pick<InstrumentChange, 'terms'> {
  const day = formatDay(on);
  const events = document.events ?? [];
  const kept = events.flatMap((event): unknown[] => {
    if (event.type !== 'extra-principal') return [event];
    if (event.on !== undefined) return event.on > day ? [] : [event];
    if (event.to !== undefined && event.to <= day) return [event];
    return event.from !== undefined && event.from > day ? [] : [{ ...event, to: day }];
  });
  const same = kept.length === events.length && kept.every((event, at) => event === events[at]);
  return same ? {} : { terms: { events: kept } };
}

/** What is paid on each day after the plan's under a change; `undefined` where it does not fit. */
function paidUnder(
  document: InstrumentDocument,
  change: InstrumentChange,
  on: number,
): ReadonlyMap<number, number> | undefined {
  const reading = changedInstrument(document, change);
  return reading.ok ? paidByDay(flowsOf(reading.instrument.schedule), on) : undefined;
}

/** What is paid on each day after another. Minor units. */
function paidByDay(
  rows: readonly { readonly on: number; readonly paid: number }[],
  after = -Infinity,
): Map<number, number> {
  const sums = new Map<number, number>();
  for (const { on, paid } of rows) {
    if (on > after && paid !== 0) sums.set(on, (sums.get(on) ?? 0) + paid);
  }
  return sums;
}

function sameAmounts(one: ReadonlyMap<number, number>, other: ReadonlyMap<number, number>): boolean {
  return one.size === other.size && [...one].every(([day, paid]) => other.get(day) === paid);
}
