import { Component, input } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { PublishedHorizon } from '@coffer/contract';
import { beforeEach, describe, expect, it } from 'vitest';
import { Chart } from '../charts/chart';
import { FrontierCurve } from './frontier-curve';

@Component({ selector: 'coffer-chart', template: '' })
class NoChart {
  readonly words = input('');
  readonly option = input<unknown>();
}

/** Horizons at the month ends from January 2027 on. */
const months = Array.from({ length: 60 }, (_, at): PublishedHorizon => {
  const clearBy = new Date(Date.UTC(2027, at + 1, 0)).toISOString().slice(0, 10);
  const price = { addedInterest: null, freedCash: null, priceOfWaiting: null };
  return { clearBy, interest: String(100 + at), monthlyCash: String(1000 - at), ...price };
});
const worthIt = { hurdle: null, crossing: { years: '2.5', monthlyCash: '970.00', interest: '130.00' } };

let fixture: ComponentFixture<FrontierCurve>;
let curve: HTMLElement;
let wished: string[];
beforeEach(async () => {
  TestBed.overrideComponent(FrontierCurve, { remove: { imports: [Chart] }, add: { imports: [NoChart] } });
  fixture = TestBed.createComponent(FrontierCurve);
  const years = months.filter((_, at) => at % 12 === 11);
  const inputs = {
    compared: { months: { horizons: months, worthIt }, years: { horizons: years, worthIt } },
    clearBy: '2028-06-30',
    totals: { interest: '118.00', monthlyCash: '982.00' },
    contractual: 500,
    hurdle: '',
    without: [],
    freed: 'year',
  };
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  wished = [];
  fixture.componentInstance.wish.subscribe((day) => wished.push(day));
  await fixture.whenStable();
  curve = fixture.nativeElement.querySelector('[role=slider]');
});
const press = (key: string, more: KeyboardEventInit = {}): boolean =>
  curve.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));

describe('the day on the curve by keyboard', () => {
  it('goes on from the day last wished for, though the keys come before anything is drawn', () => {
    press('ArrowRight');
    press('ArrowRight', { shiftKey: true });
    press('ArrowUp', { shiftKey: true });
    press('ArrowLeft');
    expect(wished).toEqual(['2029-06-30', '2029-07-31', '2029-08-31', '2028-08-31']);
  });

  it('ends where the curve does, and goes to where a year more adds as much as it frees', () => {
    for (const key of ['End', 'ArrowRight', 'Home', 'ArrowLeft', 'c']) press(key);
    expect(wished).toEqual(['2031-12-31', '2031-12-31', '2027-01-31', '2027-01-31', '2029-06-30']);
  });

  it('follows the day that is typed, and leaves keys alone that are others’', async () => {
    press('ArrowRight');
    fixture.componentRef.setInput('clearBy', '2030-03-31');
    await fixture.whenStable();
    expect(curve.getAttribute('aria-valuenow')).toBe('2030');
    press('ArrowLeft', { shiftKey: true });
    expect(wished.at(-1)).toBe('2030-02-28');
    // Nothing is cheapest where it is not typed what cash is worth.
    press('h');
    expect([press('x'), press('ArrowLeft', { ctrlKey: true }), press('Tab')]).toEqual([true, true, true]);
    expect(wished).toHaveLength(2);
  });
});
