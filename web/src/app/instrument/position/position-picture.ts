import { type CalendarDay, type MinorUnits, position, rowCount, type Schedule } from '@coffer/core';
import { showAmount, showDay } from '@coffer/contract';
import { linesChart } from '../../charts/lines-chart';
import type { EChartsCoreOption } from '../../charts/echarts';

/** Points that a picture of positions is drawn from, at most; fewer where each takes long to work out. */
const mostPoints = 120;
const mostWork = 400_000;

/** What is owed at month ends and the part of it that is current, drawn. */
export interface PositionPicture {
  readonly words: string;
  readonly option: () => EChartsCoreOption;
  /** The month ends drawn. */
  readonly days: readonly CalendarDay[];
}

/** The picture of an instrument's positions: what is carried, and the current portion of it. */
export function positionPicture(
  schedule: Schedule,
  monthEnds: readonly CalendarDay[],
  on: CalendarDay,
): PositionPicture {
  const { digits } = schedule.terms;
  const each = rowCount(schedule) + 20 * schedule.terms.events.length;
  const points = Math.max(6, Math.min(mostPoints, Math.floor(mostWork / (each + 1))));
  const step = Math.max(1, Math.ceil(monthEnds.length / points));
  const days = monthEnds.filter((_, at) => at % step === 0 || at === monthEnds.length - 1);
  const at = days.map((day) => position(schedule, day));
  const money = (minor: MinorUnits): string => showAmount(minor, digits);
  const now = position(schedule, on);
  return {
    days,
    words: `On ${showDay(on)} ${money(now.carrying)} is carried, ${money(now.current)} of it current.`,
    option: linesChart(
      [
        { name: 'carrying', token: '--principal', values: at.map(({ carrying }) => carrying) },
        { name: 'current', token: '--ink-2', values: at.map(({ current }) => current), dashed: true },
      ],
      days.filter((day) => day <= on).length,
      {},
      (index) => {
        const point = at[index];
        if (!point) return '';
        return `${showDay(point.on)}<br>carrying ${money(point.carrying)}<br>current ${money(point.current)}`;
      },
    ),
  };
}
