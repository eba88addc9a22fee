import type { PortfolioRow, PortfolioView } from '@coffer/contract';

/** What each instrument is told by, before its periods; with the scenario that its figures are of, where one is. */
export const headsFor = (scenario: string | undefined): readonly string[] => [
  ...(scenario === undefined ? [] : ['scenario']),
  ...['name', 'lender', 'class', 'rate'],
];

function headsOf({ name, lender, class: kind, floating }: PortfolioRow): Record<string, string> {
  return { name, lender: lender ?? '', class: kind, rate: floating ? 'floating' : 'fixed' };
}

/**
 * Instruments and their total, each with its amounts by the last day of each period. Minor units.
 *
 * @param scenario the name of the one that the figures are of
 */
export function linesOf(
  { rows, periods, unworkable }: PortfolioView,
  scenario?: string,
): { heads: Record<string, string>; values: readonly number[] }[] {
  const sums = periods.map((_, at) => rows.reduce((sum, { values }) => sum + (values[at] ?? 0), 0));
  const without = unworkable.length;
  const named = scenario === undefined ? {} : { scenario };
  return [
    ...rows.map((row) => ({ heads: { ...named, ...headsOf(row) }, values: row.values })),
    {
      heads: { ...named, name: without === 0 ? 'All instruments' : `All instruments, without ${without}` },
      values: sums,
    },
  ];
}
