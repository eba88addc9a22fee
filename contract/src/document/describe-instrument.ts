import type { CalendarDay, Schedule } from '@coffer/core';
import { documentKindOf } from '../kinds/document-kinds.ts';
import type { InstrumentSummary } from '../kinds/document-kind.ts';
import type { InstrumentDocument } from './instrument-document.ts';

/** What the register says of an instrument beside its figures. */
export function describeInstrument(
  document: InstrumentDocument,
  schedule: Schedule,
  on: CalendarDay,
): InstrumentSummary {
  return documentKindOf(document).summary(document, schedule, on);
}
