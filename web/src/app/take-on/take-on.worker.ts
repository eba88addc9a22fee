import { outcomeOf, type RowCells, type RowOutcome, type SameForAll } from './sheet-row';

/** Rows to work out; a newer question ends the one before it. */
export interface RowsAsked {
  readonly number: number;
  readonly same: SameForAll;
  readonly rows: readonly { readonly at: number; readonly cells: RowCells; readonly agreed?: string }[];
}

/** What became of some of them, and how far it has come. */
export interface RowsTold {
  readonly number: number;
  readonly done: number;
  readonly of: number;
  readonly outcomes: readonly (readonly [at: number, outcome: RowOutcome])[];
}

/** Milliseconds between what is told. */
const beat = 60;
let newest = 0;

addEventListener('message', ({ data }: MessageEvent<RowsAsked>) => {
  newest = data.number;
  let from = 0;
  const next = (): void => {
    if (newest !== data.number) return;
    const outcomes: [number, RowOutcome][] = [];
    const until = performance.now() + beat;
    while (from < data.rows.length && performance.now() < until) {
      const row = data.rows[from];
      if (row) outcomes.push([row.at, outcomeOf(row.cells, data.same, row.agreed)]);
      from += 1;
    }
    const told: RowsTold = { number: data.number, done: from, of: data.rows.length, outcomes };
    postMessage(told);
    if (from < data.rows.length) setTimeout(next);
  };
  next();
});
