import { formatAmount, formatDay, position, type CalendarDay, type Schedule } from '@coffer/core';
import { debtFigureKeys } from './debt-figures.ts';

/** The position of something owed in the published form. */
export function debtPositionJson(schedule: Schedule, on: CalendarDay): Record<string, unknown> {
  const at = position(schedule, on);
  const money = (minor: number): string => formatAmount(minor, schedule.terms.digits);
  return {
    on: formatDay(at.on),
    ...Object.fromEntries(debtFigureKeys.map((figure) => [figure, money(at[figure])])),
    next: at.next && { due: formatDay(at.next.due), payment: money(at.next.payment) },
  };
}
