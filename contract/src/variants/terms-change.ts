import * as v from 'valibot';
import { compoundings } from '@coffer/core';
import { amountText, dayText, paymentCount, rateText, riseText } from '../document/scalars.ts';
import type { Fault } from '../faults/fault.ts';
import type { LoanEventDocument } from '../kinds/loan/loan-events-document.ts';
import type { LoanDocument, PhaseDocument } from '../kinds/loan/loan-document.ts';

/** What becomes of interest while no principal is repaid. */
export const meanwhiles = ['paid', 'added', 'apart-then-added', 'apart-then-paid'] as const;
export type Meanwhile = (typeof meanwhiles)[number];

/** A change of a loan's terms that is tried: from the start, or for what comes on and after a day. */
export const termsChange = v.strictObject({
  /** Rate, payment and number of payments change from this day on instead of from the start. */
  from: v.optional(dayText),
  annual: v.optional(rateText),
  amount: v.optional(amountText),
  /** Payments in all; with `from`, payments from then on. */
  payments: v.optional(paymentCount),
  /** Each payment. */
  payment: v.optional(amountText),
  /** By how much it rises each year. */
  paymentRises: v.optional(riseText),
  compounding: v.optional(v.picklist(compoundings)),
  meanwhile: v.optional(v.picklist(meanwhiles)),
  /** Extra principal with each payment. */
  extraEach: v.optional(amountText),
  /** By how much it rises each year. */
  extraRises: v.optional(riseText),
  /** First and last day of it; the whole life where they are left out. */
  extraFrom: v.optional(dayText),
  extraTo: v.optional(dayText),
  /** Extra principal once, and the day of it. */
  extraOnce: v.optional(amountText),
  extraOn: v.optional(dayText),
});
export type TermsChange = Readonly<v.InferOutput<typeof termsChange>>;

/** Either the changed document, or why the change does not fit it, by the change's keys. */
export type ChangedDocument =
  | { readonly ok: true; readonly document: LoanDocument }
  | { readonly ok: false; readonly faults: readonly Fault[] };

/**
 * A loan's document with a change made to it. What happened stays: recorded payments and events are kept, but for
 * steps of the rate after a day from which another rate is tried.
 */
export function changedDocument(document: LoanDocument, change: TermsChange): ChangedDocument {
  const faults: Fault[] = [];
  const fault = (key: keyof TermsChange, message: string): void => {
    faults.push({ key, message });
  };
  const { from } = change;
  if (from !== undefined && change.amount !== undefined)
    fault(
      'amount',
      'The amount can only be another one from the start; leave the day empty, or add a draw to the terms.',
    );
  if (from !== undefined && change.compounding !== undefined)
    fault('compounding', 'Compounding can only be another one from the start; leave the day empty.');
  if (from !== undefined && change.meanwhile !== undefined)
    fault('meanwhile', 'This can only be otherwise from the start; leave the day empty.');
  if (change.extraOn !== undefined && change.extraOnce === undefined)
    fault('extraOnce', 'Type how much is paid extra on that day.');
  if (change.extraOnce !== undefined && change.extraOn === undefined)
    fault('extraOn', 'Type the day it is paid.');
  if (change.paymentRises !== undefined && change.payment === undefined)
    fault('payment', 'Type the payment that rises.');
  if (change.extraRises !== undefined && change.extraEach === undefined)
    fault('extraEach', 'Type how much extra rises.');
  if (change.payment !== undefined && change.payments !== undefined)
    fault('payments', 'The payment and the number of payments make each other; change one of them.');
  const changed =
    from === undefined ? fromTheStart(document, change, fault) : fromDay(document, from, change, fault);
  return faults.length > 0 ? { ok: false, faults } : { ok: true, document: withExtra(changed, change) };
}

type SayFault = (key: keyof TermsChange, message: string) => void;

function fromTheStart(document: LoanDocument, change: TermsChange, fault: SayFault): LoanDocument {
  const { annual, amount, compounding, meanwhile } = change;
  if (annual !== undefined && document.rate.index)
    fault(
      'annual',
      `The rate follows ${document.rate.index.name}; type the day from which another rate is tried.`,
    );
  if (amount !== undefined && document.purchase)
    fault('amount', 'The amount is the price less the down payment; change those in the terms.');
  let phases = document.payments.phases;
  if (meanwhile !== undefined) phases = withMeanwhile(phases, meanwhile, fault);
  if (change.payments !== undefined) phases = withCount(phases, change.payments, fault);
  if (change.payment !== undefined) phases = withPayment(phases, change, change.payment, fault);
  return {
    ...document,
    ...(amount !== undefined && { amount }),
    rate: {
      ...document.rate,
      ...(annual !== undefined && { annual }),
      ...(compounding !== undefined && { compounding }),
    },
    payments: { ...document.payments, phases },
  };
}

function fromDay(document: LoanDocument, from: string, change: TermsChange, fault: SayFault): LoanDocument {
  const { annual, payment, payments } = change;
  const { index, steps = [] } = document.rate;
  if (annual !== undefined && index)
    fault(
      'annual',
      `The rate follows ${index.name}; what is to come of it is typed in the terms, as fixings.`,
    );
  const events: LoanEventDocument[] = [...(document.events ?? [])];
  const kept = annual === undefined ? steps : steps.filter((step) => step.from < from);
  const rate = annual ?? rateOn(document, from);
  if (payments !== undefined) {
    if (index || rate === undefined) fault('annual', 'Type the rate from that day on.');
    else events.push({ type: 'renewal', on: from, annual: rate, count: payments });
  }
  if (payment !== undefined)
    events.push({
      type: 'payment-change',
      on: from,
      payment,
      ...(change.paymentRises !== undefined && { rises: change.paymentRises }),
    });
  const steps2 =
    annual !== undefined && payments === undefined
      ? [
          ...kept,
          { from, annual, payment: payment === undefined ? ('re-level' as const) : ('keep' as const) },
        ]
      : kept;
  return { ...document, rate: { ...document.rate, ...(steps2.length > 0 && { steps: steps2 }) }, events };
}

/** The rate that the document states for a day. */
function rateOn({ rate, events = [] }: LoanDocument, day: string): string | undefined {
  const stated = [
    ...(rate.steps ?? []).map((step) => ({ on: step.from, annual: step.annual })),
    ...events.flatMap((event) => (event.type === 'renewal' ? [{ on: event.on, annual: event.annual }] : [])),
  ]
    .filter(({ on }) => on <= day)
    .sort((one, other) => one.on.localeCompare(other.on));
  const annual = stated.at(-1)?.annual ?? rate.annual;
  return annual === '?' ? undefined : annual;
}

/** The stretch that repays the loan: the last one. */
function replaceLast(phases: readonly PhaseDocument[], by: PhaseDocument): PhaseDocument[] {
  return [...phases.slice(0, -1), by];
}

function withCount(phases: readonly PhaseDocument[], payments: number, fault: SayFault): PhaseDocument[] {
  const last = phases.at(-1);
  if (!last || last.type === 'custom' || last.type === 'fixed') {
    const why =
      last?.type === 'custom'
        ? 'The payments are listed one by one'
        : 'The payments run until they have repaid the loan';
    fault('payments', `${why}; their number follows. Change the payment instead.`);
    return [...phases];
  }
  const before = phases.slice(0, -1).reduce((sum, phase) => sum + countOf(phase), 0);
  if (Number.isNaN(before)) {
    fault('payments', 'The number of payments is not fixed by these terms; change it in the terms.');
    return [...phases];
  }
  if (payments <= before) {
    fault(
      'payments',
      `${before} payments come before the stretch that repays the loan; type more than ${before}.`,
    );
    return [...phases];
  }
  return replaceLast(phases, { ...last, count: payments - before });
}

function countOf(phase: PhaseDocument): number {
  if (phase.type === 'custom') return phase.payments.length;
  return typeof phase.count === 'number' ? phase.count : Number.NaN;
}

function withPayment(
  phases: readonly PhaseDocument[],
  { paymentRises }: TermsChange,
  payment: string,
  fault: SayFault,
): PhaseDocument[] {
  const last = phases.at(-1);
  if (last?.type === 'level' || last?.type === 'fixed')
    return replaceLast(phases, {
      type: 'fixed',
      payment,
      ...(paymentRises !== undefined && { rises: paymentRises }),
    });
  fault(
    'payment',
    'The last stretch has no level payment that could be another one; change the stretch in the terms.',
  );
  return [...phases];
}

function withMeanwhile(
  phases: readonly PhaseDocument[],
  meanwhile: Meanwhile,
  fault: SayFault,
): PhaseDocument[] {
  const idle = (phase: PhaseDocument): boolean =>
    phase.type === 'interest-only' || phase.type === 'no-payment';
  if (!phases.some(idle))
    fault('meanwhile', 'Principal is repaid from the first payment on; there is no such stretch.');
  return phases.map((phase): PhaseDocument => {
    if (phase.type !== 'interest-only' && phase.type !== 'no-payment') return phase;
    const { count } = phase;
    if (meanwhile === 'paid') return { type: 'interest-only', count };
    if (meanwhile === 'added') return { type: 'no-payment', count, interest: 'added-each-period' };
    const then = meanwhile === 'apart-then-added' ? 'add-to-balance' : 'pay';
    return { type: 'no-payment', count, interest: 'kept-apart', then };
  });
}

function withExtra(document: LoanDocument, change: TermsChange): LoanDocument {
  const events: LoanEventDocument[] = [...(document.events ?? [])];
  if (change.extraEach !== undefined)
    events.push({
      type: 'extra-principal',
      every: 'payment',
      ...(change.extraFrom !== undefined && { from: change.extraFrom }),
      ...(change.extraTo !== undefined && { to: change.extraTo }),
      amount: change.extraEach,
      ...(change.extraRises !== undefined && { rises: change.extraRises }),
    });
  if (change.extraOnce !== undefined && change.extraOn !== undefined)
    events.push({ type: 'extra-principal', on: change.extraOn, amount: change.extraOnce });
  return events.length > 0 ? { ...document, events } : document;
}

/** Whether a change reaches back before what was recorded, so that recorded payments no longer fit it. */
export function changesFromTheStart({
  from,
  annual,
  amount,
  payments,
  payment,
  compounding,
  meanwhile,
}: TermsChange): boolean {
  if (from !== undefined) return false;
  return [annual, amount, payments, payment, compounding, meanwhile].some((value) => value !== undefined);
}

/** The document without recorded payments: every payment as scheduled. */
export function asScheduled(document: LoanDocument): LoanDocument {
  const { events, ...rest } = document;
  const kept = (events ?? []).filter((event) => event.type !== 'paid');
  return kept.length > 0 ? { ...rest, events: kept } : rest;
}
