import { stretchSpans } from '../timeline/stretch-spans';
import {
  adoptHabits,
  columnTitles,
  documentKindOf,
  entriesJson,
  readInstrument,
  recordsPayments,
  scheduleJson,
} from '@coffer/contract';
import {
  formatAmount,
  issueEntry,
  minorOf,
  paymentsMade,
  type LoanSchedule,
  type Schedule,
} from '@coffer/core';
import type { LoanLife, PreviewAnswer, PreviewLine, PreviewQuestion } from './schedule-preview';

function issueLines(schedule: Schedule): readonly PreviewLine[] {
  const entry = issueEntry(schedule);
  if (!entry) return [];
  return entriesJson([entry], schedule.terms.digits).flatMap(({ lines }) => lines);
}

function lifeOf(schedule: LoanSchedule): LoanLife {
  const { stretches, settings, terms, length, n, due } = schedule;
  const dues: number[] = [];
  for (let row = 0; row < length; row += 1) if ((n[row] as number) > 0) dues.push(due[row] as number);
  const { spans, renewals } = stretchSpans(schedule);
  const payments = stretches.map((_, at) => {
    const set = settings.find((setting) => setting.stretch === at);
    return set && set.amount > 0n ? formatAmount(minorOf(terms, set.amount), terms.digits) : null;
  });
  return {
    spans,
    // Renewals are the last stretches, in their order.
    renewals: renewals.map((span, at) => ({ ...span, payment: payments[spans.length + at] ?? null })),
    dues,
    payments: payments.slice(0, spans.length),
  };
}

function answer({ number, document }: PreviewQuestion): PreviewAnswer {
  try {
    const reading = readInstrument(document);
    if (!reading.ok) return { number, ok: false, faults: reading.faults };
    const { schedule } = reading.instrument;
    return {
      number,
      ok: true,
      schedule: {
        ...scheduleJson(schedule),
        kind: schedule.kind,
        titles: columnTitles(schedule),
        ...(recordsPayments(schedule) && { paymentsMade: paymentsMade(schedule) }),
      },
      issue: issueLines(schedule),
      headline: documentKindOf(schedule).headline(schedule),
      surprises: documentKindOf(schedule).surprises(schedule),
      ...(recordsPayments(schedule) && { life: lifeOf(schedule) }),
    };
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    return { number, ok: false, faults: [{ key: '', message }] };
  }
}

addEventListener('message', ({ data }: MessageEvent<PreviewQuestion>) => {
  adoptHabits(data.habits);
  postMessage(answer(data));
});
