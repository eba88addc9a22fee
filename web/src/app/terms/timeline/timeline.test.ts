import '@angular/compiler';
import fc from 'fast-check';
import { showDay } from '@coffer/contract';
import { describe, expect, it } from 'vitest';
import { readDay } from '../../typed/typed-day';
import { eventForm } from '../form/event-form';
import { loanForm, type LoanForm } from '../form/loan-form';
import { stretchForm } from '../form/stretch-form';
import { carryOut } from './carry-out';
import type { TimelineAct } from './timeline';
import { placeOf, timelineModel, type TimelineItem, type TimelineModel } from './timeline-model';

const start = 20_500;
const dues = Array.from({ length: 24 }, (_, month) => start + 30 * (month + 1));

/** A monthly loan of two stretches with draws on the given days after its start. */
function composed(days: readonly number[]): LoanForm {
  const form = loanForm();
  form.patchValue({ start: showDay(start) });
  form.controls.stretches.clear();
  for (const type of ['interest-only', 'level'] as const) {
    form.controls.stretches.push(stretchForm({ type, count: '12' }));
  }
  for (const after of days)
    form.controls.events.push(eventForm({ type: 'draw', on: showDay(start + after) }));
  return form;
}
const drawn = (form: LoanForm): TimelineModel => {
  const made = timelineModel(form.getRawValue(), { spans: [], renewals: [] }, false);
  if (!made) throw new Error('nothing is drawn');
  return made;
};
const act = (form: LoanForm, kind: TimelineItem['kind'], at: number, what: object): void => {
  const { stretches, events } = drawn(form);
  const item = [...stretches, ...events].find((each) => each.kind === kind && each.at === at);
  carryOut({ ...what, item } as TimelineAct, form, dues);
};
const dayOfEvent = (form: LoanForm, at = 0): number =>
  readDay(form.controls.events.at(at).value.on ?? '') ?? 0;

describe('the line of a loan’s life', () => {
  it('lays stretches end to end from the start, and marks so that none covers another', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(1500), { maxLength: 12 }), (days) => {
        const model = drawn(composed(days));
        expect(model.stretches[0]?.from).toBe(start);
        expect(model.stretches[1]?.from).toBe(model.stretches[0]?.to);
        expect(model.events).toHaveLength(days.length);
        const width = (model.to - model.from) * 0.012;
        for (const one of model.events) {
          expect(one.lane).toBeLessThan(model.lanes);
          const inLane = model.events.filter((other) => other !== one && other.lane === one.lane);
          for (const other of inLane) expect(Math.abs(other.from - one.from)).toBeGreaterThanOrEqual(width);
          const place = placeOf(model, one.from);
          expect(place >= 0 && place <= 100).toBe(true);
        }
      }),
    );
  });

  it('gives a stretch the time that its payments take, before there is a schedule', () => {
    const form = composed([]);
    form.controls.stretches.at(1).patchValue({ count: '60' });
    const [first, second] = drawn(form).stretches;
    expect((first?.to ?? 0) - start).toBe(365);
    expect((second?.to ?? 0) - (first?.to ?? 0)).toBe(1826);
  });

  it('leaves out a name that the next mark would stand in, and only that', () => {
    const names = (days: number[]): string[] => drawn(composed(days)).events.map(({ short }) => short);
    expect(names([100, 400])).toEqual(['Draw', 'Draw']);
    expect(names([100, 115])).toEqual(['', 'Draw']);
  });

  it('is not there before a start is typed', () => {
    expect(timelineModel(loanForm().getRawValue(), { spans: [], renewals: [] }, false)).toBeUndefined();
  });
});

describe('what is done on the line', () => {
  it('lengthens, shortens and draws a stretch, never below one payment', () => {
    const form = composed([]);
    const count = (): string => form.controls.stretches.at(0).controls.count.value;
    act(form, 'stretch', 0, { act: 'lengthen', by: 3 });
    expect(count()).toBe('15');
    act(form, 'stretch', 0, { act: 'lengthen', by: -40 });
    expect(count()).toBe('1');
    act(form, 'stretch', 0, { act: 'place', day: start + 183 });
    expect(count()).toBe('6');
    act(form, 'stretch', 1, { act: 'remove' });
    act(form, 'stretch', 0, { act: 'remove' });
    expect(form.controls.stretches).toHaveLength(1);
  });

  it('moves an event to any day, dragged near a due date onto it, and by keys from one to the next', () => {
    const form = composed([40]);
    act(form, 'event', 0, { act: 'place', day: start + 61 });
    expect(dayOfEvent(form)).toBe(start + 61);
    act(form, 'event', 0, { act: 'place', day: start + 61, dragged: true });
    expect(dayOfEvent(form)).toBe(start + 60);
    act(form, 'event', 0, { act: 'to-due', by: 1 });
    expect(dayOfEvent(form)).toBe(start + 90);
    act(form, 'event', 0, { act: 'to-due', by: -1 });
    expect(dayOfEvent(form)).toBe(start + 60);
    act(form, 'event', 0, { act: 'remove' });
    expect(form.controls.events).toHaveLength(0);
  });

  it('does each of several keys, though they come before the line is drawn anew', () => {
    const form = composed([40]);
    const [item] = drawn(form).events;
    for (const by of [1, 1, -1, 1]) carryOut({ act: 'shift', by, item } as TimelineAct, form, dues);
    expect(dayOfEvent(form)).toBe(start + 42);
    for (let press = 0; press < 2; press += 1) carryOut({ act: 'remove', item } as TimelineAct, form, dues);
    expect(form.controls.events).toHaveLength(0);
    expect(form.controls.stretches).toHaveLength(2);
  });
});
