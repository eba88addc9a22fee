import exceljs from 'exceljs';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import fc from 'fast-check';
import { unparse } from 'papaparse';
import { describe, expect, it } from 'vitest';
import { chartOfTable, suggestedAccounts } from '../accounts/chart-lines';
import { mostBytes, mostRows, rowsOfText, tablesOfFile } from './table-of-file';

const bytes = (text: string): Uint8Array<ArrayBuffer> => new Uint8Array(new TextEncoder().encode(text));
const refused = async (file: Uint8Array<ArrayBuffer>): Promise<string> =>
  tablesOfFile(file).then(
    () => 'taken',
    (error: Error) => error.message,
  );

describe('separated text', () => {
  it('is read whatever separates it, with titles and decimal commas in it', () => {
    const rows = [
      ['Pellwin, chart of accounts', ''],
      ['Account', 'Name'],
      ['1010', 'Cash, at bank'],
      ['2510', 'Loans “payable”; all'],
    ];
    for (const delimiter of [';', ',', '\t']) {
      expect(rowsOfText(unparse(rows, { delimiter }))).toEqual(rows);
    }
    const german = 'Darlehen;100.000,00;6,00\nZweites;200.000,00;5,50';
    expect(rowsOfText(german)[1]).toEqual(['Zweites', '200.000,00', '5,50']);
  });

  // RFC 4180: quotes, separators and line breaks within cells.
  it('gives back any table that a library wrote', () => {
    const cell = fc
      .string({ minLength: 1, maxLength: 8 })
      .map((text) => `x${text.replaceAll(/[;|\t\r]/g, '')}`);
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell, cell), { minLength: 3, maxLength: 20 }), (rows) => {
        expect(rowsOfText(unparse(rows, { delimiter: ';', newline: '\n' }))).toEqual(rows);
      }),
    );
  });
});

describe('a file', () => {
  it('that is no table, too large, broken or packed beyond reason is refused in words', async () => {
    expect(await refused(new Uint8Array([0x25, 0x50, 0x44, 0x46, 0, 1, 2]))).toMatch(/This is no table/);
    expect(await refused(new Uint8Array([0xd0, 0xcf, 0x11]))).toMatch(/old kind \(\.xls\)/);
    expect(await refused(new Uint8Array([0x50, 0x4b, 3, 4, 9, 9]))).toMatch(
      /begins as a workbook and is none/,
    );
    expect(await refused(new Uint8Array(zipSync({ 'a.txt': strToU8('x') })))).toMatch(/cannot be read/);
    expect(await refused(new Uint8Array(mostBytes + 1))).toMatch(/larger than 25 MB/);
    expect(await refused(bytes('a;b\n'.repeat(mostRows + 1)))).toMatch(/more than 20,000 rows/);
    // 220 MB of zeros come to a few hundred kilobytes.
    const bomb = zipSync({ 'xl/worksheets/sheet1.xml': new Uint8Array(220_000_000) }, { level: 1 });
    expect(bomb.length).toBeLessThan(3_000_000);
    expect(await refused(new Uint8Array(bomb))).toMatch(/more than 200 MB/);
  });

  // Bombs by what a file says of itself, by an entity that doubles (XML 1.0, 4.1), and by one cell far out.
  it('as a workbook that would take all memory is refused before it does', async () => {
    const made = new exceljs.Workbook();
    made.addWorksheet('Loans').getCell('A1').value = 'Lender';
    const parts = unzipSync(new Uint8Array((await made.xlsx.writeBuffer()) as ArrayBuffer));
    const sheet = strFromU8(parts['xl/worksheets/sheet1.xml'] ?? new Uint8Array());
    const having = (xml: string): Uint8Array<ArrayBuffer> =>
      new Uint8Array(zipSync({ ...parts, 'xl/worksheets/sheet1.xml': strToU8(xml) }, { level: 1 }));
    const cell = (reference: string): string =>
      sheet.replace('</sheetData>', `<row><c r="${reference}"><v>1</v></c></row></sheetData>`);
    expect(await refused(having(cell('C3')))).toBe('taken');
    const far = /reaches to row 30,000 and has 16,384 columns/;
    expect(await refused(having(cell('XFD30000')))).toMatch(far);
    // The same as XML may write it: in other quotes, by a character's number, under a prefix, in a part of another name.
    const written = cell('XFD30000');
    for (const otherwise of ["r='XFD30000'", 'r="XFD&#51;0000"', 'x:r="XFD30000"'])
      expect(await refused(having(written.replace('r="XFD30000"', otherwise))), otherwise).toMatch(far);
    const elsewhere = Object.fromEntries(
      Object.entries(parts).map(([name, content]) => [
        name.replace('sheet1.xml', 'data'),
        name.endsWith('sheet1.xml')
          ? strToU8(written)
          : strToU8(strFromU8(content).replaceAll('sheet1.xml', 'data')),
      ]),
    );
    expect(await refused(new Uint8Array(zipSync(elsewhere)))).toMatch(far);
    // It says of itself that it is a thousand bytes, and is more.
    const lying = having(`${sheet}${' '.repeat(5_000_000)}`);
    const view = new DataView(lying.buffer);
    for (let at = 0; at < lying.length - 46; at += 1)
      if (view.getUint32(at, true) === 0x02014b50 && view.getUint32(at + 24, true) > 5_000_000)
        view.setUint32(at + 24, 1000, true);
    expect(await refused(lying)).toMatch(/sheet1\.xml in it is not as long as it says/);
    const doubling = Array.from({ length: 40 }, (_, at) => `<!ENTITY a${at + 1} "&a${at};&a${at};">`).join(
      '',
    );
    const laughing = sheet
      .replace('<worksheet', `<!DOCTYPE x [<!ENTITY a0 "ha">${doubling}]><worksheet`)
      .replace('</sheetData>', '<row><c r="A2" t="inlineStr"><is><t>&a40;</t></is></c></row></sheetData>');
    expect(JSON.stringify(await tablesOfFile(having(laughing)))).toContain('&a40;');
  });

  it('as a workbook is read with its title, merged cells, dates as text and what its formulas came to', async () => {
    const book = new exceljs.Workbook();
    book.addWorksheet('Notes & more').addRow(['nothing here']);
    const sheet = book.addWorksheet('Loans');
    sheet.getCell('A2').value = 'Loans of Pellwin, 31 December';
    sheet.mergeCells('A2:D2');
    sheet.getRow(4).values = ['Lender', 'Name', 'Amount', 'Start'];
    const lines = [
      ['Harrowgate Bank', 'Kiln loan', 100_000, '15.06.2026'],
      [null, 'Mould loan', { formula: 'C5*2', result: 200_000 }, new Date('2026-07-15T00:00:00Z')],
      [null, 'Crate loan', { formula: 'C6*2' }, '2026-08-15'],
      ['Other Bank', 'Van loan', '1.250,50', '1 sep 26'],
    ];
    lines.forEach((line, at) => (sheet.getRow(5 + at).values = line as exceljs.CellValue[]));
    sheet.mergeCells('A5:A7');
    const tables = await tablesOfFile(new Uint8Array((await book.xlsx.writeBuffer()) as ArrayBuffer));
    expect(tables.map(({ name }) => name)).toEqual(['Notes & more', 'Loans']);
    const rows = tables[1]?.rows.filter((row) => row.some((cell) => cell !== ''));
    expect(rows).toEqual([
      ['Loans of Pellwin, 31 December', '', '', ''],
      ['Lender', 'Name', 'Amount', 'Start'],
      ['Harrowgate Bank', 'Kiln loan', '100000', '15.06.2026'],
      ['Harrowgate Bank', 'Mould loan', '200000', '2026-07-15'],
      // A formula that was never worked out says nothing: that is a fault at its cell.
      ['Harrowgate Bank', 'Crate loan', '', '2026-08-15'],
      ['Other Bank', 'Van loan', '1.250,50', '1 sep 26'],
    ]);
  });

  it('in the western single-byte encoding keeps its letters', async () => {
    const [table] = await tablesOfFile(new Uint8Array([0x31, 0x3b, 0x47, 0x72, 0xfc, 0x6e]));
    expect(table?.rows).toEqual([['1', 'Grün']]);
  });
});

describe('a chart of accounts', () => {
  it('begins beneath its titles, and a code that comes twice or has no name is said', () => {
    const { lines, faults } = chartOfTable([
      ['Chart of Pellwin', ''],
      ['Account', 'Name'],
      ['1010', 'Cash at bank'],
      ['', ''],
      ['2510', 'Loans payable'],
      ['1010', 'Cash again'],
      ['2999', ''],
    ]);
    expect(lines.map(({ code }) => code)).toEqual(['1010', '2510']);
    expect(faults).toEqual([
      'Line 6: the code 1010 stands in line 3 already.',
      'Line 7: 2999 has no name beside it.',
    ]);
  });

  it('suggests what stands for a role by the names of the trade, and leaves what was chosen', () => {
    const lines = [
      { code: '1', name: 'Accrued interest payable' },
      { code: '2', name: 'Interest expense' },
      { code: '3', name: 'Bank loans' },
      { code: '4', name: 'Current maturities of long-term debt' },
      { code: '5', name: 'Discount on bonds payable' },
      { code: '6', name: 'Bonds payable' },
    ];
    const found = Object.fromEntries(suggestedAccounts(lines, new Map([['cash', '9']])));
    expect(found).toEqual({
      cash: '9',
      'interest-payable': '1',
      'interest-expense': '2',
      'loan-payable': '3',
      'current-portion': '4',
      'bond-discount': '5',
      'bonds-payable': '6',
    });
  });
});
