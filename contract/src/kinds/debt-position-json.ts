import {
  type CalendarDay,
  formatAmount,
  formatDay,
  type MinorUnits,
  position,
  type PositionFigure,
  positionFigureKeys,
  type Schedule,
} from '@coffer/core';
import * as v from 'valibot';
import { publishedAmount, publishedDay } from '../document/published-scalars.ts';
import { amountsOf } from '../document/published-schedule.ts';

/** The published form of the position of something owed. */
export const debtPositionSchema = v.strictObject({
  on: publishedDay,
  ...amountsOf(positionFigureKeys),
  next: v.nullable(v.strictObject({ due: publishedDay, payment: publishedAmount })),
});

/** The position of something owed in its published form. */
export type DebtPositionJson = v.InferOutput<typeof debtPositionSchema>;

/** The position of something owed in the published form. */
export function debtPositionJson(schedule: Schedule, on: CalendarDay): DebtPositionJson {
  const at = position(schedule, on);
  const money = (minor: MinorUnits): string => formatAmount(minor, schedule.terms.digits);
  const figures = Object.fromEntries(
    positionFigureKeys.map((figure) => [figure, money(at[figure])]),
  ) as Record<PositionFigure, string>;
  return {
    on: formatDay(at.on),
    ...figures,
    next: at.next && { due: formatDay(at.next.due), payment: money(at.next.payment) },
  };
}
