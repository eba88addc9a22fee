import { budgetFaults, planJson, readPlan } from '@coffer/contract';
import type { Command } from '../command.ts';
import { DocumentFault, jsonOf } from '../documents.ts';
import { planTable } from '../plan-table.ts';

/** What clears several loans by a day, compares horizons, or puts a budget to use. */
export const plan: Command = {
  name: 'plan',
  takes: 'FILE',
  options: [{ name: 'json' }],
  run(given) {
    const reading = readPlan(jsonOf(given.file('plan')));
    if (!reading.ok) throw new DocumentFault(reading.faults);
    const made = planJson(reading.plan);
    const refused = budgetFaults(reading.plan.document.budget?.monthly ?? '', made.budget);
    if (refused.length > 0) throw new DocumentFault(refused);
    return { json: made, text: () => planTable(made) };
  },
};
