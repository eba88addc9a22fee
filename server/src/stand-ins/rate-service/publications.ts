import { addMonths, calendarFields, formatDay, parseDay, type CalendarDay } from '@coffer/core';

/** An invented index: the first values of its history as they are, those after them by chance that repeats itself. */
interface Invented {
  readonly name: string;
  /** The day of its first value. */
  readonly since: string;
  /** Months from one value to the next. */
  readonly every: number;
  /** Thousandths of a percent. */
  readonly first: readonly number[];
}

const invented: readonly Invented[] = [
  {
    name: 'Norbay three-month rate',
    since: '2025-01-15',
    every: 1,
    first: [
      3180, 3125, 3090, 3040, 2985, 2940, 2905, 2870, 2815, 2760, 2715, 2680, 2645, 2655, 2690, 2710, 2675,
      2620, 2580, 2555, 2520, 2495,
    ],
  },
  {
    name: 'Norbay six-month rate',
    since: '2025-01-15',
    every: 1,
    first: [3240, 3205, 3150, 3110, 3060, 3015, 2970, 2935, 2890, 2835, 2790, 2755],
  },
  {
    name: 'Tessaly base rate',
    since: '2024-03-01',
    every: 3,
    first: [4250, 4250, 4000, 3750, 3500, 3500, 3250, 3250],
  },
];

/** Values that an index has published by a day, oldest first, such as `2.495%`. */
export interface Publication {
  readonly name: string;
  readonly fixings: readonly { readonly on: string; readonly rate: string }[];
}

/** All that has been published by a day. */
export function publications(through: CalendarDay): Publication[] {
  return invented.map(({ name, since, every, first }) => {
    const fixings = [];
    let thousandths = first[0] ?? 0;
    const begins = parseDay(since) as CalendarDay;
    for (let at = 0; addMonths(begins, at * every) <= through; at += 1) {
      const on = addMonths(begins, at * every);
      thousandths = first[at] ?? Math.max(0, thousandths + moved(name, on));
      fixings.push({ on: formatDay(on), rate: `${(thousandths / 1000).toFixed(3)}%` });
    }
    return { name, fixings };
  });
}

/** By how much an index moves on a day: up to a twentieth of a percent either way, the same each time it is asked. */
function moved(name: string, on: CalendarDay): number {
  const { year, month } = calendarFields(on);
  let seed = year * 12 + month;
  for (const letter of name) seed = (seed * 33 + (letter.codePointAt(0) ?? 0)) % 65_521;
  return ((seed % 21) - 10) * 5;
}
