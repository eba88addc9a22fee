import { formatDay } from '@coffer/core';
import { documentVersion, type Fault } from '@coffer/contract';
import { readDay } from '../typed/typed-day';
import { readNumber, readPercent } from '../typed/typed-number';
import type { TypedTerms } from './terms-form';

/** What was typed as an instrument document, with what could not be read, by the document's keys. */
export interface TypedDocument {
  readonly document: object;
  readonly faults: readonly Fault[];
  /** Keys of fields that are needed and still empty. */
  readonly missing: readonly string[];
}

/** A recorded payment or another event that the form does not show and keeps as it is. */
export type KeptEvent = Readonly<Record<string, unknown>>;

/** Reads typed fields one by one and notes what cannot be read. */
class FieldReader {
  readonly faults: Fault[] = [];
  readonly missing: string[] = [];

  private read(
    key: string,
    typed: string,
    to: (text: string) => string | undefined,
    expected: string,
  ): string | undefined {
    if (typed.trim() === '') {
      this.missing.push(key);
      return undefined;
    }
    const read = to(typed);
    if (read === undefined)
      this.faults.push({ key, message: `“${typed.trim()}” is not understood; type ${expected}.` });
    return read;
  }

  amount(key: string, typed: string): string | undefined {
    return this.read(key, typed, readNumber, 'an amount such as 640,000.00 or 1.2m');
  }

  rate(key: string, typed: string): string | undefined {
    const percent = this.read(key, typed, readPercent, 'a percentage such as 6.1 or 6 1/8');
    return percent === undefined ? undefined : `${percent}%`;
  }

  percent(key: string, typed: string): string | undefined {
    return this.read(key, typed, readPercent, 'a price in percent of face such as 96.75');
  }

  day(key: string, typed: string): string | undefined {
    const to = (text: string): string | undefined => {
      const day = readDay(text);
      return day === undefined ? undefined : formatDay(day);
    };
    return this.read(key, typed, to, 'a date that exists, such as 15 Jun 2026');
  }

  count(key: string, typed: string): number | undefined {
    const count = this.read(
      key,
      typed,
      (text) => (/^\d{1,6}$/.test(text.trim()) ? text.trim() : undefined),
      'a whole number',
    );
    return count === undefined ? undefined : Number(count);
  }

  /** The same for a field that may stay empty. */
  optional<T>(typed: string, read: () => T | undefined): T | undefined {
    return typed.trim() === '' ? undefined : read();
  }
}

/** An object without the keys that are undefined. */
function present(entries: Record<string, unknown>): Record<string, unknown> {
  return Object.fromEntries(Object.entries(entries).filter(([, value]) => value !== undefined));
}

/** Makes a document of what was typed. Events that the form does not show follow those it does. */
export function typedDocument(
  typed: TypedTerms,
  currency: string,
  kept: readonly KeptEvent[],
): TypedDocument {
  const read = new FieldReader();
  if (typed.name.trim() === '') read.missing.push('name');
  const head = {
    document: documentVersion,
    kind: typed.kind,
    name: typed.name.trim() || 'Unnamed',
    lender: typed.lender.trim() || undefined,
    agreement: typed.agreement.trim() || undefined,
    currency,
  };
  const rest = typed.kind === 'loan' ? loanPart(typed.loan, read, kept) : bondPart(typed.bond, read);
  return { document: present({ ...head, ...rest }), faults: read.faults, missing: read.missing };
}

function loanPart(
  loan: TypedTerms['loan'],
  read: FieldReader,
  kept: readonly KeptEvent[],
): Record<string, unknown> {
  const events = [...loan.extras.map((extra, at) => extraPart(extra, `events.${at}`, read)), ...kept];
  const purchase = loan.financed === 'purchase' && {
    purchase: {
      price: read.amount('purchase.price', loan.price),
      downPayment: read.amount('purchase.downPayment', loan.downPayment),
    },
  };
  const plain =
    loan.interestRounding === 'cent' && loan.paymentRounding === 'cent' && loan.ties === 'away-from-zero';
  return {
    class: loan.class,
    ...(purchase || { amount: read.amount('amount', loan.amount) }),
    start: read.day('start', loan.start),
    rate: present({ annual: read.rate('rate.annual', loan.rate), dayCount: loan.dayCount }),
    payments: present({
      every: loan.every,
      first: read.day('payments.first', loan.first),
      monthEnd: loan.monthEnd || undefined,
      phases: loan.stretches.map((stretch, at) => stretchPart(stretch, `payments.phases.${at}`, read)),
    }),
    rounding: plain
      ? undefined
      : { interest: loan.interestRounding, payment: loan.paymentRounding, ties: loan.ties },
    events: events.length === 0 ? undefined : events,
  };
}

function stretchPart(
  { type, count, amortizeOver, payment }: TypedTerms['loan']['stretches'][number],
  key: string,
  read: FieldReader,
): object {
  const payments = read.amount.bind(read, `${key}.payment`, payment);
  const counted = read.count.bind(read, `${key}.count`, count);
  if (type === 'interest-only') return present({ type, count: counted() });
  if (type === 'fixed') return present({ type, payment: payments(), count: read.optional(count, counted) });
  return present({
    type,
    count: counted(),
    amortizeOver: read.optional(amortizeOver, () => read.count(`${key}.amortizeOver`, amortizeOver)),
    payment: read.optional(payment, payments),
  });
}

function extraPart(extra: TypedTerms['loan']['extras'][number], key: string, read: FieldReader): object {
  const amount = read.amount(`${key}.amount`, extra.amount);
  if (extra.when === 'once')
    return present({ type: 'extra-principal', on: read.day(`${key}.on`, extra.on), amount });
  return present({
    type: 'extra-principal',
    every: 'payment',
    from: read.optional(extra.from, () => read.day(`${key}.from`, extra.from)),
    to: read.optional(extra.to, () => read.day(`${key}.to`, extra.to)),
    amount,
  });
}

function bondPart(bond: TypedTerms['bond'], read: FieldReader): Record<string, unknown> {
  const price = read.optional(bond.price, () => read.percent('price', bond.price));
  const marketYield = read.optional(bond.yield, () => read.rate('yield', bond.yield));
  if (bond.price.trim() === '' && bond.yield.trim() === '') read.missing.push('price');
  return {
    class: bond.class,
    face: read.amount('face', bond.face),
    issued: read.day('issued', bond.issued),
    matures: read.day('matures', bond.matures),
    coupon: present({
      annual: read.rate('coupon.annual', bond.coupon),
      every: bond.every,
      dayCount: bond.dayCount,
      monthEnd: bond.monthEnd || undefined,
    }),
    price,
    yield: marketYield,
    amortization:
      bond.effectiveRate === 'default' ? undefined : { method: 'effective', rate: bond.effectiveRate },
    rounding: bond.interestRounding === 'cent' ? undefined : { interest: bond.interestRounding },
  };
}
