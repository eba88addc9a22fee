import type { PublishedPortfolio } from '@coffer/contract';
import { proofLines, table } from './tables.ts';

/** A portfolio over time as a table for people: a line an instrument, a column a period. */
export function portfolioTable({ periods, rows, totals, proofs }: PublishedPortfolio): string {
  const line = (name: string, values: readonly string[]): Record<string, string> => ({
    name,
    ...Object.fromEntries(periods.map((period, at) => [period, values[at] ?? ''])),
  });
  const sums = Array.isArray(totals)
    ? [line('All instruments', totals as string[])]
    : Object.entries(totals).map(([currency, values]) =>
        line(`All instruments in ${currency}`, values as string[]),
      );
  const lines = [...rows.map(({ name, values }) => line(name, values)), ...sums];
  const titles = { name: 'Instrument' };
  return `${table(lines, ['name', ...periods], titles)}\n\n${proofLines(proofs)}\n`;
}
