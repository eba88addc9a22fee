import * as v from 'valibot';
import type { Schedule } from '@coffer/core';
import { shortText } from '../document/scalars.ts';
import type { InstrumentDocument } from '../document/instrument-document.ts';
import { readInstrument } from '../document/read-instrument.ts';
import { faultsOf, type Fault } from '../faults/fault.ts';

/** The version of the scenario document. */
export const scenarioVersion = 'coffer.scenario/1';

/** Changes to one instrument: events besides those it has, or other terms in place of its own. */
const change = v.strictObject({
  /** The name of the instrument. */
  instrument: shortText,
  events: v.optional(v.array(v.unknown())),
  /** Keys of the instrument's document with what they hold instead. */
  terms: v.optional(v.record(v.string(), v.unknown())),
});

/** Draft changes to any number of instruments, under a name. */
export const scenarioDocument = v.strictObject({
  document: v.literal(scenarioVersion),
  name: shortText,
  changes: v.pipe(
    v.array(change),
    v.minLength(1, 'expected at least one change.'),
    v.maxLength(10_000, 'expected at most 10,000 changes.'),
  ),
});
export type ScenarioDocument = v.InferOutput<typeof scenarioDocument>;

/** A scenario read, or everything that is wrong with it. */
export type ScenarioReading =
  | { readonly ok: true; readonly scenario: ScenarioDocument }
  | { readonly ok: false; readonly faults: readonly Fault[] };

/** Reads a scenario document given as a value (parsed JSON): all faults at once, naming the key. */
export function readScenario(value: unknown): ScenarioReading {
  const parsed = v.safeParse(scenarioDocument, value);
  if (!parsed.success) return { ok: false, faults: faultsOf(parsed.issues) };
  const { changes } = parsed.output;
  const faults = changes.flatMap(({ instrument, events, terms }, at): Fault[] => {
    const first = changes.findIndex((each) => each.instrument === instrument);
    if (first < at) {
      const message = `${instrument} is changed by ${`changes.${first}`} already; put all of its changes there.`;
      return [{ key: `changes.${at}.instrument`, message }];
    }
    if (events !== undefined || terms !== undefined) return [];
    return [{ key: `changes.${at}`, message: 'Nothing is changed; give events, or other terms.' }];
  });
  return faults.length > 0 ? { ok: false, faults } : { ok: true, scenario: parsed.output };
}

/** An instrument's document with the changes that a scenario makes to it. */
export function withChanges(
  document: InstrumentDocument,
  { events = [], terms = {} }: ScenarioDocument['changes'][number],
): object {
  const changed = { ...document, ...terms };
  const had = changed.events ?? [];
  return events.length === 0 ? changed : { ...changed, events: [...had, ...events] };
}

/** The schedules that a scenario makes of instruments, in their order; those that it does not change stay. */
export type ScenarioSchedules =
  | { readonly ok: true; readonly schedules: readonly Schedule[] }
  | { readonly ok: false; readonly faults: readonly Fault[] };

/** Works a scenario out over instruments; faults name the change and the key of the instrument's document. */
export function scenarioSchedules(
  scenario: ScenarioDocument,
  instruments: readonly { readonly document: InstrumentDocument; readonly schedule: Schedule }[],
): ScenarioSchedules {
  const faults: Fault[] = [];
  const schedules = instruments.map(({ schedule }) => schedule);
  scenario.changes.forEach((each, at) => {
    const found = instruments.findIndex(({ document }) => document.name === each.instrument);
    const instrument = instruments[found];
    if (!instrument) {
      const message = `There is no instrument named ${each.instrument} among those given.`;
      faults.push({ key: `changes.${at}.instrument`, message });
      return;
    }
    const reading = readInstrument(withChanges(instrument.document, each));
    if (reading.ok) schedules[found] = reading.instrument.schedule;
    else {
      const had = instrument.document.events?.length ?? 0;
      for (const { key, message } of reading.faults) {
        faults.push({ key: `changes.${at}.${keyInChange(key, had)}`, message });
      }
    }
  });
  return faults.length > 0 ? { ok: false, faults } : { ok: true, schedules };
}

/** Where a fault of the changed document stands in the change: its events follow those that were there. */
function keyInChange(key: string, had: number): string {
  const event = /^events\.(\d+)(.*)$/.exec(key);
  if (event && Number(event[1]) >= had) return `events.${Number(event[1]) - had}${event[2] ?? ''}`;
  return `terms.${key}`;
}
