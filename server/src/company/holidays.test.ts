import { describe, expect, it } from 'vitest';
import { countriesWithHolidays, publishedHolidays } from './holidays.ts';

describe('published holidays', () => {
  // Bavarian Feiertagsgesetz, articles 1 and 2: Corpus Christi and All Saints are kept in all of Bavaria, not in Berlin.
  it('are those of the country and its region, on weekdays, each once and in order', async () => {
    const of = async (region: string): Promise<string[]> =>
      (await publishedHolidays({ country: 'DE', region, from: 2026, to: 2027 })).map(({ on }) => on);
    const [bavaria, berlin] = [await of('BY'), await of('BE')];
    for (const day of ['2026-01-01', '2026-04-03', '2026-04-06', '2026-05-01', '2026-12-25', '2027-01-01'])
      expect([bavaria.includes(day), berlin.includes(day)]).toEqual([true, true]);
    expect([bavaria.includes('2026-06-04'), berlin.includes('2026-06-04')]).toEqual([true, false]);
    // All Saints 2026 and Reunification Day 2026 fall on a weekend.
    expect(bavaria.some((day) => ['2026-11-01', '2026-10-03'].includes(day))).toBe(false);
    expect(bavaria).toEqual([...new Set(bavaria)].sort());
    expect((await countriesWithHolidays()).find(({ code }) => code === 'DE')?.regions.length).toBe(16);
  });

  it('are refused for a country, a region or years that there are not', async () => {
    const asked = { country: 'DE', from: 2026, to: 2026 };
    for (const [more, key] of [
      [{ country: 'ZZ' }, 'country'],
      [{ region: 'ZZ' }, 'region'],
      [{ to: 2025 }, 'to'],
      [{ to: 2090 }, 'to'],
    ] as const)
      await expect(publishedHolidays({ ...asked, ...more })).rejects.toMatchObject({ faults: [{ key }] });
  });
});
