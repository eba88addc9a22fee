import * as v from 'valibot';
import { dayText, shortText } from '../document/scalars.ts';
import { changesSomething, changeWays } from '../scenario/instrument-change.ts';
import { instrumentId, minorUnits } from './ids.ts';
import { portfolioRow } from './portfolio-views.ts';

/** The most instruments that a scenario changes. */
const mostChanges = 1000;

/** What a scenario changes of one instrument of the register. */
export const scenarioChange = v.strictObject({
  instrumentId,
  /** The version of the instrument that the change was made from. */
  version: v.pipe(v.number(), v.integer(), v.minValue(1)),
  ...changeWays,
});
export type ScenarioChange = v.InferOutput<typeof scenarioChange>;

/** Changes to different instruments, each of which changes something. */
export const scenarioChanges = v.pipe(
  v.array(scenarioChange),
  v.minLength(1, 'expected at least one change.'),
  v.maxLength(mostChanges, 'expected at most 1,000 instruments.'),
  v.check(
    (changes) => new Set(changes.map((change) => change.instrumentId)).size === changes.length,
    'an instrument is changed twice; put all of its changes in one place.',
  ),
  v.checkItems(changesSomething, 'nothing is changed; give a change, other terms, or events.'),
);

/** A scenario as it is kept: its name and changes. */
export const scenarioBody = v.strictObject({ name: shortText, changes: scenarioChanges });

/** The id of a scenario. */
export const scenarioId = v.pipe(v.string(), v.uuid('expected the id of a scenario.'));

/** A kept scenario. */
export const scenarioView = v.strictObject({
  id: scenarioId,
  /** Goes up with each change of the scenario. */
  revision: v.number(),
  name: v.string(),
  /** Who kept it last; empty for what a company was set up with. */
  by: v.string(),
  at: v.string(),
  changes: v.array(
    v.strictObject({
      ...scenarioChange.entries,
      name: v.string(),
      /** The newest version of the instrument: another one where it was changed meanwhile. */
      newest: v.number(),
      /** Whether the instrument was withdrawn meanwhile. */
      withdrawn: v.boolean(),
    }),
  ),
});
export type ScenarioView = v.InferOutput<typeof scenarioView>;

/** What is to come of an instrument, or of several: minor units. */
export const outlookView = v.strictObject({
  interest: minorUnits,
  months: v.array(minorUnits),
  owedAfter: minorUnits,
  ends: dayText,
  left: minorUnits,
});
export type OutlookView = v.InferOutput<typeof outlookView>;

/** A changed instrument that cannot be worked out, and why; faults name the keys of its change. */
export const changeFaults = v.strictObject({
  instrumentId,
  name: v.string(),
  faults: v.array(v.strictObject({ key: v.string(), message: v.string() })),
});
export type ChangeFaults = v.InferOutput<typeof changeFaults>;

/** Instruments as a scenario changes them, over the periods of a portfolio. */
export const triedPortfolioView = v.strictObject({
  rows: v.array(
    v.strictObject({
      ...portfolioRow.entries,
      /** What is to come as it is, and as it is changed. */
      asItIs: outlookView,
      changed: outlookView,
    }),
  ),
  faulty: v.array(changeFaults),
});
export type TriedPortfolioView = v.InferOutput<typeof triedPortfolioView>;
export type TriedRow = TriedPortfolioView['rows'][number];

/** What is to come of all instruments, as they are and under each of some scenarios. */
export const sideBySideView = v.strictObject({
  /** In the order that the balances follow: the day itself, then every so many months. */
  days: v.array(dayText),
  /** As it is, then each scenario. */
  columns: v.array(
    v.strictObject({
      all: outlookView,
      /** What is owed on each day, all instruments together. */
      owed: v.array(minorUnits),
      faulty: v.array(changeFaults),
    }),
  ),
  /** The instruments that some scenario changes: as they are, then under each scenario, null where it leaves them. */
  rows: v.array(
    v.strictObject({ id: instrumentId, name: v.string(), columns: v.array(v.nullable(outlookView)) }),
  ),
  /** Instruments that no scenario changes. */
  others: v.number(),
  unworkable: v.array(v.strictObject({ instrumentId, name: v.string(), message: v.string() })),
});
export type SideBySideView = v.InferOutput<typeof sideBySideView>;
