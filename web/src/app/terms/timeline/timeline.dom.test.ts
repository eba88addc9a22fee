import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { loanForm } from '../form/loan-form';
import { eventForm } from '../form/event-form';
import { stretchForm } from '../form/stretch-form';
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
    expect(told()).toEqual(['shift 1', 'to-due -1']);
  });

  it('goes along with a stretch that it moves, and stays where there is no place to move to', async () => {
    const form = loanForm();
    form.patchValue({ start: '2026-01-01', first: '2026-02-01' });
    form.controls.stretches.push(stretchForm({ type: 'interest-only', count: '6' }));
    const model = timelineModel(form.getRawValue(), { spans: [], renewals: [] }, false);
    fixture.componentRef.setInput('model', model);
    await fixture.whenStable();
    const [first, second] = [button(/^Stretch 1/), button(/^Stretch 2/)];
    first.focus();
    press(first, 'ArrowRight', { altKey: true });
    expect(document.activeElement).toBe(second);
    press(second, 'ArrowRight', { altKey: true });
    expect(document.activeElement).toBe(second);
    expect(told()).toEqual(['reorder 1', 'reorder 1']);
  });

  it('does nothing where it is only looked at', async () => {
    fixture.componentRef.setInput('fixed', true);
    await fixture.whenStable();
    press(button(/^Stretch 1/), 'Delete');
    expect(acts).toEqual([]);
    expect(fixture.nativeElement.querySelector('.handle')).toBeNull();
  });
});
