import * as v from 'valibot';

/** How numbers are written, each shown as it writes 1234567.89. */
export const numberHabits = {
  'comma-point': { shown: '1,234,567.89', group: ',', mark: '.' },
  'point-comma': { shown: '1.234.567,89', group: '.', mark: ',' },
  'space-comma': { shown: '1 234 567,89', group: '\u00A0', mark: ',' },
  'apostrophe-point': { shown: '1’234’567.89', group: '’', mark: '.' },
} as const;
export type NumberHabit = keyof typeof numberHabits;

/** How amounts below zero are written. */
export const belowZeroHabits = ['minus', 'parentheses'] as const;
export type BelowZeroHabit = (typeof belowZeroHabits)[number];

/** How days are written, each shown as it writes 31 March 2027. */
export const dateHabits = {
  'day-name': '31 Mar 2027',
  'day-first': '31/03/2027',
  'day-first-dotted': '31.03.2027',
  'month-first': '03/31/2027',
  'year-first': '2027-03-31',
} as const;
export type DateHabit = keyof typeof dateHabits;

const keysOf = <Key extends string>(of: Readonly<Record<Key, unknown>>): Key[] => Object.keys(of) as Key[];

/** How a company writes numbers and days: shown so, and typed so. Files for other programs keep to open standards. */
export const habits = v.strictObject({
  numbers: v.picklist(keysOf(numberHabits)),
  belowZero: v.picklist(belowZeroHabits),
  dates: v.picklist(keysOf(dateHabits)),
});
export type Habits = v.InferOutput<typeof habits>;

/** What holds where nobody has chosen. */
export const usualHabits: Habits = { numbers: 'comma-point', belowZero: 'minus', dates: 'day-name' };

let current = usualHabits;

/** The habits that are written by now. */
export function habitsNow(): Habits {
  return current;
}

/** Writes and reads by these from here on: for a page, or a thread, that works for one company. */
export function adoptHabits(chosen: Habits): void {
  current = chosen;
}

/** What is made by these habits, where one process works for many companies. It is made at once, nothing is awaited. */
export function inHabits<Made>(chosen: Habits, make: () => Made): Made {
  const before = current;
  current = chosen;
  try {
    return make();
  } finally {
    current = before;
  }
}
