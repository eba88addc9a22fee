import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { CompanyService } from '../company/company.service';
import { SessionService } from '../session/session.service';
import type { FileTable } from '../sheets/table-of-file';
import { habitsOf, type Repaid } from '../sheets/cells';
import { guessed, headingRow, meaningNames, type Meaning, type Pointing } from './meanings';
import { eveningBefore, type Mend, type RowCells, type RowOutcome, type SameForAll } from './sheet-row';
import type { RowsAsked, RowsTold } from './take-on.worker';

/** A row of the sheet, what was put right in it, and what becomes of it. */
export interface DeskRow {
  readonly at: number;
  /** Its number in the file, from 1. */
  readonly line: number;
  readonly cells: RowCells;
  readonly leftOut: boolean;
  readonly agreed?: string;
  readonly outcome?: RowOutcome;
}

export type RowState = 'waiting' | 'agrees' | 'differs' | 'faulty' | 'left-out';

/** What a row is at. */
export function stateOf({ leftOut, outcome }: DeskRow): RowState {
  if (leftOut) return 'left-out';
  if (!outcome) return 'waiting';
  if (!outcome.document) return 'faulty';
  return outcome.differs.length > 0 ? 'differs' : 'agrees';
}

type Settings = Pick<SameForAll, 'every' | 'repaid' | 'dayCount' | 'habits'>;

/** A sheet on its way into the register: what its columns mean, its rows, and what comes of each, in a worker. */
@Injectable()
export class SheetDesk {
  private readonly company = inject(CompanyService);
  private readonly session = inject(SessionService);
  private readonly worker = new Worker(new URL('./take-on.worker', import.meta.url), { type: 'module' });
  private question = 0;
  readonly headings = signal<readonly string[]>([]);
  readonly pointing = signal<Pointing>(new Map());
  readonly settings = signal<Settings>({
    every: 'month',
    repaid: 'level',
    dayCount: 'even-periods',
    habits: { decimals: 'point', dates: 'day-first' },
  });
  private readonly laid = signal<readonly DeskRow[]>([]);
  /** The rows, those with the name of another one above told. */
  readonly rows = computed(() => withTwins(this.laid()));
  readonly progress = signal<{ done: number; of: number }>({ done: 0, of: 0 });
  private raw: readonly { line: number; cells: readonly string[] }[] = [];

  readonly working = computed(() => this.progress().done < this.progress().of);
  readonly same = computed<SameForAll>(() => {
    const company = this.company.company();
    return {
      ...this.settings(),
      currency: company?.currency ?? 'EUR',
      digits: company?.digits ?? 2,
      before: eveningBefore(company?.booksFrom ?? '2000-01-01'),
    };
  });
  readonly counts = computed(() => {
    const counts: Record<RowState, number> = { waiting: 0, agrees: 0, differs: 0, faulty: 0, 'left-out': 0 };
    for (const row of this.rows()) counts[stateOf(row)] += 1;
    return counts;
  });
  readonly kept = computed(() => this.rows().filter(({ leftOut }) => !leftOut));

  constructor() {
    this.worker.addEventListener('message', ({ data }: MessageEvent<RowsTold>) => this.hear(data));
    inject(DestroyRef).onDestroy(() => this.worker.terminate());
  }

  /** Lays a table on the desk: finds its headings, guesses what they mean, and works it out. */
  lay({ name, rows }: FileTable): void {
    const head = headingRow(rows);
    const headings = head === undefined ? [] : (rows[head] ?? []);
    const width = Math.max(headings.length, ...rows.slice(0, 50).map((row) => row.length));
    this.headings.set(Array.from({ length: width }, (_, at) => headings[at] ?? ''));
    this.raw = rows
      .map((cells, at) => ({ line: at + 1, cells }))
      .slice((head ?? -1) + 1)
      .filter(({ cells }) => cells.filter((cell) => cell.trim() !== '').length > 1);
    this.settings.update((before) => ({
      ...before,
      // Numbers of a workbook are read with a point, whatever it shows.
      habits: habitsOf(
        this.raw.flatMap(({ cells }) => cells),
        name === '' ? undefined : 'point',
      ),
    }));
    this.pointing.set(guessed(this.headings(), this.remembered()));
    this.begin();
  }

  /** Points a column at another meaning, which no other column has then, and remembers it for its heading. */
  point(column: number, meaning: Meaning | ''): void {
    const next = new Map([...this.pointing()].filter(([at, known]) => at !== column && known !== meaning));
    if (meaning !== '') next.set(column, meaning);
    this.pointing.set(next);
    const key = (this.headings()[column] ?? '').trim().toLowerCase();
    if (key !== '') {
      const remembered = { ...this.remembered(), [key]: meaning };
      localStorage.setItem(this.keptAs(), JSON.stringify(remembered));
    }
    this.begin();
  }

  set(settings: Partial<Settings>): void {
    this.settings.update((before) => ({ ...before, ...settings }));
    this.askAll();
  }

  type(at: number, meaning: Meaning, text: string): void {
    this.change(at, (row) => ({ ...row, cells: { ...row.cells, [meaning]: text } }));
  }

  leaveOut(at: number, leftOut: boolean): void {
    this.laid.update((rows) => rows.map((row) => (row.at === at ? { ...row, leftOut } : row)));
  }

  mend(at: number, { meaning, value }: Mend): void {
    this.change(at, (row) =>
      meaning === 'payment'
        ? { ...row, agreed: value }
        : { ...row, cells: { ...row.cells, dayCount: value } },
    );
  }

  /** Faults that the server found, at their rows. */
  tell(faults: ReadonlyMap<number, Readonly<Partial<Record<Meaning, string>>>>): void {
    this.laid.update((rows) =>
      rows.map((row) => {
        const found = faults.get(row.at);
        return found ? { ...row, outcome: { says: {}, differs: [], faults: found } } : row;
      }),
    );
  }

  clear(): void {
    this.raw = [];
    this.laid.set([]);
    this.headings.set([]);
  }

  private change(at: number, to: (row: DeskRow) => DeskRow): void {
    // What else waits is asked for with it; what is worked out stays.
    this.laid.update((rows) =>
      rows.map((row) => {
        if (row.at !== at) return row;
        const { outcome: _, ...anew } = to(row);
        return anew;
      }),
    );
    this.ask(this.laid().filter(({ outcome }) => outcome === undefined));
  }

  private begin(): void {
    const pointing = this.pointing();
    this.laid.set(
      this.raw.map(({ line, cells }, at) => ({
        at,
        line,
        leftOut: false,
        cells: Object.fromEntries(
          [...pointing].map(([column, meaning]) => [meaning, (cells[column] ?? '').trim()]),
        ) as RowCells,
      })),
    );
    this.askAll();
  }

  private askAll(): void {
    this.ask(this.laid());
  }

  private ask(rows: readonly DeskRow[]): void {
    this.question += 1;
    this.progress.set({ done: 0, of: rows.length });
    const asked: RowsAsked = {
      number: this.question,
      same: this.same(),
      rows: rows.map(({ at, cells, agreed }) => ({ at, cells, ...(agreed !== undefined && { agreed }) })),
    };
    this.worker.postMessage(asked);
  }

  private hear({ number, done, of, outcomes }: RowsTold): void {
    if (number !== this.question) return;
    const found = new Map(outcomes);
    this.laid.update((rows) =>
      rows.map((row) => {
        const outcome = found.get(row.at);
        return outcome ? { ...row, outcome } : row;
      }),
    );
    this.progress.set({ done, of });
  }

  private keptAs(): string {
    return `coffer.sheet-columns.${this.session.company()?.id ?? 0}`;
  }

  private remembered(): Readonly<Record<string, Meaning | ''>> {
    try {
      const kept = JSON.parse(localStorage.getItem(this.keptAs()) ?? '{}') as Record<string, Meaning | ''>;
      const known = Object.entries(kept).filter(
        ([, meaning]) => meaning === '' || meaningNames.includes(meaning),
      );
      return Object.fromEntries(known);
    } catch {
      return {};
    }
  }
}

/** The rows, each that is kept and has the name of one above with that fault at its name. */
function withTwins(rows: readonly DeskRow[]): readonly DeskRow[] {
  const first = new Map<string, number>();
  return rows.map((row) => {
    const name = (row.cells.name ?? '').trim().toLowerCase();
    if (row.leftOut || name === '') return row;
    const twin = first.get(name);
    if (twin === undefined) first.set(name, row.line);
    if (twin === undefined || !row.outcome) return row;
    const faults = { ...row.outcome.faults, name: `Line ${twin} has this name too.` };
    return { ...row, outcome: { says: row.outcome.says, differs: [], faults } };
  });
}

/** What is offered as the same for all rows. */
export const repaidWords: Readonly<Record<Repaid, string>> = {
  level: 'level payments',
  'equal-principal': 'equal principal',
  'interest-only': 'interest only, repaid at the end',
};
