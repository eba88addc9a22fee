import { BeyondExact, owedToTheEnd, type CalendarDay, type Schedule } from '@coffer/core';
import type { ChangeFaults, OutlookView, ScenarioChange } from '@coffer/contract';
import { workedOut, type StoredVersion, type Worked } from '../instruments/known-instruments.ts';
import { changedOf } from './changed-instrument.ts';
import { outlookOf } from './outlook-view.ts';

/** An instrument with what each of some scenarios changes of it. */
export interface WithChanges {
  readonly version: StoredVersion;
  readonly changes: readonly (ScenarioChange | undefined)[];
}

/** What is to come of every instrument alike. */
export interface OutlooksAsked {
  readonly on: CalendarDay;
  /** How far apart the days are on which what is owed is told. */
  readonly everyMonths: number;
}

/** What is to come of an instrument and what is owed on the way, minor units. */
export interface Coming {
  readonly outlook: OutlookView;
  readonly owed: readonly number[];
}

/** An instrument as it is, and under each scenario: `undefined` where that leaves it. */
export interface Outlooks {
  readonly name: string;
  readonly asItIs: Coming;
  readonly under: readonly (Coming | ChangeFaults | undefined)[];
}

/** What is to come of an instrument, as it is and under each of some scenarios. */
export function outlooksOfInstrument(
  { version, changes }: WithChanges,
  asked: OutlooksAsked,
): Worked<Outlooks> {
  return workedOut(version, ({ document, schedule }) => ({
    name: document.name,
    asItIs: comingOf(schedule, asked),
    under: changes.map((change) => change && underChange(version, document.name, change, asked)),
  }));
}

function underChange(
  version: StoredVersion,
  name: string,
  change: ScenarioChange,
  asked: OutlooksAsked,
): Coming | ChangeFaults {
  const changed = changedOf({ version, change });
  if (!changed.ok) return { instrumentId: version.id, name, faults: [...changed.faults] };
  try {
    return comingOf(changed.instrument.schedule, asked);
  } catch (error) {
    if (!(error instanceof BeyondExact)) throw error;
    return { instrumentId: version.id, name, faults: [{ key: '', message: error.message }] };
  }
}

function comingOf(schedule: Schedule, { on, everyMonths }: OutlooksAsked): Coming {
  return { outlook: outlookOf(schedule, on), owed: owedToTheEnd(schedule, on, everyMonths) };
}
