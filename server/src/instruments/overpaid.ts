import { formatAmount, formatDay, type MinorUnits, type Schedule } from '@coffer/core';
import { recordsPayments, type Question } from '@coffer/contract';

/**
 * Asks about payments that are more than all that is owed, unless they were there before: what nobody is owed stands
 * apart, as an asset, until it comes back.
 */
export function askAboutOverpaid(name: string, schedule: Schedule, before?: Schedule): Question[] {
  const over = overpaidIn(schedule);
  if (total(over) <= total(before ? overpaidIn(before) : [])) return [];
  const money = (minor: MinorUnits): string => formatAmount(minor, schedule.terms.digits);
  return over.map(({ on, stated, applied }) => ({
    code: 'overpaid',
    key: '',
    message:
      `${name}: the ${money(stated)} paid on ${formatDay(on)} is ${money(stated - applied)} more than all that is owed; ` +
      `${money(applied)} settles it. Kept so, ${money(stated - applied)} stands as overpaid until it comes back.`,
  }));
}

interface Overpaid {
  readonly on: number;
  readonly stated: number;
  readonly applied: number;
}

function overpaidIn(schedule: Schedule): Overpaid[] {
  return recordsPayments(schedule) ? schedule.notices.filter(({ kind }) => kind === 'overpaid') : [];
}

function total(over: readonly Overpaid[]): number {
  return over.reduce((sum, { stated, applied }) => sum + stated - applied, 0);
}
