import { firstDay, maturities, type CalendarDay } from '@coffer/core';
import {
  describeInstrument,
  type Attention,
  type FiguresView,
  type RegisterRow,
  type UnrecordedPayment,
} from '@coffer/contract';
import {
  figuresOn,
  isSettled,
  workedOut,
  type KnownInstrument,
  type StoredVersion,
  type Worked,
} from '../instruments/known-instruments.ts';
import { unrecordedBy } from '../payments/payments-due.ts';
import { attentionOn } from './attention.ts';

/** An instrument, with the figures that a closed period reported of it. */
export interface ReportedInstrument {
  readonly version: StoredVersion;
  readonly figures?: FiguresView;
}

/** What is asked of every instrument of a register. */
export interface RegisterAsked {
  readonly day: CalendarDay;
  /** Last day of the open month whose payments are to be recorded; none where a closed period is shown. */
  readonly recordingTo?: string | undefined;
}

/** What one instrument brings to a register. */
export interface RegisterPart {
  readonly unrecorded: UnrecordedPayment[];
  /** Absent before the instrument begins. */
  readonly standing?: {
    readonly row: RegisterRow;
    readonly settled: boolean;
    readonly attention: Attention[];
    readonly maturities: readonly number[];
  };
}

/** Works out what an instrument brings to the register on a day. */
export function registerOfInstrument(
  { version, figures }: ReportedInstrument,
  { day, recordingTo }: RegisterAsked,
): Worked<RegisterPart> {
  return workedOut(version, (instrument) => {
    const unrecorded = recordingTo === undefined ? [] : unrecordedBy(instrument, recordingTo, day);
    if (firstDay(instrument.schedule) > day) return { unrecorded };
    const row = rowOf(instrument, figures ?? figuresOn(instrument, day), day);
    const standing = {
      row,
      settled: isSettled(instrument, row.figures, day),
      attention: attentionOn(instrument, row.figures, day),
      maturities: maturities(instrument.schedule, day),
    };
    return { unrecorded, standing };
  });
}

function rowOf(
  { id, version, document, schedule }: KnownInstrument,
  figures: FiguresView,
  day: CalendarDay,
): RegisterRow {
  return {
    id,
    version,
    kind: document.kind,
    name: document.name,
    lender: document.lender ?? null,
    ...describeInstrument(document, schedule, day),
    figures,
  };
}
