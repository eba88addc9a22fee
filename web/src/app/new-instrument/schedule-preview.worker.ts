import { entriesJson, readInstrument, scheduleJson } from '@coffer/contract';
import { bondIssueEntry, loanIssueEntry, type Schedule } from '@coffer/core';
import type { PreviewAnswer, PreviewLine, PreviewQuestion, SchedulePreview } from './schedule-preview';

function issueLines(schedule: Schedule): readonly PreviewLine[] {
  const entry = schedule.kind === 'loan' ? loanIssueEntry(schedule) : bondIssueEntry(schedule);
  if (!entry) return [];
  const [published] = entriesJson([entry], schedule.terms.digits) as { lines: PreviewLine[] }[];
  return published?.lines ?? [];
}

function answer({ number, document }: PreviewQuestion): PreviewAnswer {
  try {
    const reading = readInstrument(document);
    if (!reading.ok) return { number, ok: false, faults: reading.faults };
    const { schedule } = reading.instrument;
    return {
      number,
      ok: true,
      schedule: scheduleJson(schedule) as unknown as SchedulePreview,
      issue: issueLines(schedule),
    };
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    return { number, ok: false, faults: [{ key: '', message }] };
  }
}

addEventListener('message', ({ data }: MessageEvent<PreviewQuestion>) => {
  postMessage(answer(data));
});
