import exceljs from 'exceljs';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CloseView, EntryLineView } from '@coffer/contract';
import { TestServer, type Caller } from '../../testing/test-server.ts';

let server: TestServer;
let [ilka, bram]: Caller[] = [];
beforeAll(async () => {
  server = await TestServer.start();
  [ilka, bram] = [await server.as('ilka'), await server.as('bram')];
});
afterAll(() => server.stop());

const october = '/api/periods/2026-10-31';
const seen = async (by: Caller): Promise<CloseView> => (await by.call('GET', `${october}/close`)).body;

/** What a PDF says, page after page, in single spaces. */
async function saying(bytes: ArrayBuffer): Promise<string> {
  const document = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  const pages = await Promise.all(
    Array.from({ length: document.numPages }, async (_, at) => {
      const { items } = await (await document.getPage(at + 1)).getTextContent();
      return items.map((item) => ('str' in item ? item.str : '')).join(' ');
    }),
  );
  return pages.join(' ').replaceAll(/\s+/g, ' ');
}

/** The rows of each sheet below its head. */
async function sheetsOf(bytes: ArrayBuffer): Promise<ReadonlyMap<string, (string | number)[][]>> {
  const book = new exceljs.Workbook();
  await book.xlsx.load(bytes);
  const rows = (sheet: exceljs.Worksheet): (string | number)[][] =>
    (sheet.getSheetValues() as (string | number)[][]).slice(1).map((row) => row.slice(1));
  return new Map(book.worksheets.map((sheet) => [sheet.name, rows(sheet)]));
}

// What a working paper of a close holds: who did what and when, what was looked at, and what it came to (common practice
// of audit documentation; AS 1215.06 from memory).
describe('the working paper of a close', () => {
  it('tells an open month, and once it is approved the same with who and when, and the digest of what was approved', async () => {
    const early = await saying(await (ilka as Caller).bytes(`${october}/close.pdf`));
    expect(early).toContain('open: nothing of it is posted');
    expect(early).toContain('Nobody has handed it over');
    const { digest, rows } = await seen(ilka as Caller);
    await ilka?.insist('POST', `${october}/hand-over`, { digest });
    const comment = 'Where is the lender’s sheet?';
    await bram?.call('POST', `${october}/return`, { instrumentId: rows[0]?.id, comment });
    await ilka?.insist('POST', `${october}/hand-over`, { digest });
    await bram?.insist('POST', `${october}/approve`, { digest });
    const closed = await seen(bram as Caller);
    const text = await saying(await (bram as Caller).bytes(`${october}/close.pdf`));
    expect(text.replaceAll(' ', '')).toContain(digest);
    for (const told of [
      'closed, approved by Bram Osterhout',
      comment,
      'handed over',
      'Ilka Varga',
      'returned',
    ])
      expect(text).toContain(told);
    // Every instrument of the month, and every entry, since they are few.
    for (const { name } of closed.rows) expect(text.replaceAll(' ', '')).toContain(name.replaceAll(' ', ''));
    expect(text).toContain('Entry by entry');
    // Whoever takes a paper out has prepared nothing.
    const reader = await server.as('tobiah');
    const [first] = closed.rows;
    const paper = await saying(
      await reader.bytes(`/api/instruments/${first?.id}/working-paper.pdf?on=2026-10-31`),
    );
    expect(paper).toMatch(/Prepared by\s+Ilka Varga.*Approved by\s+Bram Osterhout/s);
    expect(paper).toMatch(/taken out by Tobiah/);
  });

  it('has everything in the workbook: figures, differences and each entry, with sums that are those of the close', async () => {
    const closed = await seen(bram as Caller);
    const sheets = await sheetsOf(await (bram as Caller).bytes(`${october}/close.xlsx`));
    expect([...sheets.keys()]).toEqual([
      ...[
        'Month',
        'List',
        'Who and when',
        'Not recorded, assumed paid',
        'Rates not fixed',
        'Figures',
        'Funds',
        'Too small to accrue',
        'Differences',
        'Entries',
      ],
    ]);
    expect(sheets.get('Month')).toContainEqual(['Digest', closed.digest]);
    const figures = (sheets.get('Figures') ?? []).slice(1);
    expect(figures).toHaveLength(closed.rows.length);
    const minor = (amount: unknown): number => Math.round(Number(amount ?? 0) * 100);
    const expense = closed.rows.reduce((sum, row) => sum + row.expense, 0);
    expect(figures.reduce((sum, row) => sum + minor(row[3]), 0)).toBe(expense);
    const lines = (sheets.get('Entries') ?? []).slice(1);
    const listed = closed.sums.flatMap(({ lines: of }) => of);
    const sum = (of: (line: EntryLineView) => number): number =>
      listed.reduce((all, line) => all + of(line), 0);
    expect(lines.reduce((all, row) => all + minor(row[11]), 0)).toBe(sum(({ debit }) => debit));
    expect(lines.reduce((all, row) => all + minor(row[12]), 0)).toBe(sum(({ credit }) => credit));
    expect(new Set(lines.map(([number]) => number)).size).toBe(closed.entryCount);
  });

  it('is of a month that is there', async () => {
    const { status } = (await ilka?.call('GET', '/api/periods/2031-01-31/close.pdf')) ?? {};
    expect(status).toBe(404);
  });
});
