import { addMonths, debtKindOf, formatDay, lastDay, type CalendarDay } from '@coffer/core';
import type { Attention, FiguresView } from '@coffer/contract';
import { isSettled, type KnownInstrument } from '../instruments/known-instruments.ts';

/** Months before the last payment at which it is told of. */
const ahead = 3;

/** What somebody should see to on a day: a fixing of the rate that is due, a renewal, an instalment or a maturity that is near. */
export function attentionOn(
  instrument: KnownInstrument,
  figures: FiguresView,
  day: CalendarDay,
): Attention[] {
  const { id, document, schedule } = instrument;
  if (isSettled(instrument, figures, day)) return [];
  const about = { instrumentId: id, name: document.name };
  const found: Attention[] = [];
  const kind = debtKindOf(schedule);
  const until = addMonths(day, ahead, true);
  const missing = kind.fixingMissing(schedule, day);
  if (missing !== undefined) found.push({ ...about, kind: 'fixing-due', on: formatDay(missing) });
  const due = kind.nextInstalment(schedule, day);
  if (due !== undefined && due <= until) {
    found.push({ ...about, kind: 'instalment-near', on: formatDay(due) });
  }
  if (figures.overpaid > 0) found.push({ ...about, kind: 'overpaid', on: formatDay(day) });
  const last = lastDay(schedule);
  if (!kind.onDemand(schedule) && figures.outstanding > 0 && last > day && last <= until) {
    const near = kind.leftAtEnd(schedule) > 0 ? 'renewal-near' : 'matures';
    found.push({ ...about, kind: near, on: formatDay(last) });
  }
  return found;
}
