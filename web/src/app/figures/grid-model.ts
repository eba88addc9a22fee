/** What a cell shows: text, and where it helps a second line, a mark, or a share drawn as a bar. */
export interface GridCell {
  readonly text: string;
  readonly sub?: string | undefined;
  readonly chip?: { readonly text: string; readonly tone: 'wrong' | 'agreed' | 'flag' | 'plain' } | undefined;
  /** 0 to 1. */
  readonly bar?: number | undefined;
  /** 0 to 1: how dark the cell is shaded in a table whose cells are compared by size. */
  readonly shade?: number | undefined;
  /** The figure is a draft: it would be another one than it is. */
  readonly draft?: boolean | undefined;
  /** Said when the pointer rests on the cell. */
  readonly tip?: string | undefined;
}

/** A column of a table of figures. */
export interface GridColumn<Item> {
  readonly key: string;
  readonly title: string;
  readonly align: 'left' | 'right';
  /** A CSS grid track, such as `minmax(90px, 1fr)`. */
  readonly track: string;
  readonly tone?: 'principal' | 'interest';
  /** Enter and click tell how the figure is made. */
  readonly explains?: boolean;
  /** The text that typing into the cell begins with, where it can be typed into. */
  readonly typed?: (item: Item) => string | undefined;
  /** Whether cells that can be typed into look as all others do. */
  readonly plain?: boolean;
  /** Whether the row is ticked, for the column that shows it; undefined where there is nothing to tick. */
  readonly ticks?: (item: Item) => boolean | undefined;
  cell(item: Item): GridCell | string;
}

/** A row: an item, a heading or total with figures of its own, or a band across the table. */
export type GridRow<Item> =
  | {
      readonly type: 'item';
      readonly id: string;
      readonly item: Item;
      readonly quiet?: boolean;
    }
  | {
      readonly type: 'group' | 'total';
      readonly id: string;
      readonly cells: Readonly<Record<string, string>>;
    }
  | { readonly type: 'band'; readonly id: string; readonly text: string; readonly key?: string }
  /** A remark under the row before it, with what can be done about that. */
  | {
      readonly type: 'note';
      readonly id: string;
      readonly text: string;
      readonly acts: readonly { readonly key: string; readonly text: string }[];
    };

/** What a row shows under a column; nothing in a band or note, whose text lies across them all. */
export function cellOf<Item>(row: GridRow<Item>, column: GridColumn<Item>): GridCell {
  if (row.type === 'band' || row.type === 'note') return { text: '' };
  if (row.type !== 'item') return { text: row.cells[column.key] ?? '' };
  const cell = column.cell(row.item);
  return typeof cell === 'string' ? { text: cell } : cell;
}

/** A cell. */
export interface GridPlace<Item> {
  readonly row: GridRow<Item>;
  readonly column: GridColumn<Item>;
}

/** A cell that was chosen: by a press on it, or by a key from wherever in the row the cursor is. */
export interface GridChoice<Item> extends GridPlace<Item> {
  readonly by: 'press' | 'key';
}

/** Something to do about a row: what its note offers, or `erase` for the Delete key. */
export interface GridAct<Item> {
  readonly row: GridRow<Item>;
  readonly key: string;
}

/** What was typed into a cell. */
export interface GridTyped<Item> extends GridPlace<Item> {
  readonly text: string;
}
