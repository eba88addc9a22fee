import exceljs from 'exceljs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parseDay, type CalendarDay } from '@coffer/core';
import { usualHabits, readInstrument } from '@coffer/contract';
import { loanDocument, TestServer, type Caller } from '../../testing/test-server.ts';
import { closedBy } from './paper-parts.ts';
import { paperRecord } from './instrument-record.ts';
import { workingPaper } from './working-paper.ts';

let server: TestServer;
let auditor: Caller;
let id: string;
beforeAll(async () => {
  server = await TestServer.start();
  const preparer = await server.as('ilka');
  const { body } = await preparer.call('POST', '/api/instruments', { document: loanDocument('=cmd() loan') });
  id = body.id;
  auditor = await server.as('tobiah');
});
afterAll(() => server.stop());

describe('a schedule as a workbook', () => {
  it('has numbers and days, totals that can be followed, and no text that begins a formula', async () => {
    const book = new exceljs.Workbook();
    await book.xlsx.load(await auditor.bytes(`/api/instruments/${id}/schedule.xlsx`));
    const sheet = book.getWorksheet('Schedule');
    // Monthly mortgage payment tables, widely printed: 100,000 at 6 % over 360 pays 599.55; from memory.
    const first = sheet?.getRow(2).values as unknown[];
    expect(first.slice(1)).toEqual([
      1,
      new Date('2026-11-01T00:00:00Z'),
      100_000,
      599.55,
      500,
      99.55,
      99_900.45,
    ]);
    const principal = sheet?.getRow(362).getCell(6).value;
    expect(principal).toMatchObject({ formula: 'SUM(F2:F361)', result: 100_000 });
    expect(book.getWorksheet('Terms')?.getRow(1).getCell(2).value).toBe(`'=cmd() loan`);
    const proofs = book.getWorksheet('Proofs');
    expect(proofs?.getColumn(2).values.slice(2)).toEqual(Array.from({ length: 7 }, () => 'yes'));
  });
});

describe('a working paper', () => {
  const texts = (of: unknown): string[] => {
    if (typeof of === 'string') return [of];
    if (typeof of === 'number' || typeof of !== 'object' || of === null) return [];
    return Object.values(of).flatMap(texts);
  };
  const paper = (document: object): string[] => {
    const reading = readInstrument(document);
    if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
    const record = paperRecord(reading.instrument, parseDay('2027-06-30') as CalendarDay);
    const { content } = workingPaper(record, {
      company: 'Ostrel Glassworks',
      habits: usualHabits,
      fiscalYearEndMonth: 6,
      version: 3,
      on: '2027-06-30',
      signed: undefined,
      madeBy: 'Ilka Varga',
      alone: true,
      madeAt: '2026-11-25 16:00 UTC',
    });
    return texts(content);
  };

  it('is a PDF for whoever may read, and says what day it needs', async () => {
    const bytes = Buffer.from(await auditor.bytes(`/api/instruments/${id}/working-paper.pdf?on=2026-10-31`));
    expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
    expect(bytes.subarray(-6).toString().trim()).toBe('%%EOF');
    const { status, body } = await auditor.call('GET', `/api/instruments/${id}/working-paper.pdf`);
    expect([status, body.error.faults[0].key]).toEqual([422, 'on']);
  });

  it('foots: years add up to the totals, marked so, and the period end stands among the rows', () => {
    const found = paper(loanDocument('Paper loan'));
    expect(found).toContain('f 100,000.00');
    expect(found).toContain('Fiscal 2027');
    // By hand from the tables' 599.55: 99,189.52 is left after eight payments; 29 days of 30 of a month at 0.5 %.
    expect(found).toContain('30 Jun 2027, period end: 479.42 interest accrued');
  });

  it('of very many rows lists the fiscal years around the day, and the sums of the others', () => {
    const payments = { every: 'week', first: '2026-10-08', phases: [{ type: 'level', count: 1200 }] };
    const found = paper(loanDocument('Weekly loan', { payments }));
    const years = found.filter((text) => /^Fiscal \d{4}$/.test(text));
    // 1,200 weeks from October 2026 end in September 2049.
    expect(years).toEqual(Array.from({ length: 24 }, (_, at) => `Fiscal ${2027 + at}`));
    const listed = found.filter((text) => /^\d{1,2} [A-Z][a-z]{2} \d{4}$/.test(text));
    expect(listed).toContain('8 Oct 2026');
    // Thursdays from 8 October 2026 to 30 June 2033 are 352; with another fiscal year there would be more than 400.
    expect(listed).toContain('30 Jun 2033');
    expect(listed.some((text) => text.endsWith('2034'))).toBe(false);
    expect(found).toContain('f 100,000.00');
    expect(found.some((text) => text.includes('Of 848 of 1200 rows the sums'))).toBe(true);
  });

  it('says at its foot where no second person looks at a month', () => {
    expect(closedBy({ alone: true })).toContain('no second one looks');
    expect(closedBy({ alone: false })).toBe('');
  });

  it('does not claim to foot where amounts are carried unrounded', () => {
    const found = paper(loanDocument('Unrounded loan', { rounding: { interest: 'none', payment: 'none' } }));
    expect(found.some((text) => text.startsWith('f '))).toBe(false);
    expect(found.some((text) => text.includes('carried unrounded'))).toBe(true);
  });

  it('of a closed day shows what was reported, beside what is known now', () => {
    const then = readInstrument(loanDocument('Paper loan'));
    const now = readInstrument(loanDocument('Paper loan', { rate: { annual: '12%' } }));
    if (!then.ok || !now.ok) throw new Error('Both read.');
    const record = paperRecord(then.instrument, parseDay('2026-10-31') as CalendarDay, now.instrument);
    const context = {
      company: 'Ostrel Glassworks',
      habits: usualHabits,
      fiscalYearEndMonth: 6,
      version: 1,
      on: '2026-10-31',
      signed: undefined,
      madeBy: 'Ilka Varga',
      alone: true,
      madeAt: '2026-11-25 16:00 UTC',
    };
    const { content } = workingPaper(record, context);
    const found = texts(content).filter((text) => text !== 'left' && text !== 'right');
    const at = found.indexOf('Accrued interest');
    // 30 of 31 days of an even month of 100,000: at 6 % 483.87, at 12 % 967.74.
    expect(found.slice(at, at + 3)).toEqual(['Accrued interest', '483.87', '967.74']);
    expect(found).toContain('As known now');
  });

  it('is signed by who prepared and who approved the month, and by nobody who takes it out', () => {
    const reading = readInstrument(loanDocument('Paper loan'));
    if (!reading.ok) throw new Error('It reads.');
    const record = paperRecord(reading.instrument, parseDay('2026-09-30') as CalendarDay);
    const context = {
      company: 'Ostrel Glassworks',
      habits: usualHabits,
      fiscalYearEndMonth: 6,
      version: 1,
      on: '2026-09-30',
      madeBy: 'Tobiah Reyes',
      alone: false,
      madeAt: '2026-11-25 16:00 UTC',
    };
    const signed = {
      prepared: { by: 'Ilka Varga', on: '2026-10-05' },
      approved: { by: 'Bram Osterhout', on: '2026-10-06' },
    };
    const after = (signatures: typeof signed | undefined, what: string): string[] => {
      const found = texts(workingPaper(record, { ...context, signed: signatures }).content);
      const at = found.indexOf(what);
      return found
        .slice(at + 1)
        .filter((text) => !text.startsWith('#'))
        .slice(0, 2);
    };
    expect(after(signed, 'Prepared by')).toEqual(['Ilka Varga', '5 Oct 2026']);
    expect(after(signed, 'Approved by')).toEqual(['Bram Osterhout', '6 Oct 2026']);
    expect(after(undefined, 'Prepared by')).toEqual([' ', ' ']);
    const { footer } = workingPaper(record, { ...context, signed });
    expect(texts((footer as (page: number, pages: number) => unknown)(1, 2)).join(' ')).toContain(
      'taken out by Tobiah Reyes',
    );
  });

  it('lists what happened and what is to be noted', () => {
    const events = [{ type: 'paid', due: '2026-11-01', on: '2026-11-20', amount: '0.00' }];
    const found = paper(loanDocument('Missed loan', { events }));
    expect(found).toContain('0.00 paid for the payment due 1 Nov 2026');
  });
});
