import type { CalendarDay } from '../calendar/calendar-day.ts';

/** An amount on a day, minor units. */
export interface DatedAmount {
  readonly on: CalendarDay;
  readonly amount: number;
}

/** What is paid, by day. */
export function paymentsOf(
  rows: readonly { readonly on: CalendarDay; readonly paid: number }[],
): DatedAmount[] {
  return rows.map(({ on, paid }) => ({ on, amount: paid }));
}

const yearDays = 365;
const lowest = -0.99;
const highest = 1e6;
const halvings = 200;

/**
 * What amounts are worth on a day at a yearly effective rate, minor units, unrounded; time is days ÷ 365.
 *
 * @param rate as a fraction
 */
export function presentValue(amounts: readonly DatedAmount[], on: CalendarDay, rate: number): number {
  const growth = Math.log1p(rate);
  return amounts.reduce(
    (sum, each) => sum + each.amount * Math.exp((-growth * (each.on - on)) / yearDays),
    0,
  );
}

/** What falls on each day together; what balances out falls away. Many loans are paid on one day. */
function byDay(amounts: readonly DatedAmount[]): DatedAmount[] {
  const sums = new Map<CalendarDay, number>();
  for (const { on, amount } of amounts) sums.set(on, (sums.get(on) ?? 0) + amount);
  return [...sums].flatMap(([on, amount]) => (amount === 0 ? [] : [{ on, amount }]));
}

/** The yearly effective rate at which amounts have no value; `undefined` where there is none. */
export function rateOfNoValue(amounts: readonly DatedAmount[], on: CalendarDay): number | undefined {
  const days = byDay(amounts);
  const value = (rate: number): number => presentValue(days, on, rate);
  let [low, high] = [lowest, 1];
  const atLow = value(low);
  while (Math.sign(value(high)) === Math.sign(atLow) && high < highest) high *= 4;
  if (atLow === 0 || Math.sign(value(high)) === Math.sign(atLow)) return undefined;
  for (let at = 0; at < halvings && high - low > 1e-12; at += 1) {
    const middle = (low + high) / 2;
    if (Math.sign(value(middle)) === Math.sign(atLow)) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
