import type { PortfolioRow, PortfolioView } from '@coffer/contract';

/** What each instrument is told by, before its periods. */
export const heads = ['name', 'lender', 'class', 'rate'] as const;

function headsOf({ name, lender, class: kind, floating }: PortfolioRow): Record<string, string> {
  return { name, lender: lender ?? '', class: kind, rate: floating ? 'floating' : 'fixed' };
}

/** Instruments and their total, each with its amounts by the last day of each period. Minor units. */
export function linesOf({
  rows,
  periods,
  unworkable,
}: PortfolioView): { heads: Record<string, string>; values: readonly number[] }[] {
  const sums = periods.map((_, at) => rows.reduce((sum, { values }) => sum + (values[at] ?? 0), 0));
  const without = unworkable.length;
  return [
    ...rows.map((row) => ({ heads: headsOf(row), values: row.values })),
    {
      heads: { name: without === 0 ? 'All instruments' : `All instruments, without ${without}` },
      values: sums,
    },
  ];
}
