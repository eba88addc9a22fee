import { isOneCurrency, type PublishedPlan } from '@coffer/contract';
import { proofLines, table } from './tables.ts';

type Cells = Readonly<Record<string, unknown>>;

const cellsOf = (of: object): Cells => Object.fromEntries(Object.entries(of));

const titles: Readonly<Record<string, string>> = {
  name: 'Instrument',
  clearBy: 'Clear by',
  finalPayment: 'Last payment',
  daysEarly: 'Days early',
  monthlyCash: 'Monthly cash',
  addedInterest: 'Added interest',
  freedCash: 'Freed cash',
  priceOfWaiting: 'Price of waiting',
  bound: 'Set by',
  unordered: 'Not in the order',
  outOfReach: 'Out of reach',
};

/** Rows under the keys that some of them have a word or figure for. */
function rowsTable(objects: readonly object[]): string {
  const rows = objects.map(cellsOf);
  const keys = [...new Set(rows.flatMap((row) => Object.keys(row)))];
  const plain = keys.filter((key) => rows.every((row) => typeof row[key] !== 'object' || row[key] === null));
  return table(rows, plain, titles);
}

function facts(of: object): string {
  return Object.entries(of)
    .filter(([, value]) => typeof value !== 'object' || Array.isArray(value))
    .filter(([, value]) => !Array.isArray(value) || typeof value[0] !== 'object')
    .map(([key, value]) => `  ${(titles[key] ?? key).padEnd(16)}  ${String(value)}`)
    .join('\n');
}

/** A plan as tables for people. */
export function planTable({
  loans,
  totals,
  horizons,
  worthIt,
  budget,
  income,
  proofs,
}: PublishedPlan): string {
  const parts = [
    ...(loans ? [rowsTable(loans)] : []),
    ...(totals ? totalsTables(totals) : []),
    ...(horizons ? [rowsTable(horizons)] : []),
    ...(worthIt ? [`Where faster stops being worth it\n${worth(worthIt)}`] : []),
    ...(budget ? budgetTables(budget) : []),
    ...(income ? [`Income\n${facts(income)}`] : []),
    ...(proofs.length > 0 ? [proofLines(proofs)] : []),
  ];
  return `${parts.join('\n\n')}\n`;
}

function budgetTables(budget: NonNullable<PublishedPlan['budget']>): string[] {
  if ('commonDay' in budget) return [];
  const clears = budget.clears ?? `not all: ${budget.left ?? ''} is left`;
  return [`Budget\n${facts({ ...budget, clears })}`, rowsTable(budget.loans), rowsTable(budget.months)];
}

function totalsTables(totals: NonNullable<PublishedPlan['totals']>): string[] {
  if (isOneCurrency(totals)) return [`In all\n${facts(totals)}`, rowsTable(totals.years)];
  return Object.entries(totals).flatMap(([currency, each]) => {
    const [all = '', years = ''] = totalsTables(each);
    return [all.replace('In all', `In all, ${currency}`), years];
  });
}

function worth(worthIt: object): string {
  return Object.entries(worthIt)
    .map(
      ([name, found]) =>
        `  ${name}: ${
          found === null
            ? 'nowhere among these'
            : Object.values(found as object)
                .map(String)
                .join(', ')
        }`,
    )
    .join('\n');
}
