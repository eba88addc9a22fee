import { formatDay, position, type CalendarDay, type PositionFigure, type Position } from '@coffer/core';
import { showAmount, type FiguresView } from '@coffer/contract';
import type { OpenInstrument } from '../instruments.service';

/** Where an instrument stands on a day: as it was reported where the day ends a closed month, else as worked out. */
export interface Stands {
  readonly figures: FiguresView;
  /** As known now, on a day that was reported. */
  readonly now: Position;
  /** The version that the report came from; absent where nothing was reported. */
  readonly version?: number;
}

/** Where an instrument stands on a day. */
export function standsOn({ read, reported }: OpenInstrument, on: CalendarDay): Stands {
  const now = position(read.schedule, on);
  const then = reported.find(({ periodEnd }) => periodEnd === formatDay(on));
  return then ? { figures: then.figures, now, version: then.version } : { figures: now, now };
}

/** Whether a figure, or any, is known otherwise now than it was reported. */
export function isKnownOtherwise({ figures, now }: Stands, figure?: PositionFigure): boolean {
  const keys = figure ? [figure] : (Object.keys(figures) as PositionFigure[]);
  return keys.some((key) => figures[key] !== now[key]);
}

/** A figure as known now, and by how much that differs from what was reported. */
export function nowText(now: number, reported: number, digits: number): string {
  const more = now - reported;
  return `${showAmount(now, digits)} (${more > 0 ? '+' : ''}${showAmount(more, digits)})`;
}
