import { setImmediate } from 'node:timers/promises';
import type Holidays from 'date-holidays';
import type { ClosedDay, HolidayCountries } from '@coffer/contract';
import { faultyInput } from '../http/refusal.ts';

/** The most years that are proposed at once. */
const mostYears = 30;

/** Whose holidays, and of which years, both included. */
interface Asked {
  readonly country: string;
  readonly region?: string | undefined;
  readonly from: number;
  readonly to: number;
}

/** The library is large and seldom asked: it is there once it is. */
const library = async (): Promise<typeof Holidays> => (await import('date-holidays')).default;

/** The countries whose holidays are known, by name, with their regions. */
export async function countriesWithHolidays(): Promise<HolidayCountries> {
  const Known = await library();
  const all = new Known();
  return Object.entries(all.getCountries('en'))
    .map(([code, name]) => ({ code, name, regions: regionsOf(all, code) }))
    .sort((one, other) => one.name.localeCompare(other.name));
}

function regionsOf(all: Holidays, country: string): { code: string; name: string }[] {
  const states: unknown = all.getStates(country, 'en');
  return Object.entries((states ?? {}) as Record<string, string>).map(([code, name]) => ({ code, name }));
}

/**
 * The bank and public holidays of a country that fall on a weekday, as a kept library has them; each day once, in order.
 * Throws Refusal 422 for a country or a region that it does not know.
 */
export async function publishedHolidays({ country, region, from, to }: Asked): Promise<ClosedDay[]> {
  const known = (await countriesWithHolidays()).find(({ code }) => code === country);
  if (!known) throw faultyInput([{ key: 'country', message: `No holidays are known of ${country}.` }]);
  if (region !== undefined && !known.regions.some(({ code }) => code === region))
    throw faultyInput([{ key: 'region', message: `${known.name} has no region ${region}.` }]);
  if (to < from || to - from >= mostYears)
    throw faultyInput([{ key: 'to', message: `Give a year from ${from} to ${from + mostYears - 1}.` }]);
  const Known = await library();
  const calendar = region === undefined ? new Known(country) : new Known(country, region);
  const days = new Map<string, string>();
  for (let year = from; year <= to; year += 1) {
    // Some calendars follow the moon and are dear: whoever else calls has a turn between the years.
    await setImmediate();
    for (const { date, name, type } of calendar.getHolidays(year, 'en')) {
      const on = date.slice(0, 10);
      const weekday = new Date(`${on}T00:00:00Z`).getUTCDay();
      if ((type === 'public' || type === 'bank') && weekday !== 0 && weekday !== 6) days.set(on, name);
    }
  }
  return [...days].sort(([one], [other]) => one.localeCompare(other)).map(([on, name]) => ({ on, name }));
}
