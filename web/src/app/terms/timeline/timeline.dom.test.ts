import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { loanForm } from '../form/loan-form';
import { eventForm } from '../form/event-form';
import { Timeline, type TimelineAct } from './timeline';
import { timelineModel } from './timeline-model';

let fixture: ComponentFixture<Timeline>;
let acts: TimelineAct[];
beforeEach(async () => {
  const form = loanForm();
  form.patchValue({ start: '2026-01-01', first: '2026-02-01' });
  form.controls.stretches.at(0).patchValue({ count: '24' });
  form.controls.events.push(eventForm({ type: 'extra', on: '15 jun 26', amount: '5,000' }));
  fixture = TestBed.createComponent(Timeline);
  const model = timelineModel(form.getRawValue(), { spans: [], renewals: [] }, false);
  fixture.componentRef.setInput('model', model);
  acts = [];
  fixture.componentInstance.acted.subscribe((act) => acts.push(act));
  await fixture.whenStable();
});

const button = (name: RegExp): HTMLElement => {
  const all = [...fixture.nativeElement.querySelectorAll('button')] as HTMLElement[];
  const found = all.find((each) => name.test(each.getAttribute('aria-label') ?? ''));
  if (!found) throw new Error(`No ${name} among ${all.map((each) => each.getAttribute('aria-label'))}`);
  return found;
};
const press = (on: HTMLElement, key: string, more: KeyboardEventInit = {}): void => {
  on.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, ...more }));
};
const told = (): string[] => acts.map((act) => [act.act, 'by' in act ? act.by : ''].join(' ').trim());

describe('a loan’s life by keyboard', () => {
  it('says of each stretch and event what it is and when', () => {
    expect(button(/^Stretch 1/).getAttribute('aria-label')).toMatch(
      /^Stretch 1: Level payments, 24 payments, 1 Jan 2026 to /,
    );
    expect(button(/^Extra principal/).getAttribute('aria-label')).toContain('15 Jun 2026');
  });

  it('lengthens a stretch by a payment or twelve, moves it in the order, opens and removes it', () => {
    const stretch = button(/^Stretch 1/);
    press(stretch, 'ArrowRight');
    press(stretch, 'ArrowLeft', { shiftKey: true });
    press(stretch, 'ArrowRight', { altKey: true });
    press(stretch, 'Enter');
    press(stretch, 'Delete');
    press(stretch, 'x');
    expect(told()).toEqual(['lengthen 1', 'lengthen -12', 'reorder 1', 'choose', 'remove']);
  });

  it('moves an event by a day, or to the next due date', () => {
    const event = button(/^Extra principal/);
    press(event, 'ArrowRight');
    press(event, 'ArrowLeft', { shiftKey: true });
    const [moved] = acts;
    // 15 June 2026 is day 20,619 of the calendar that counts from 1970.
    expect(moved).toMatchObject({ act: 'place', day: 20_620 });
    expect(told()[1]).toBe('to-due -1');
  });

  it('does nothing where it is only looked at', async () => {
    fixture.componentRef.setInput('fixed', true);
    await fixture.whenStable();
    press(button(/^Stretch 1/), 'Delete');
    expect(acts).toEqual([]);
    expect(fixture.nativeElement.querySelector('.handle')).toBeNull();
  });
});
