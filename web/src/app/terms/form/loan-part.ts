import { fieldsOf } from '../../fields/field';
import { present, type FieldReader } from '../../fields/field-reader';
import { partOf, type Part } from '../../fields/described-part';
import { formatDay } from '@coffer/core';
import { readPartOf } from '../../typed/part-of';
import { readEvents, type DescribedEvents } from '../described/described-event';
import { eventFieldsOf, lineEventFields } from '../described/event-fields';
import { lineSections } from '../described/line-sections';
import { loanSections } from '../described/loan-sections';
import { fieldsOfStretch } from '../described/stretch-fields';
import { firstPayment } from './first-payment';
import type { EventType, TypedEvent } from './event-form';
import type { KeptEvent, PartOfForm } from './part-of-form';
import type { TypedLoan } from './loan-form';
import { seasonalPhases } from './seasonal-phases';
import type { TypedStretch } from './stretch-form';
import { stretchesInPayments } from './stretch-terms';

/** The part of a document that a loan's fields make. */
export function loanPart(
  loan: TypedLoan,
  currency: string,
  reader: FieldReader,
  kept: readonly KeptEvent[],
): PartOfForm {
  const part = partOf(fieldsOf(loanSections), loan, reader);
  if (loan.financed === 'purchase') {
    const down = readPartOf(loan.downPayment, loan.price, currency) ?? loan.downPayment;
    Object.assign(part['purchase'] ?? {}, { downPayment: reader.amount('purchase.downPayment', down) });
  }
  const payments = part['payments'] as Part;
  if (loan.due === 'start') payments['first'] = reader.day('payments.first', loan.start);
  else if (loan.first.trim() === '') {
    const offered = firstPayment(loan);
    if (offered !== undefined) payments['first'] = formatDay(offered);
    else if (loan.financed === 'taken-on') reader.missing.push('payments.first');
  }
  const phases = phasesOf(loan, reader);
  payments['phases'] = phases.map(({ phase }) => phase);
  const stretchOf = phases.map(({ of }) => of);
  return { ...borrowedPart(part, loan, eventFieldsOf(loan), reader, kept), stretchOf };
}

/** The part of a document that a credit line's fields make. */
export function creditLinePart(loan: TypedLoan, reader: FieldReader, kept: readonly KeptEvent[]): PartOfForm {
  const part = partOf(fieldsOf(lineSections), loan, reader);
  if (part['issueCosts']) Object.assign(part['issueCosts'], { method: 'straight-line' });
  return borrowedPart({ ...part, billing: 'month' }, loan, lineEventFields, reader, kept);
}

/** What loans and credit lines are asked alike; events that the form does not show follow those it does. */
function borrowedPart(
  part: Part,
  loan: TypedLoan,
  described: DescribedEvents<EventType, TypedEvent>,
  reader: FieldReader,
  kept: readonly KeptEvent[],
): PartOfForm {
  const { lists, keys } = readEvents(described, loan.events, reader);
  const rate = part['rate'] as Part;
  if (loan.floating) {
    const index = (rate['index'] ?? {}) as Part;
    rate['index'] = {
      ...index,
      name: index['name'] ?? 'Index',
      fixings: lists.get('rate.index.fixings') ?? [],
    };
  }
  const { interestRounding: interest, paymentRounding: payment, ties } = loan;
  const plain = interest === 'cent' && payment === 'cent' && ties === 'away-from-zero';
  const events = [...(lists.get('events') ?? []), ...kept];
  return {
    part: present({
      ...part,
      rate: present({ ...rate, steps: lists.get('rate.steps') }),
      issueCosts: loan.costs.trim() === '' ? undefined : part['issueCosts'],
      rounding: plain ? undefined : { interest, payment, ties },
      events: events.length > 0 ? events : undefined,
    }),
    eventKeys: keys,
  };
}

/** The phases that the stretches make, each with the place of its stretch, by which what is wrong in it is said. */
function phasesOf(loan: TypedLoan, reader: FieldReader): { phase: Part; of: number }[] {
  const stretches = stretchesInPayments(loan);
  return stretches.flatMap((stretch, of) => {
    const key = `payments.phases.${of}`;
    const made =
      stretch.type === 'seasonal'
        ? seasonalPhases(loan, stretch, { key, last: of === stretches.length - 1 }, reader)
        : [stretchPart(stretch, key, reader)];
    return made.map((phase) => ({ phase, of }));
  });
}

function stretchPart(stretch: TypedStretch, key: string, reader: FieldReader): Part {
  const { type, unpaid } = stretch;
  const said: Part = { type, ...partOf(fieldsOfStretch(type), stretch, reader, key) };
  if (type !== 'no-payment') return said;
  return {
    ...said,
    interest: unpaid === 'added-each-period' ? unpaid : 'kept-apart',
    then: unpaid === 'kept-then-paid' ? 'pay' : 'add-to-balance',
  };
}
