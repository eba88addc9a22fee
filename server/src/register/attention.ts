import { addMonths, formatDay, lastDay, type CalendarDay } from '@coffer/core';
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
  if (schedule.kind === 'loan') {
    const missing = schedule.notices.find(({ kind, on }) => kind === 'fixing-missing' && on <= day);
    if (missing) found.push({ ...about, kind: 'fixing-due', on: formatDay(missing.on) });
  }
  if (schedule.kind === 'bond') {
    const until = addMonths(day, ahead, true);
    const due = schedule.rows.find(({ kind, paid, due: on }) => kind === 'coupon' && paid > 0 && on > day);
    if (due && due.due <= until) found.push({ ...about, kind: 'instalment-near', on: formatDay(due.due) });
  }
  if (figures.overpaid > 0) found.push({ ...about, kind: 'overpaid', on: formatDay(day) });
  const last = lastDay(schedule);
  const open = document.kind === 'credit-line' && document.matures === undefined;
  if (!open && figures.outstanding > 0 && last > day && last <= addMonths(day, ahead, true)) {
    const left = schedule.kind === 'loan' && (schedule.closing[schedule.length - 1] as number) > 0;
    found.push({ ...about, kind: left ? 'renewal-near' : 'matures', on: formatDay(last) });
  }
  return found;
}
