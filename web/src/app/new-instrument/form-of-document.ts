import type { InstrumentDocument } from '@coffer/contract';
import { showDay, showDecimal } from '../figures/show';
import { extraForm, stretchForm, type TermsForm } from './terms-form';
import type { KeptEvent } from './typed-document';

const percentOf = (rate: string | undefined): string => rate?.replace('%', '') ?? '';
const amountOf = (amount: string | undefined): string => (amount === undefined ? '' : showDecimal(amount));
const dayOf = (day: string | undefined): string => (day === undefined ? '' : showDay(day));
const countOf = (count: number | undefined): string => (count === undefined ? '' : String(count));

/** Fills the form from a document; gives back the events that the form does not show. */
export function fillForm(form: TermsForm, document: InstrumentDocument): KeptEvent[] {
  const { kind, name, lender, agreement } = document;
  form.patchValue({ kind, name, lender: lender ?? '', agreement: agreement ?? '' });
  return document.kind === 'loan' ? fillLoan(form, document) : fillBond(form, document);
}

function fillLoan(form: TermsForm, document: Extract<InstrumentDocument, { kind: 'loan' }>): KeptEvent[] {
  const { loan } = form.controls;
  const { rate, payments, purchase, rounding } = document;
  loan.patchValue({
    class: document.class ?? 'term-loan',
    financed: purchase ? 'purchase' : 'amount',
    amount: amountOf(document.amount),
    price: amountOf(purchase?.price),
    downPayment: amountOf(purchase?.downPayment),
    start: dayOf(document.start),
    rate: percentOf(rate.annual),
    dayCount: rate.dayCount ?? 'even-periods',
    every: payments.every,
    first: dayOf(payments.first),
    monthEnd: payments.monthEnd ?? false,
    interestRounding: rounding?.interest ?? 'cent',
    paymentRounding: rounding?.payment ?? 'cent',
    ties: rounding?.ties ?? 'away-from-zero',
  });
  loan.controls.stretches.clear();
  for (const phase of payments.phases) {
    const shared = { type: phase.type, count: countOf(phase.count) };
    const payment = phase.type === 'interest-only' ? '' : amountOf(phase.payment);
    const amortizeOver = phase.type === 'level' ? countOf(phase.amortizeOver) : '';
    loan.controls.stretches.push(stretchForm({ ...shared, payment, amortizeOver }));
  }
  loan.controls.extras.clear();
  const kept: KeptEvent[] = [];
  for (const event of document.events ?? []) {
    if (event.type === 'paid') kept.push(event);
    else {
      loan.controls.extras.push(
        extraForm({
          when: event.every === undefined ? 'once' : 'each',
          on: dayOf(event.on),
          from: dayOf(event.from),
          to: dayOf(event.to),
          amount: amountOf(event.amount),
        }),
      );
    }
  }
  return kept;
}

function fillBond(form: TermsForm, document: Extract<InstrumentDocument, { kind: 'bond' }>): KeptEvent[] {
  form.controls.bond.patchValue({
    class: document.class ?? 'bond',
    face: amountOf(document.face),
    issued: dayOf(document.issued),
    matures: dayOf(document.matures),
    coupon: percentOf(document.coupon.annual),
    every: document.coupon.every,
    dayCount: document.coupon.dayCount ?? '30/360',
    monthEnd: document.coupon.monthEnd ?? false,
    price: document.price ?? '',
    yield: percentOf(document.yield),
    effectiveRate: document.amortization?.rate ?? 'default',
    interestRounding: document.rounding?.interest ?? 'cent',
  });
  return [];
}
