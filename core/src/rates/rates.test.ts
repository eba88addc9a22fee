import { Decimal } from 'decimal.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { calendarDay, formatDay, parseDay, type CalendarDay } from '../calendar/calendar-day.ts';
import { ratio, ratioFromDecimal, ratioToNumber, type Ratio } from '../money/ratio.ts';
import { formatPercent, formatPrice } from './annual-rate.ts';
import {
  compoundings,
  compoundingsPerYear,
  growsOnInterest,
  growthEstimate,
  growthOver,
} from './compounding.ts';
import { growthsAt } from './growths-at.ts';
import { indexedRate, missingFixings, type RateIndex } from './rate-index.ts';
import { rateAt, rateTimeline } from './rate-timeline.ts';

const day = (text: string): CalendarDay => parseDay(text) as CalendarDay;
const percent = (text: string): Ratio => ratio(ratioFromDecimal(text).num, ratioFromDecimal(text).den * 100n);

const Long = Decimal.clone({ precision: 120, toExpNeg: -200, toExpPos: 200 });
const years = fc.record({
  num: fc.integer({ min: 0, max: 400 }),
  den: fc.constantFrom(1, 2, 4, 12, 360, 365, 366),
});
const rates = fc.integer({ min: 0, max: 2_000_000 }).map((at) => ratio(BigInt(at), 10_000_000n));
const compounding = fc.constantFrom(...compoundings);

/** Kellison, The Theory of Interest, sections 1.8 and 1.9, in the logarithms of a library and 120 digits. */
function grown(
  annual: Ratio,
  of: (typeof compoundings)[number],
  share: { num: number; den: number },
): Decimal {
  const j = new Long(annual.num.toString()).div(annual.den.toString());
  const t = new Long(share.num).div(share.den);
  const m = compoundingsPerYear[of];
  if (m !== undefined) return j.div(m).plus(1).ln().times(m).times(t).exp().minus(1);
  return of === 'continuous' ? j.times(t).exp().minus(1) : j.times(t);
}

describe('growth under compounding', () => {
  it('is the nominal rate compounded so often, to sixty decimals', () => {
    fc.assert(
      fc.property(rates, compounding, years, (annual, of, share) => {
        const growth = growthOver(annual, of, share);
        const told = new Long(growth.num.toString()).div(growth.den.toString());
        const right = grown(annual, of, share);
        const scale = Decimal.max(1, right.abs());
        expect(told.minus(right).abs().div(scale).toNumber()).toBeLessThan(1e-60);
        const near = growthEstimate(annual, of, share);
        expect(Math.abs(near - right.toNumber())).toBeLessThanOrEqual(right.toNumber() * 1e-12);
        const atRate = growthsAt(new Long(annual.num.toString()).div(annual.den.toString()), of)(share);
        expect(atRate.minus(right).abs().div(scale).toNumber()).toBeLessThan(1e-60);
      }),
      { numRuns: 300 },
    );
  });

  it('is an exact fraction where it compounds a small whole number of times', () => {
    // 12 % monthly for three months: 1.01³ − 1.
    expect(growthOver(percent('12'), 'monthly', { num: 1, den: 4 })).toEqual(ratio(30_301n, 1_000_000n));
    // The effective rate of 10 % half-yearly is 10.25 %; handbooks of finance, from memory.
    expect(growthOver(percent('10'), 'half-yearly', { num: 1, den: 1 })).toEqual(percent('10.25'));
    expect(growthOver(percent('6'), 'quarterly', { num: 0, den: 1 })).toEqual(ratio(0n));
    expect(growthOver(ratio(0n), 'continuous', { num: 5, den: 1 })).toEqual(ratio(0n));
    expect(growthOver(percent('6'), 'simple', { num: 5, den: 3 })).toEqual(percent('10'));
  });

  it('earns interest on interest within a period but for the simple ways', () => {
    expect(compoundings.filter((of) => !growsOnInterest(of))).toEqual(['each-payment', 'simple']);
  });
});

describe('a rate in words', () => {
  it('has two decimals, or as many as it has up to twelve', () => {
    expect(
      ['6.1', '6', '0', '0.125', '12.3456789', '100'].map((text) => formatPercent(percent(text))),
    ).toEqual(['6.10%', '6.00%', '0.00%', '0.125%', '12.3456789%', '100.00%']);
    expect(formatPercent(ratio(1n, 300n))).toBe('0.333333333333%');
    expect(formatPercent(percent('-0.5'))).toBe('−0.50%');
    expect(formatPrice(ratio(403n, 400n))).toBe('100.75');
  });
});

describe('a rate that follows an index', () => {
  const index = (more: Partial<RateIndex> = {}): RateIndex => ({
    name: 'Norbay three-month rate',
    margin: percent('1.5'),
    payment: 're-level',
    fixings: [],
    ...more,
  });

  // Floor and cap hold the sum; without a floor it is not below zero (common practice).
  it('is index plus margin, held by its bounds beyond them and not on them', () => {
    const held = (fixing: string, more: Partial<RateIndex> = {}): [string, string | null] => {
      const { rate, heldBy } = indexedRate(index(more), percent(fixing));
      return [formatPercent(rate), heldBy];
    };
    const bounds = { floor: percent('2'), cap: percent('5') };
    expect(held('2')).toEqual(['3.50%', null]);
    expect(held('0.5', bounds)).toEqual(['2.00%', null]);
    expect(held('0.49', bounds)).toEqual(['2.00%', 'floor']);
    expect(held('3.5', bounds)).toEqual(['5.00%', null]);
    expect(held('3.51', bounds)).toEqual(['5.00%', 'cap']);
    expect(held('-1.5')).toEqual(['0.00%', null]);
    expect(held('-1.51')).toEqual(['0.00%', 'zero']);
    expect(held('-2', { floor: percent('-1') })).toEqual(['−0.50%', null]);
    expect(held('-3', { floor: percent('-1') })).toEqual(['−1.00%', 'floor']);
  });

  it('lacks a fixing for each reset that has none, through the day asked for', () => {
    const start = day('2025-01-31');
    const lacking = (through: string, on: string[], more: Partial<RateIndex> = {}): string[] => {
      const fixings = on.map((each) => ({ on: day(each), rate: percent('2') }));
      return missingFixings(
        index({ resetEvery: 'quarter', fixings, ...more }),
        start,
        true,
        day(through),
      ).map(formatDay);
    };
    expect(lacking('2025-04-29', [])).toEqual([]);
    expect(lacking('2025-04-30', [])).toEqual(['2025-04-30']);
    expect(lacking('2025-10-31', ['2025-04-30'])).toEqual(['2025-07-31', '2025-10-31']);
    // With one set by the start the start is a reset of its own.
    expect(lacking('2025-04-30', ['2025-01-15'])).toEqual(['2025-01-31', '2025-04-30']);
    expect(lacking('2025-04-30', ['2025-01-31'])).toEqual(['2025-04-30']);
    expect(missingFixings(index(), start, true, day('2030-01-01'))).toEqual([]);
  });
});

describe('the rates of an agreement', () => {
  const start = calendarDay(2025, 3, 1);
  const step = (from: string, annual: string): Parameters<typeof rateTimeline>[2][number] => ({
    from: day(from),
    annualRate: percent(annual),
    payment: 'keep',
  });

  it('hold from their day on, the newest of those set by the start from there', () => {
    const steps = [step('2025-06-01', '5'), step('2025-02-01', '3'), step('2025-03-01', '4')];
    const found = rateTimeline(start, percent('6'), steps);
    expect(found.map(({ from, annualRate }) => [formatDay(from), ratioToNumber(annualRate)])).toEqual([
      ['2025-03-01', 0.04],
      ['2025-06-01', 0.05],
    ]);
    expect(
      ['2025-02-28', '2025-05-31', '2025-06-01', '2026-01-01'].map((on) => rateAt(found, day(on))),
    ).toEqual([0, 0, 1, 1]);
    expect(rateTimeline(start, percent('6'), [])).toEqual([
      { from: start, annualRate: percent('6'), payment: 'keep', because: 'agreed' },
    ]);
    expect(
      rateTimeline(start, percent('6'), [step('2025-03-02', '5')]).map(({ because }) => because),
    ).toEqual(['agreed', 'step on 2025-03-02']);
  });

  it('tell what a fixing made of them', () => {
    const index: RateIndex = {
      name: 'Norbay rate',
      margin: percent('1'),
      cap: percent('4'),
      payment: 're-level',
      fixings: [
        { on: day('2025-09-01'), rate: percent('3.5') },
        { on: day('2025-03-01'), rate: percent('2') },
        { on: day('2025-12-01'), rate: percent('-2') },
      ],
    };
    expect(
      rateTimeline(start, percent('9'), [], index).map(({ because, payment }) => [because, payment]),
    ).toEqual([
      ['Norbay rate 2.00% on 2025-03-01 + 1.00%', 're-level'],
      ['Norbay rate 3.50% on 2025-09-01 + 1.00%, held by the cap', 're-level'],
      ['Norbay rate −2.00% on 2025-12-01 + 1.00%, held by the least rate of zero', 're-level'],
    ]);
  });
});
