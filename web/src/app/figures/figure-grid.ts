import { CdkVirtualScrollViewport, ScrollingModule } from '@angular/cdk/scrolling';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
} from '@angular/core';
import {
  cellOf,
  type GridAct,
  type GridChoice,
  type GridPlace,
  type GridColumn,
  type GridRow,
  type GridTyped,
} from './grid-model';
import { gridTracks } from './grid-tracks';
import { asTabSeparated } from './tab-separated';

let grids = 0;

/** Pixels beyond an edge that hide no figure: less than a column's own margin. */
const unseen = 16;

/**
 * A table of figures: any number of rows drawn as they come into view, moved through with the arrow keys, Enter
 * and click choose a cell, Shift takes in rows, copying gives them tab-separated under their headings.
 */
@Component({
  selector: 'coffer-figure-grid',
  imports: [ScrollingModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './figure-grid.html',
  styleUrl: './figure-grid.scss',
  host: { '[style.--tracks]': 'placed().tracks', '[style.--row]': 'rowHeight() + "px"' },
})
export class FigureGrid<Item> {
  readonly label = input.required<string>();
  readonly columns = input.required<readonly GridColumn<Item>[]>();
  readonly rows = input.required<readonly GridRow<Item>[]>();
  readonly rowHeight = input(32);
  /** Least width before the table scrolls sideways. */
  readonly minWidth = input(640);
  /** A total under the rows, always in view. */
  readonly total = input<Readonly<Record<string, string>> | undefined>();
  /** A second line under the total. */
  readonly underTotal = input<Readonly<Record<string, string>> | undefined>();
  /** Row and column of the figure that is being explained. */
  readonly explained = input<{ row: string; column: string } | undefined>();
  /** Id of a row to mark, such as the one hovered over elsewhere. */
  readonly marked = input<string | undefined>();
  /** Key of a column to mark, such as the one pointed at elsewhere. */
  readonly markedColumn = input<string | undefined>();
  readonly choose = output<GridChoice<Item>>();
  /** A cell was typed into. */
  readonly typed = output<GridTyped<Item>>();
  /** Somebody began to type into a cell that cannot be typed into, in a column of which others can. */
  readonly untypable = output<GridPlace<Item>>();
  /** Something is to be done about a row. */
  readonly act = output<GridAct<Item>>();
  /** The row under the pointer or the cursor. */
  readonly look = output<GridRow<Item> | undefined>();
  /** Key of the column under the pointer or the cursor. */
  readonly lookColumn = output<string | undefined>();

  protected readonly cellOf = cellOf;
  protected readonly leastWidth = computed(() => Math.max(this.minWidth(), this.placed().least));
  protected readonly id = `grid-${(grids += 1)}`;
  protected readonly placed = computed(() => gridTracks(this.columns(), this.rows(), this.total()));
  protected readonly cursor = linkedSignal<
    readonly GridRow<Item>[],
    { row: number; column: number; from: number }
  >({
    source: this.rows,
    computation: (rows, before) => {
      const at = before ? Math.min(before.value.row, Math.max(0, rows.length - 1)) : -1;
      return { row: at, column: before?.value.column ?? 0, from: at };
    },
  });
  /** The cell being typed into, the text that it is typed over with, and what it held. */
  protected readonly typing = signal<
    { row: number; column: number; text: string; begun: string } | undefined
  >(undefined);
  private readonly changes = inject(ChangeDetectorRef);
  private readonly typedInto = viewChild<ElementRef<HTMLInputElement>>('typed');
  private readonly viewport = viewChild.required(CdkVirtualScrollViewport);
  private readonly table = viewChild.required<ElementRef<HTMLElement>>('table');
  private readonly head = viewChild.required<ElementRef<HTMLElement>>('head');
  private readonly foot = viewChild<ElementRef<HTMLElement>>('foot');

  constructor() {
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      // Told anew when the table, or what is in it, changes its width.
      const widths = new ResizeObserver(() => this.lookAside());
      const table = this.table().nativeElement;
      widths.observe(table);
      if (table.firstElementChild) widths.observe(table.firstElementChild);
      destroyed.onDestroy(() => widths.disconnect());
    });
  }

  /** Whether columns lie beyond the left and the right edge, out of sight. */
  protected readonly beyond = signal({ left: false, right: false });

  protected lookAside(): void {
    const { scrollLeft, clientWidth, scrollWidth } = this.table().nativeElement;
    const left = scrollLeft > unseen;
    const right = scrollLeft + clientWidth < scrollWidth - unseen;
    const now = this.beyond();
    if (now.left !== left || now.right !== right) this.beyond.set({ left, right });
  }

  /** Brings what lies beyond an edge into view. */
  protected turn(by: 1 | -1): void {
    const table = this.table().nativeElement;
    table.scrollBy({ left: by * table.clientWidth * 0.7, behavior: 'smooth' });
  }

  protected trackRow(_: number, row: GridRow<Item>): string {
    return row.id;
  }

  protected cellId(row: number, column: number): string {
    return `${this.id}-${row}-${column}`;
  }

  protected taken(row: number): boolean {
    const { row: at, from } = this.cursor();
    return from !== at && row >= Math.min(at, from) && row <= Math.max(at, from);
  }

  /** The active cell's id, while it is drawn. */
  protected active(): string | null {
    const { row, column } = this.cursor();
    const { start, end } = this.viewport().getRenderedRange();
    return row >= start && row < end ? this.cellId(row, column) : null;
  }

  /** Brings a row into view, a third from the top, and puts the cursor on one of its cells. */
  reveal(id: string, columnKey?: string): void {
    const row = this.rows().findIndex((candidate) => candidate.id === id);
    if (row < 0) return;
    const column = Math.max(
      0,
      this.columns().findIndex(({ key }) => key === columnKey),
    );
    this.cursor.set({ row, column, from: row });
    const table = this.table().nativeElement;
    table.scrollTop = row * this.rowHeight() - (this.visibleHeight() - this.rowHeight()) / 3;
  }

  /** Height between the sticky headings and the sticky total. */
  private visibleHeight(): number {
    const { clientHeight } = this.table().nativeElement;
    return (
      clientHeight - this.head().nativeElement.offsetHeight - (this.foot()?.nativeElement.offsetHeight ?? 0)
    );
  }

  /** Takes the keyboard. */
  focus(): void {
    this.table().nativeElement.focus({ preventScroll: true });
  }

  protected onClick(row: number, column: number): void {
    this.cursor.set({ row, column, from: row });
    this.look.emit(this.rows()[row]);
    this.lookColumn.emit(this.columns()[column]?.key);
    this.focus();
    if (!this.beginTyping()) this.emitChoice('press');
  }

  /** Opens the cell under the cursor for typing, with the text it has or another; not every cell can be. */
  private beginTyping(text?: string): boolean {
    const { row, column } = this.cursor();
    const [item, typed] = [this.rows()[row], this.columns()[column]?.typed];
    const begun = item?.type === 'item' ? typed?.(item.item) : undefined;
    if (begun === undefined) return false;
    this.typing.set({ row, column, text: text ?? begun, begun });
    // Drawn at once, so that the next key goes into the cell however fast it follows.
    this.changes.detectChanges();
    const input = this.typedInto()?.nativeElement;
    input?.focus({ preventScroll: true });
    if (text === undefined) input?.select();
    return true;
  }

  protected onTypingKey(event: KeyboardEvent, text: string): void {
    event.stopPropagation();
    if (event.key === 'Escape') this.typing.set(undefined);
    else if (event.key === 'Enter' || event.key === 'Tab') this.endTyping(text);
    else return;
    event.preventDefault();
    this.focus();
    const { row, column } = this.cursor();
    if (event.key === 'Enter') this.move(row + (event.shiftKey ? -1 : 1), column, false);
    if (event.key === 'Tab') this.toNextTyped(event.shiftKey ? -1 : 1);
  }

  /** On to the next cell that can be typed into, in this row or the next. */
  private toNextTyped(by: 1 | -1): void {
    const { row, column } = this.cursor();
    const typed = this.columns().flatMap((candidate, at) => (candidate.typed ? [at] : []));
    const next = typed[typed.indexOf(column) + by];
    if (next !== undefined) this.move(row, next, false);
    else this.move(row + by, (by > 0 ? typed[0] : typed.at(-1)) ?? column, false);
    this.beginTyping();
  }

  protected endTyping(text: string): void {
    const typing = this.typing();
    if (!typing) return;
    this.typing.set(undefined);
    const [row, column] = [this.rows()[typing.row], this.columns()[typing.column]];
    // Looking into a cell changes nothing.
    if (row && column && text !== typing.begun) this.typed.emit({ row, column, text: text.trim() });
  }

  protected onFocus(): void {
    const { row, column } = this.cursor();
    if (row < 0 && this.rows().length > 0) this.move(this.viewport().getRenderedRange().start, column, false);
  }

  protected onKey(event: KeyboardEvent): void {
    const { row, column } = this.cursor();
    const page = Math.max(1, Math.floor(this.visibleHeight() / this.rowHeight()) - 1);
    const lastRow = this.rows().length - 1;
    const lastColumn = this.columns().length - 1;
    const whole = event.ctrlKey || event.metaKey;
    const moves: Record<string, [number, number]> = {
      ArrowUp: [row - 1, column],
      ArrowDown: [row + 1, column],
      ArrowLeft: [row, column - 1],
      ArrowRight: [row, column + 1],
      PageUp: [row - page, column],
      PageDown: [row + page, column],
      Home: whole ? [0, 0] : [row, 0],
      End: whole ? [lastRow, lastColumn] : [row, lastColumn],
    };
    const to = moves[event.key];
    if (to) this.move(to[0], to[1], event.shiftKey);
    else if (whole) return;
    else if (/^\d$/.test(event.key)) {
      if (!this.beginTyping(event.key)) {
        this.tellUntypable();
        return;
      }
    } else if (event.key === 'Delete') this.actOn(this.rows()[row], 'erase');
    else if (event.key === 'F2') this.beginTyping();
    else if (event.key === 'Enter') {
      if (!this.beginTyping()) this.emitChoice('key');
    } else if (event.key === ' ') this.emitChoice('key');
    else return;
    event.preventDefault();
  }

  private tellUntypable(): void {
    const [row, column] = [this.rows()[this.cursor().row], this.columns()[this.cursor().column]];
    if (row?.type === 'item' && column?.typed) this.untypable.emit({ row, column });
  }

  protected actOn(row: GridRow<Item> | undefined, key: string): void {
    if (row) this.act.emit({ row, key });
  }

  private move(row: number, column: number, taking: boolean): void {
    const before = this.cursor();
    const at = Math.min(Math.max(row, 0), this.rows().length - 1);
    const to = Math.min(Math.max(column, 0), this.columns().length - 1);
    this.cursor.set({ row: at, column: to, from: taking ? before.from : at });
    this.look.emit(this.rows()[at]);
    this.lookColumn.emit(this.columns()[to]?.key);
    const table = this.table().nativeElement;
    const start = at * this.rowHeight();
    const lowest = start + this.rowHeight() - this.visibleHeight();
    if (table.scrollTop > start) table.scrollTop = start;
    else if (table.scrollTop < lowest) table.scrollTop = lowest;
  }

  private emitChoice(by: GridChoice<Item>['by']): void {
    const { row, column } = this.cursor();
    const [chosen, under] = [this.rows()[row], this.columns()[column]];
    if (chosen && under) this.choose.emit({ by, row: chosen, column: under });
  }

  private footTexts(): string[][] {
    const lines = [this.total(), this.underTotal()].filter((cells) => cells !== undefined);
    return lines.map((cells) => this.columns().map(({ key }) => cells[key] ?? ''));
  }

  protected onCopy(event: ClipboardEvent): void {
    if (document.getSelection()?.toString()) return;
    const { row, from } = this.cursor();
    const all = from === row ? this.rows() : this.rows().slice(Math.min(row, from), Math.max(row, from) + 1);
    const texts = all.map((line) =>
      line.type === 'band' || line.type === 'note'
        ? [line.text]
        : this.columns().map((column) => cellOf(line, column).text),
    );
    event.clipboardData?.setData(
      'text/plain',
      asTabSeparated([
        this.columns().map(({ title }) => title),
        ...texts,
        ...(from === row ? this.footTexts() : []),
      ]),
    );
    event.preventDefault();
  }
}
