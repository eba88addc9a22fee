import type { PortfolioView } from '../api/portfolio-views.ts';
import type { TriedRow } from '../api/scenario-views.ts';

/** What a scenario changes, by instrument. */
export type TriedRows = ReadonlyMap<string, TriedRow>;

/** The portfolio with what a scenario makes of instruments in their place. */
export function withTried(view: PortfolioView, tried: TriedRows): PortfolioView {
  if (tried.size === 0) return view;
  const known = new Set(view.rows.map(({ id }) => id));
  const appearing = [...tried.values()].filter(({ id }) => !known.has(id));
  return { ...view, rows: [...view.rows.map((row) => tried.get(row.id) ?? row), ...appearing] };
}
