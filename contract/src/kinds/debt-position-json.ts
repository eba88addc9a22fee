import {
  type CalendarDay,
  formatAmount,
  formatDay,
  type MinorUnits,
  position,
  positionFigureKeys,
  type Schedule,
} from '@coffer/core';

/** The position of something owed in the published form. */
export function debtPositionJson(schedule: Schedule, on: CalendarDay): Record<string, unknown> {
  const at = position(schedule, on);
  const money = (minor: MinorUnits): string => formatAmount(minor, schedule.terms.digits);
  return {
    on: formatDay(at.on),
    ...Object.fromEntries(positionFigureKeys.map((figure) => [figure, money(at[figure])])),
    next: at.next && { due: formatDay(at.next.due), payment: money(at.next.payment) },
  };
}
