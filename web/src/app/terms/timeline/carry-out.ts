import { paymentsPerYear } from '@coffer/core';
import { showDay } from '@coffer/contract';
import { readDay } from '../../typed/typed-day';
import type { LoanForm } from '../form/loan-form';
import { stretchesInPayments } from '../form/stretch-terms';
import type { TimelineAct } from './timeline';

/** Days of the year, for how many payments fit between two days. */
const yearDays = 365.25;

/** Share of a period within which an event put on a day is taken to be meant for the due date beside it. */
const nearShare = 0.08;

/** Does on the form what was done on the timeline. `dues` are the days payments fall due. */
export function carryOut(act: TimelineAct, form: LoanForm, dues: readonly number[]): void {
  const { item } = act;
  const { stretches, events, every } = form.controls;
  const periodDays = yearDays / paymentsPerYear[every.value];
  if (item.kind === 'stretch') {
    const stretch = stretches.controls[item.at]?.controls;
    if (!stretch) return;
    const typed = stretchesInPayments(form.getRawValue())[item.at]?.count.trim() ?? '';
    const count = /^\d+$/.test(typed) ? Number(typed) : undefined;
    if (act.act === 'remove' && stretches.length > 1) stretches.removeAt(item.at);
    if (stretch.type.value === 'custom') return;
    if (act.act === 'lengthen') stretch.count.setValue(String(Math.max(1, (count ?? 12) + act.by)));
    if (act.act === 'place') {
      stretch.count.setValue(String(Math.max(1, Math.round((act.day - item.from) / periodDays))));
    }
    return;
  }
  // Taken away already, where keys follow fast.
  const event = events.controls[item.at]?.controls;
  if (!event) return;
  const day = event.type.value === 'extra-each' ? event.from : event.on;
  if (act.act === 'remove') events.removeAt(item.at);
  if (act.act === 'place') {
    const near = act.dragged && dues.find((due) => Math.abs(due - act.day) < periodDays * nearShare);
    day.setValue(showDay(near || act.day));
  }
  const on = readDay(day.value) ?? item.from;
  if (act.act === 'shift') day.setValue(showDay(on + act.by));
  if (act.act === 'to-due') {
    const due = act.by > 0 ? dues.find((each) => each > on) : dues.findLast((each) => each < on);
    if (due !== undefined) day.setValue(showDay(due));
  }
}
