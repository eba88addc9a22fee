import { showDay } from '@coffer/contract';
import { readDay } from '../typed/typed-day';
import { viewKindOf } from '../kinds/view-kinds';
import type { TypedBond, TypedBondEvent } from './form/bond-form';
import type { EventType, TypedEvent } from './form/event-form';
import type { TypedLoan } from './form/loan-form';
import type { TypedStretch } from './form/stretch-form';
import type { EnteredKind, TypedTerms } from './form/terms-form';

/** A common agreement to begin from: what it is, and how it fills the form; amounts and dates stay as typed. */
export interface StartingPoint {
  readonly name: string;
  readonly what: string;
  readonly kind: EnteredKind;
  readonly loan?: Partial<Omit<TypedLoan, 'stretches' | 'events'>>;
  readonly stretches?: readonly Partial<TypedStretch>[];
  readonly events?: readonly Partial<TypedEvent>[];
  readonly bond?: Partial<Omit<TypedBond, 'events'>>;
  readonly bondEvents?: readonly Partial<TypedBondEvent>[];
}

/** The agreements that most loans and bonds are one of. */
export const startingPoints: readonly StartingPoint[] = [
  {
    name: 'Level payments',
    what: 'the same payment each month until it is repaid',
    kind: 'loan',
    loan: {},
    stretches: [{ type: 'level', count: '60' }],
  },
  {
    name: 'Equal principal',
    what: 'the same principal each quarter, with the interest of the quarter',
    kind: 'loan',
    loan: { every: 'quarter' },
    stretches: [{ type: 'equal-principal', count: '20' }],
  },
  {
    name: 'Interest only, then level',
    what: 'interest for a year, then level payments',
    kind: 'loan',
    loan: {},
    stretches: [
      { type: 'interest-only', count: '12' },
      { type: 'level', count: '60' },
    ],
  },
  {
    name: 'Balloon',
    what: 'payments spread over 25 years, or leaving an agreed amount; the balance due after ten',
    kind: 'loan',
    loan: {},
    stretches: [{ type: 'level', count: '120', amortizeOver: '300' }],
  },
  {
    name: 'Left for renewal',
    what: 'a five-year term of a longer loan, renewed at a new rate',
    kind: 'loan',
    loan: { atEnd: 'leave' },
    stretches: [{ type: 'level', count: '60', amortizeOver: '300' }],
  },
  {
    name: 'Deferred start',
    what: 'nothing paid for a year while interest is added, then level payments',
    kind: 'loan',
    loan: {},
    stretches: [
      { type: 'no-payment', count: '12' },
      { type: 'level', count: '60' },
    ],
  },
  {
    name: 'Stepped payments',
    what: 'a smaller payment at first, then one that repays',
    kind: 'loan',
    loan: {},
    stretches: [
      { type: 'fixed', count: '24' },
      { type: 'level', count: '36' },
    ],
  },
  {
    name: 'Seasonal payments',
    what: 'the same payment in some months of the year, interest added in the others',
    kind: 'loan',
    loan: {},
    stretches: [{ type: 'seasonal', count: '60', months: 'apr to sep' }],
  },
  {
    name: 'Drawn as it is built',
    what: 'draws while interest is paid, then level payments',
    kind: 'loan',
    loan: {},
    stretches: [
      { type: 'interest-only', count: '12' },
      { type: 'level', count: '120' },
    ],
    events: [{ type: 'draw' }],
  },
  {
    name: 'Floating rate',
    what: 'an index with a margin, set anew each quarter',
    kind: 'loan',
    loan: { floating: true, resetEvery: 'quarter', every: 'quarter', dayCount: 'ACT/360' },
    stretches: [{ type: 'equal-principal', count: '20' }],
    events: [{ type: 'fixing' }],
  },
  {
    name: 'Financed purchase',
    what: 'a price, a down payment, and the rest in level payments',
    kind: 'loan',
    loan: { financed: 'purchase' },
    stretches: [{ type: 'level', count: '36' }],
  },
  {
    name: 'Listed payments',
    what: 'each payment with its own date and amount',
    kind: 'loan',
    loan: { dayCount: 'ACT/365F' },
    stretches: [{ type: 'custom' }],
  },
  {
    name: 'All at maturity',
    what: 'interest and principal in one payment, after days counted exactly',
    kind: 'loan',
    loan: { class: 'note', every: 'year', dayCount: 'ACT/360' },
    stretches: [{ type: 'interest-only', count: '1' }],
  },
  {
    name: 'Already running',
    what: 'a balance, the interest accrued, and what remains to be paid',
    kind: 'loan',
    loan: { financed: 'taken-on' },
    stretches: [{ type: 'level', count: '48' }],
  },
  {
    name: 'Credit line',
    what: 'draws and repayments up to a limit, billed monthly',
    kind: 'credit-line',
    loan: { dayCount: 'ACT/360' },
    stretches: [{ type: 'level' }],
    events: [{ type: 'draw' }],
  },
  {
    name: 'Bonds with coupons',
    what: 'half-yearly coupons, sold at a price or to a yield',
    kind: 'bond',
    bond: {},
  },
  {
    name: 'Bonds sold between coupon dates',
    what: 'the coupon accrued by the sale is received with the price',
    kind: 'bond',
    bond: { soldBetween: true, price: '', yield: '' },
  },
  {
    name: 'Serial bonds',
    what: 'part of the face falls due each year',
    kind: 'bond',
    bond: { every: 'year' },
    bondEvents: [{ type: 'instalment' }, { type: 'instalment' }],
  },
  {
    name: 'Note without coupon',
    what: 'sold at a discount, its face due at maturity',
    kind: 'bond',
    bond: { class: 'note', pays: 'nothing', every: 'year' },
  },
  {
    name: 'Note issued for goods',
    what: 'interest imputed at a market rate, the goods at present value',
    kind: 'bond',
    bond: { class: 'note', issuedFor: 'goods', pays: 'nothing', every: 'year' },
  },
];

/** What a form holds once it begins from an agreement; amounts, rates and dates stay as typed. */
export function begunFrom(point: StartingPoint, typed: TypedTerms): TypedTerms {
  return viewKindOf(point).form.begun(point, typed);
}

/**
 * The day that a new event is first put on: the due date after the last event and, in a loan that is running, after
 * the as-of date; a month after them where nothing is due any more. A renewal follows the last payment.
 */
export function firstDayOfEvent(
  type: EventType,
  loan: TypedLoan,
  dues: readonly number[],
  on: number | undefined,
): string {
  const last = dues.at(-1);
  if (type === 'renewal' && last !== undefined) return showDay(last);
  const events = loan.events.map((event) => (event.type === 'extra-each' ? event.from : event.on));
  const days = [loan.start, ...events].map((typed) => readDay(typed) ?? 0);
  const runs = on !== undefined && on > (dues[0] ?? on) && on < (dues.at(-1) ?? on);
  const latest = Math.max(...days, runs ? on : 0);
  if (latest === 0) return '';
  return showDay(dues.find((due) => due > latest) ?? latest + 30);
}
