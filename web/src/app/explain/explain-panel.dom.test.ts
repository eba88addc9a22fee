import { TestBed } from '@angular/core/testing';
import { explainLoanFigure, type FigureLink } from '@coffer/core';
import { describe, expect, it } from 'vitest';
import { levelLoan } from '../figures/testing/level-loan';
import { ExplainPanel } from './explain-panel';

describe('how a figure is made', () => {
  it('says its inputs, the unrounded value and the rounding, and each input leads to where it comes from', async () => {
    const fixture = TestBed.createComponent(ExplainPanel);
    fixture.componentRef.setInput('explanation', explainLoanFigure(levelLoan(), 1, 'interest'));
    const followed: FigureLink[] = [];
    let closed = 0;
    fixture.componentInstance.follow.subscribe((link) => followed.push(link));
    fixture.componentInstance.closed.subscribe(() => (closed += 1));
    await fixture.whenStable();
    const panel: HTMLElement = fixture.nativeElement;
    const lines = [...panel.querySelectorAll('dl > div')].map((line) =>
      [...line.children].map((part) => part.textContent?.trim()),
    );
    // 100,000.00 at 6 % in 12 payments of 8,606.64: after one, 91,893.36 bears 459.4668 in a month (annuity tables).
    const said = lines.map(([label, value]) => `${label}: ${value}`);
    expect(said.some((line) => line.endsWith('91,893.36'))).toBe(true);
    expect(lines.at(-2)).toEqual(['unrounded', '459.4668']);
    expect(lines.at(-1)?.[1]).toBe('459.47');
    panel.querySelector<HTMLButtonElement>('button.link')?.click();
    expect(followed).toHaveLength(1);
    document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
    panel.querySelector<HTMLButtonElement>('[aria-label="Close the explanation"]')?.click();
    expect(closed).toBe(2);
  });
});
