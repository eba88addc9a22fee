import * as v from 'valibot';
import type { Schedule } from '@coffer/core';
import { shortText } from '../document/scalars.ts';
import type { InstrumentDocument } from '../document/instrument-document.ts';
import { faultsOf, type Fault } from '../faults/fault.ts';
import { changedInstrument, changesSomething, changeWays } from './instrument-change.ts';

/** The version of the scenario document. */
export const scenarioVersion = 'coffer.scenario/1';

/** Changes to one instrument. */
const change = v.strictObject({
  /** The name of the instrument. */
  instrument: shortText,
  ...changeWays,
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
  const faults = changes.flatMap(({ instrument, ...ways }, at): Fault[] => {
    const first = changes.findIndex((each) => each.instrument === instrument);
    if (first < at) {
      const message = `${instrument} is changed by ${`changes.${first}`} already; put all of its changes there.`;
      return [{ key: `changes.${at}.instrument`, message }];
    }
    if (changesSomething(ways)) return [];
    return [{ key: `changes.${at}`, message: 'Nothing is changed; give a change, other terms, or events.' }];
  });
  return faults.length > 0 ? { ok: false, faults } : { ok: true, scenario: parsed.output };
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
  scenario.changes.forEach(({ instrument: name, ...ways }, at) => {
    const found = instruments.findIndex(({ document }) => document.name === name);
    const instrument = instruments[found];
    if (!instrument) {
      const message = `There is no instrument named ${name} among those given.`;
      faults.push({ key: `changes.${at}.instrument`, message });
      return;
    }
    const reading = changedInstrument(instrument.document, ways);
    if (reading.ok) schedules[found] = reading.instrument.schedule;
    else faults.push(...reading.faults.map((fault) => ({ ...fault, key: `changes.${at}.${fault.key}` })));
  });
  return faults.length > 0 ? { ok: false, faults } : { ok: true, schedules };
}
