import { formatAmount, formatDay, parseDay, type CalendarDay } from '@coffer/core';
import { notRecorded, type ConfirmCode, type Question } from '@coffer/contract';
import { askFirst } from '../http/refusal.ts';
import type { MonthMade } from './month-made.ts';

/** Names told before the others are counted. */
const told = 5;

/**
 * What of a month is done only where it is meant: each is a question of its own. Throws {@link Refusal} 409 with what
 * was not confirmed.
 *
 * @param today the day that it is
 * @param named what is asked about besides
 */
export function askAboutMonth(
  { period, work }: MonthMade,
  digits: number,
  today: CalendarDay,
  named: readonly Question[],
  confirm: readonly ConfirmCode[],
): void {
  askFirst(
    [
      ...aboutUnended(period.ends_on, today),
      ...aboutUnrecorded(
        work
          .flatMap(({ unrecorded }) => unrecorded)
          .map((payment) => ({
            name: payment.name,
            said: `due ${payment.due}, ${formatAmount(payment.amount, digits)}`,
          })),
      ),
      ...aboutFixings(
        work
          .flatMap(({ attention }) => attention)
          .filter(({ kind }) => kind === 'fixing-due')
          .map(({ name, on }) => ({ name, said: on })),
      ),
      ...named,
    ],
    confirm,
  );
}

function aboutUnended(endsOn: string, today: CalendarDay): Question[] {
  if ((parseDay(endsOn) as CalendarDay) < today) return [];
  const message =
    `The month to ${endsOn} has not ended: today is ${formatDay(today)}. ` +
    'What happens in it after it is locked falls in the next month, as a correction.';
  return [{ code: 'month-not-ended', key: '', message }];
}

interface Named {
  readonly name: string;
  readonly said: string;
}

function aboutUnrecorded(payments: readonly Named[]): Question[] {
  if (payments.length === 0) return [];
  const many = payments.length === 1 ? 'A payment is' : `${payments.length} payments are`;
  const message = `${many} ${notRecorded}: ${named(payments)}.`;
  return [{ code: 'payments-unrecorded', key: '', message }];
}

function aboutFixings(missing: readonly Named[]): Question[] {
  if (missing.length === 0) return [];
  const many = missing.length === 1 ? 'A rate was' : `${missing.length} rates were`;
  const message = `${many} to be fixed and ${missing.length === 1 ? 'was' : 'were'} not; interest goes on at the rate before: ${named(missing)}.`;
  return [{ code: 'fixings-missing', key: '', message }];
}

function named(all: readonly Named[]): string {
  const names = all.slice(0, told).map(({ name, said }) => `${name} (${said})`);
  const more = all.length - names.length;
  return more === 0 ? names.join('; ') : `${names.join('; ')}; and ${more} more`;
}
