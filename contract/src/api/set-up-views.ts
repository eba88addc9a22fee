import * as v from 'valibot';
import { calendarFields, currencyDigits, parseDay } from '@coffer/core';
import { currencyCode, dayText, shortText } from '../document/scalars.ts';
import { habits } from '../words/habits.ts';
import { newPassword } from '../password/rules.ts';
import { logInName } from './session-views.ts';

/** The code that the start of an empty installation prints; dashes and spaces do not count. */
export const oneTimeCode = v.pipe(
  v.string(),
  v.transform((text) => text.replaceAll(/[\s-]/g, '').toUpperCase()),
  v.regex(/^[A-Z2-7]{20}$/, 'expected the code that the start command printed, twenty letters and digits.'),
);

/** Who closes a month: one hands it over and another approves it, or one person alone. */
export const closingWays = ['two-people', 'one-person'] as const;
export type ClosingWay = (typeof closingWays)[number];

/** A company that is to be made. */
export const newCompany = v.strictObject({
  name: shortText,
  currency: v.pipe(
    currencyCode,
    v.check((code) => currencyDigits(code) !== undefined, 'Coffer does not know this currency.'),
  ),
  /** The month that a fiscal year ends with, 1 to 12. */
  fiscalYearEndMonth: v.pipe(
    v.number(),
    v.integer(),
    v.minValue(1, 'expected a month from 1 to 12.'),
    v.maxValue(12, 'expected a month from 1 to 12.'),
  ),
  booksFrom: v.pipe(
    dayText,
    v.check((text) => {
      const day = parseDay(text);
      return day !== undefined && calendarFields(day).day === 1;
    }, 'expected the first day of a month: that month is the first to close.'),
  ),
  /** How it writes numbers and days; as is usual where it is left out. */
  habits: v.optional(habits),
  /** Whether a month is closed by two people; so where it is left out. */
  closing: v.optional(v.picklist(closingWays)),
});
export type NewCompany = v.InferOutput<typeof newCompany>;

/** A person who comes to an installation, with the password that they choose. */
export const newPerson = v.strictObject({ name: shortText, logIn: logInName, password: newPassword });
export type NewPerson = v.InferOutput<typeof newPerson>;
