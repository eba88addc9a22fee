import { stringify } from 'csv-stringify/sync';
import { csvOfLines } from '../csv-of-lines.ts';
import {
  mostPeriods,
  portfolioMeasures,
  portfolioPeriods,
  portfolioSteps,
  type Schedule,
} from '@coffer/core';
import {
  portfolioJson,
  readScenario,
  scenarioSchedules,
  type InstrumentDocument,
  type PublishedPortfolio,
} from '@coffer/contract';
import { forms, type Command, type Given } from '../command.ts';
import { DocumentFault, jsonOf, openDebt } from '../documents.ts';
import { portfolioTable } from '../portfolio-table.ts';
import { UsageFault } from '../usage-fault.ts';

interface Debt {
  readonly document: InstrumentDocument;
  readonly schedule: Schedule;
}

/** Instruments by periods, for one measure; as they are, or as a scenario makes them. */
export const portfolio: Command = {
  name: 'portfolio',
  takes: 'FILE…',
  options: [
    { name: 'from', takes: 'DATE', needed: true },
    { name: 'to', takes: 'DATE', needed: true },
    { name: 'by', takes: portfolioSteps.join('|') },
    { name: 'show', takes: portfolioMeasures.join('|') },
    { name: 'scenario', takes: 'FILE' },
    { name: 'fiscal-year-end', takes: 'MM' },
    ...forms,
  ],
  run(given) {
    const [from, to] = [given.day('from'), given.day('to')];
    if (to < from) throw new UsageFault('--to lies before --from; give the first and the last day.');
    const by = given.oneOf('by', portfolioSteps);
    const fiscalYearEndMonth = given.count('fiscal-year-end', 1, 12, 12);
    const many = portfolioPeriods(by, from, to, fiscalYearEndMonth).length;
    if (many > mostPeriods) {
      throw new UsageFault(`That is ${many} periods; at most ${mostPeriods} are shown. Ask for longer ones.`);
    }
    const show = given.oneOf('show', portfolioMeasures);
    const debts = debtsOf(given);
    const made = portfolioJson(changed(debts, given), { from, to, by, show, fiscalYearEndMonth });
    return { json: made, csv: () => csvOf(made), text: () => portfolioTable(made) };
  },
};

function debtsOf({ files }: Given): Debt[] {
  if (files.length === 0) throw new UsageFault('portfolio takes one FILE or more.');
  const debts = files.map(openDebt);
  debts.forEach(({ document: { name } }, at) => {
    const first = debts.findIndex(({ document }) => document.name === name);
    if (first < at) {
      throw new UsageFault(
        `${files[first]} and ${files[at]} are both named ${name}; each needs a name of its own.`,
      );
    }
  });
  return debts;
}

/** The instruments as the scenario makes them, where one is given. */
function changed(debts: readonly Debt[], given: Given): { name: string; schedule: Schedule }[] {
  const file = given.text('scenario');
  const named = (schedules: readonly Schedule[]): { name: string; schedule: Schedule }[] =>
    debts.map(({ document: { name }, schedule }, at) => ({ name, schedule: schedules[at] ?? schedule }));
  if (file === undefined) return named([]);
  const reading = readScenario(jsonOf(file));
  if (!reading.ok) throw new DocumentFault(reading.faults);
  const made = scenarioSchedules(reading.scenario, debts);
  if (!made.ok) throw new DocumentFault(made.faults);
  return named(made.schedules);
}

function csvOf({ periods, rows, totals }: PublishedPortfolio): string {
  const sums = Array.isArray(totals)
    ? [['All instruments', ...(totals as string[])]]
    : Object.entries(totals).map(([currency, values]) => [
        `All instruments in ${currency}`,
        ...(values as string[]),
      ]);
  const lines = rows.map(({ name, values }) => [name, ...values]);
  return stringify([['name', ...periods], ...lines, ...sums], csvOfLines);
}
