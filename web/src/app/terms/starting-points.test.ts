import '@angular/compiler';
import { parseDay, proofsOf } from '@coffer/core';
import { readInstrument } from '@coffer/contract';
import { describe, expect, it } from 'vitest';
import { firstPaymentHint } from './form/first-payment';
import { eventForm } from './form/event-form';
import { putBack, termsForm, type TypedTerms } from './form/terms-form';
import { typedDocument } from './form/typed-document';
import { begunFrom, firstDayOfEvent, startingPoints, type StartingPoint } from './starting-points';

const day = (text: string): number => parseDay(text) as number;

/** What an agreement begun from a point still asks for, typed in. */
function filledIn(point: StartingPoint): TypedTerms {
  const typed = begunFrom(point, termsForm().getRawValue());
  const listed = '15 jul 26  60,000\n15 jan 27  70k';
  const stretches = typed.loan.stretches.map((stretch) => ({
    ...stretch,
    ...(stretch.type === 'fixed' && { payment: '2,000' }),
    ...(stretch.type === 'custom' && { listed }),
  }));
  const events = typed.loan.events.map((event) => ({
    ...event,
    on: '15 jan 26',
    amount: '10k',
    rate: '3 1/8',
  }));
  const bondEvents = typed.bond.events.map((event, at) => ({ ...event, on: `1 apr 3${at}`, face: '250k' }));
  const price = typed.bond.price || '97.5';
  return {
    ...typed,
    name: point.name,
    loan: {
      ...typed.loan,
      amount: '120,000',
      price: '150k',
      downPayment: '30k',
      accrued: '250',
      limit: '400k',
      start: '15 jan 26',
      first: '15 jul 26',
      rate: '6 1/4',
      indexName: 'Three-month rate',
      stretches,
      events,
    },
    bond: {
      ...typed.bond,
      face: '1m',
      issued: typed.bond.soldBetween ? '15 jun 26' : '1 apr 26',
      dated: '1 apr 26',
      matures: '1 apr 34',
      coupon: '5.5',
      price,
      events: bondEvents,
    },
  };
}

describe('every agreement to begin from', () => {
  it.each(startingPoints.map((point) => [point.name, point] as const))(
    '%s: asks for nothing more than its figures, and makes a schedule whose proofs hold',
    (_, point) => {
      const typed = filledIn(point);
      const { document, faults, missing } = typedDocument(typed, 'EUR', []);
      expect([faults, missing]).toEqual([[], []]);
      const reading = readInstrument(document);
      if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
      expect(reading.instrument.document.kind).toBe(point.kind);
      expect(proofsOf(reading.instrument.schedule).filter(({ holds }) => !holds)).toEqual([]);
    },
  );

  it('keeps what was typed before, and fits the form it is put into', () => {
    const form = termsForm();
    form.patchValue({ name: 'Kept', loan: { amount: '5m', start: '1 mar 26', rate: '4' } });
    for (const point of startingPoints) {
      putBack(form, begunFrom(point, form.getRawValue()));
      const { name, kind, loan, bond } = form.getRawValue();
      expect([name, kind, loan.amount, loan.start, loan.rate]).toEqual([
        'Kept',
        point.kind,
        '5m',
        '1 mar 26',
        '4',
      ]);
      if (point.kind === 'bond') expect(bond.events).toHaveLength(point.bondEvents?.length ?? 0);
      else expect(loan.stretches).toHaveLength(point.stretches?.length ?? 0);
    }
  });

  // Common practice: without interest an amount is repaid by equal parts of it.
  it('Seasonal payments: without interest each of thirty payments is a thirtieth', () => {
    const point = startingPoints.find(({ name }) => name === 'Seasonal payments') as StartingPoint;
    const typed = filledIn(point);
    const { document } = typedDocument({ ...typed, loan: { ...typed.loan, rate: '0' } }, 'EUR', []);
    const reading = readInstrument(document);
    const schedule = reading.ok ? reading.instrument.schedule : undefined;
    if (schedule?.kind !== 'loan') throw new Error('not read');
    const paid = [...schedule.payment.subarray(0, schedule.length)].filter((payment) => payment > 0);
    expect(paid).toEqual(new Array(30).fill(400_000));
  });
});

describe('the day a new event is first put on', () => {
  const { loan } = termsForm().getRawValue();
  const dues = ['2026-02-15', '2026-03-15', '2026-04-15'].map(day);
  const begun = { ...loan, start: '15 jan 26' };

  it('is the due date after the last event, or after the as-of date of a loan that runs', () => {
    expect(firstDayOfEvent('draw', begun, dues, day('2025-12-31'))).toBe('15 Feb 2026');
    expect(firstDayOfEvent('draw', begun, dues, day('2026-02-28'))).toBe('15 Mar 2026');
    const events = [eventForm({ type: 'draw', on: '20 mar 26' }).getRawValue()];
    expect(firstDayOfEvent('draw', { ...begun, events }, dues, day('2026-02-28'))).toBe('15 Apr 2026');
    // A renewal takes up where the payments end.
    expect(firstDayOfEvent('renewal', begun, dues, day('2026-01-31'))).toBe('15 Apr 2026');
  });

  it('is a month on where nothing is due any more, and nothing before a start is typed', () => {
    const events = [eventForm({ type: 'extra-each', from: '15 apr 26' }).getRawValue()];
    expect(firstDayOfEvent('draw', { ...begun, events }, dues, undefined)).toBe('15 May 2026');
    expect(firstDayOfEvent('draw', loan, [], day('2026-02-28'))).toBe('');
  });
});

describe('a first payment on the last day of a month', () => {
  const { loan } = termsForm().getRawValue();
  it('says on which day the others follow, unless that cannot be doubted', () => {
    expect(firstPaymentHint({ ...loan, first: '28 feb 26' })).toBe('28 Feb 2026, then on the 28th');
    expect(firstPaymentHint({ ...loan, first: '28 feb 26', monthEnd: true })).toBe('28 Feb 2026');
    expect(firstPaymentHint({ ...loan, first: '28 feb 26', every: 'two-weeks' })).toBe('28 Feb 2026');
    expect(firstPaymentHint({ ...loan, first: '31 mar 26' })).toBe('31 Mar 2026');
    expect(firstPaymentHint({ ...loan, first: '27 feb 26' })).toBe('27 Feb 2026');
  });
});
