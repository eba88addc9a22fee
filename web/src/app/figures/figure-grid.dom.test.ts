import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { FigureGrid } from './figure-grid';
import type { GridColumn, GridRow } from './grid-model';

interface Payment {
  readonly due: string;
  readonly paid: string;
}

const columns: GridColumn<Payment>[] = [
  { key: 'due', title: 'Due', align: 'left', track: '100px', cell: ({ due }) => due },
  {
    key: 'paid',
    title: 'Paid',
    align: 'right',
    track: '100px',
    typed: ({ paid }) => paid,
    cell: ({ paid }) => paid,
  },
  { key: 'kept', title: 'Kept', align: 'right', track: '100px', cell: () => 'kept' },
];
const rows: GridRow<Payment>[] = [
  { type: 'item', id: 'a', item: { due: '1 Oct', paid: '100.00' } },
  { type: 'item', id: 'b', item: { due: '1 Nov', paid: '200.00' } },
  { type: 'band', id: 'end', text: 'period end' },
  { type: 'item', id: 'c', item: { due: '1 Dec', paid: '300.00' } },
];

let fixture: ComponentFixture<FigureGrid<Payment>>;
let table: HTMLElement;
let told: string[];
beforeEach(async () => {
  fixture = TestBed.createComponent<FigureGrid<Payment>>(FigureGrid);
  const { componentRef } = fixture;
  componentRef.setInput('label', 'Payments');
  componentRef.setInput('columns', columns);
  componentRef.setInput('rows', rows);
  componentRef.setInput('total', { due: 'In all', paid: '600.00' });
  told = [];
  fixture.componentInstance.choose.subscribe(({ row, column }) =>
    told.push(`chosen ${row.id} ${column.key}`),
  );
  fixture.componentInstance.typed.subscribe(({ row, column, text }) =>
    told.push(`typed ${row.id} ${column.key} ${text}`),
  );
  await fixture.whenStable();
  table = fixture.nativeElement.querySelector('[role=grid]');
});

async function press(key: string, more: KeyboardEventInit = {}, on: HTMLElement = table): Promise<void> {
  on.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
  await fixture.whenStable();
}

/** The text of the cell that a reader of the screen is told of. */
const active = (): string | undefined =>
  document.getElementById(table.getAttribute('aria-activedescendant') ?? '')?.textContent?.trim();
const field = (): HTMLInputElement | null => table.querySelector('input');

// ARIA Authoring Practices Guide, grid pattern: arrows by a cell, Home and End within the row, with Control to the ends.
describe('a table of figures by keyboard', () => {
  it('tells its size with headings, bands and the total counted', () => {
    expect(table.getAttribute('aria-rowcount')).toBe('6');
    expect(table.getAttribute('aria-colcount')).toBe('3');
    const heads = [...table.querySelectorAll('[role=columnheader]')].map((head) => head.textContent?.trim());
    expect(heads).toEqual(['Due', 'Paid', 'Kept']);
    expect(table.querySelector('.foot')?.textContent).toContain('600.00');
  });

  it('moves by a cell and to the ends, and stops there', async () => {
    await press('ArrowDown');
    expect(active()).toBe('1 Oct');
    await press('ArrowRight');
    expect(active()).toBe('100.00');
    await press('ArrowDown');
    expect(active()).toBe('200.00');
    await press('ArrowDown');
    expect(active()).toBe('period end');
    await press('End', { ctrlKey: true });
    expect(active()).toBe('kept');
    await press('ArrowDown');
    await press('ArrowRight');
    expect(active()).toBe('kept');
    await press('Home');
    expect(active()).toBe('1 Dec');
    await press('Home', { ctrlKey: true });
    expect(active()).toBe('1 Oct');
  });

  it('chooses with Enter or the space bar', async () => {
    await press('ArrowDown');
    await press('Enter');
    await press('ArrowDown');
    await press(' ');
    expect(told).toEqual(['chosen a due', 'chosen b due']);
  });

  it('looks at the row that is pressed, and says that it was chosen by a press', async () => {
    const seen: string[] = [];
    fixture.componentInstance.look.subscribe((row) => seen.push(row?.id ?? ''));
    fixture.componentInstance.choose.subscribe(({ by }) => seen.push(by));
    const cells = Array.from(table.querySelectorAll<HTMLElement>('[role=gridcell]'));
    cells.find(({ textContent }) => textContent.trim() === '1 Nov')?.click();
    await press(' ');
    expect(seen).toEqual(['b', 'press', 'key']);
  });

  it('is typed into from a digit, Enter or F2 on, and Enter goes on to the row below', async () => {
    await press('ArrowDown');
    await press('ArrowRight');
    await press('7');
    const typed = field();
    expect(typed?.value).toBe('7');
    (typed as HTMLInputElement).value = '75.50';
    await press('Enter', {}, typed as HTMLInputElement);
    expect(told).toEqual(['typed a paid 75.50']);
    expect([field(), active()]).toEqual([null, '200.00']);
    await press('F2');
    expect(field()?.value).toBe('200.00');
    await press('Escape', {}, field() as HTMLInputElement);
    expect([field(), told.length]).toEqual([null, 1]);
  });

  it('goes on with Tab to the next cell that can be typed into', async () => {
    await press('ArrowDown');
    await press('ArrowRight');
    await press('Enter');
    await press('Tab', {}, field() as HTMLInputElement);
    expect(field()?.value).toBe('200.00');
    // Nothing was typed: looking into a cell changes nothing.
    expect(told).toEqual([]);
  });

  it('copies the rows that are taken, or all with the total, under their headings', async () => {
    const copied = async (): Promise<string> => {
      const kept = new Map<string, string>();
      const event = new Event('copy', { bubbles: true, cancelable: true });
      Object.assign(event, {
        clipboardData: { setData: (type: string, text: string) => kept.set(type, text) },
      });
      table.dispatchEvent(event);
      await fixture.whenStable();
      return kept.get('text/plain') ?? '';
    };
    await press('ArrowDown');
    expect(await copied()).toBe(
      'Due\tPaid\tKept\n1 Oct\t100.00\tkept\n1 Nov\t200.00\tkept\nperiod end\n1 Dec\t300.00\tkept\nIn all\t600.00\t',
    );
    await press('ArrowDown', { shiftKey: true });
    expect(await copied()).toBe('Due\tPaid\tKept\n1 Oct\t100.00\tkept\n1 Nov\t200.00\tkept');
  });

  it('keeps the cursor where it was when the rows are worked out anew, and on a row when there are fewer', async () => {
    await press('End', { ctrlKey: true });
    fixture.componentRef.setInput('rows', rows.slice(0, 2));
    await fixture.whenStable();
    expect(active()).toBe('kept');
  });
});

describe('a table with drafts in it', () => {
  const drafts: GridColumn<Payment>[] = [
    { key: 'due', title: 'Due', align: 'left', track: '100px', cell: ({ due }) => due },
    {
      key: 'paid',
      title: 'Paid',
      align: 'right',
      track: '100px',
      typed: ({ due, paid }) => (due === '1 Oct' ? undefined : paid),
      cell: ({ due, paid }) => (due === '1 Nov' ? { text: paid, draft: true } : paid),
    },
  ];
  beforeEach(async () => {
    const { componentRef, componentInstance } = fixture;
    componentRef.setInput('columns', drafts);
    componentRef.setInput('rows', [
      ...rows.slice(0, 2),
      { type: 'note', id: 'b:note', text: 'paid faster', acts: [{ key: 'erase', text: 'Give back' }] },
    ]);
    componentRef.setInput('underTotal', { due: 'Against as it is', paid: '+50.00' });
    componentInstance.act.subscribe(({ row, key }) => told.push(`${key} ${row.id}`));
    componentInstance.untypable.subscribe(({ row, column }) =>
      told.push(`untypable ${row.id} ${column.key}`),
    );
    componentInstance.lookColumn.subscribe((key) => told.push(`column ${key}`));
    await fixture.whenStable();
  });

  it('counts the second line under the total, marks what is a draft, and a column that is pointed at', async () => {
    // Three rows, the heading, the total and the line under it.
    expect(table.getAttribute('aria-rowcount')).toBe('6');
    expect(table.querySelector('.under')?.textContent).toContain('+50.00');
    expect([...table.querySelectorAll('.draft')].map((cell) => cell.textContent?.trim())).toEqual(['200.00']);
    fixture.componentRef.setInput('markedColumn', 'paid');
    await fixture.whenStable();
    // The heading and the two figures under it.
    expect(table.querySelectorAll('.lit')).toHaveLength(3);
  });

  it('says what cannot be typed into, and tells the column that the cursor is in', async () => {
    table.focus();
    await fixture.whenStable();
    told = [];
    await press('ArrowRight');
    await press('7');
    expect(told).toEqual(['column paid', 'untypable a paid']);
    expect(field()).toBeNull();
  });

  it('gives a draft back by its note, or by the Delete key', async () => {
    table.querySelector<HTMLButtonElement>('.act')?.click();
    table.focus();
    await fixture.whenStable();
    await press('ArrowDown');
    await press('Delete');
    expect(told.filter((each) => each.startsWith('erase'))).toEqual(['erase b:note', 'erase b']);
  });
});
