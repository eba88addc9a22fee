import { parse } from 'csv-parse/sync';
import exceljs from 'exceljs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { usualHabits, showAmount, type PortfolioRow } from '@coffer/contract';
import { portfolioPaper } from './portfolio-paper.ts';
import { loanDocument, TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let preparer: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  preparer = await server.as('ilka');
});
afterAll(() => server.stop());

const portfolio = (query: string): Promise<Answer> => preparer.call('GET', `/api/portfolio?${query}`);
const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);

describe('the portfolio', () => {
  it('stands at the end of a month where the register stands', async () => {
    const { body: register } = await preparer.call('GET', '/api/register?on=2026-10-31');
    const figures = new Map(
      register.rows.map((row: { id: string; figures: object }) => [row.id, row.figures]),
    );
    const measures = {
      closing: 'outstanding',
      carrying: 'carrying',
      accrued: 'accruedInterest',
      current: 'current',
    };
    for (const [show, figure] of Object.entries(measures)) {
      const { body } = await portfolio(`from=2026-10-01&to=2026-12-31&by=month&show=${show}`);
      expect(body.periods[0]).toEqual({ from: '2026-10-01', to: '2026-10-31' });
      const rows = body.rows as PortfolioRow[];
      expect(rows.length).toBeGreaterThan(10);
      for (const { id, values } of rows) {
        expect([id, values[0]]).toEqual([id, (figures.get(id) as Record<string, number>)[figure]]);
      }
    }
  });

  it('cross-foots for each instrument, by months as by fiscal years', async () => {
    const span = 'from=2026-07-01&to=2029-06-30';
    const [months, years] = [
      await portfolio(`${span}&by=month&show=expense`),
      await portfolio(`${span}&by=year&show=expense`),
    ];
    // The demo company's fiscal year ends with June.
    expect(years.body.periods.map(({ to }: { to: string }) => to)).toEqual([
      '2027-06-30',
      '2028-06-30',
      '2029-06-30',
    ]);
    months.body.rows.forEach((row: PortfolioRow, at: number) => {
      expect([row.name, row.off, sum(row.values)]).toEqual([row.name, 0, sum(years.body.rows[at].values)]);
    });
  });

  it('leaves out what is neither owed nor paid in any period, and shows what begins in one', async () => {
    await preparer.insist('POST', '/api/instruments', {
      document: loanDocument('Begun later', {
        start: '2026-12-10',
        payments: { every: 'month', first: '2027-01-10', phases: [{ type: 'level', count: 12 }] },
      }),
    });
    const named = async (span: string): Promise<unknown> => {
      const { body } = await portfolio(`${span}&by=month&show=closing`);
      return body.rows.find(({ name }: PortfolioRow) => name === 'Begun later')?.values;
    };
    expect(await named('from=2026-10-01&to=2026-11-30')).toBeUndefined();
    expect(await named('from=2026-11-01&to=2026-12-31')).toEqual([0, 10_000_000]);
    expect(await named('from=2028-06-01&to=2028-06-30')).toBeUndefined();
  });

  it('is a file of lines and a workbook, totalled, in which no text is a formula', async () => {
    await preparer.insist('POST', '/api/instruments', { document: loanDocument('=1+1') });
    const span = 'from=2026-10-01&to=2026-11-30&by=month&show=closing';
    const { text } = await preparer.call('GET', `/api/portfolio.csv?${span}`);
    const lines = parse(text, { columns: true, bom: true }) as Record<string, string>[];
    const total = lines.at(-1) as Record<string, string>;
    const sums = lines
      .slice(0, -1)
      .reduce((all, line) => all + Math.round(100 * Number(line['2026-11-30'])), 0);
    expect([total['name'], Math.round(100 * Number(total['2026-11-30']))]).toEqual(['All instruments', sums]);
    expect(lines.some(({ name }) => name?.startsWith('='))).toBe(false);
    const book = new exceljs.Workbook();
    await book.xlsx.load(await preparer.bytes(`/api/portfolio.xlsx?${span}`));
    const sheet = book.getWorksheet('Portfolio');
    expect(sheet?.rowCount).toBe(lines.length + 1);
    expect(sheet?.getRow(sheet.rowCount).getCell(6).value).toBe(sums / 100);
  });

  it('is a working paper that holds every figure of the screen', async () => {
    const span = 'from=2026-10-01&to=2027-09-30&by=month&show=payment';
    const bytes = Buffer.from(await preparer.bytes(`/api/portfolio.pdf?${span}`));
    expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
    const { body } = await portfolio(span);
    const asked = { from: '2026-10-01', to: '2027-09-30', by: 'month', show: 'payment' } as const;
    const { content } = portfolioPaper(body, {
      company: 'Ostrel Glassworks',
      currency: 'EUR',
      digits: 2,
      habits: usualHabits,
      asked,
      madeBy: 'Ilka Varga',
      alone: true,
      madeAt: '2026-11-25 16:00 UTC',
    });
    const text = JSON.stringify(content);
    const figures = (body.rows as PortfolioRow[]).flatMap(({ name, values }) => [
      name,
      ...values.filter((value) => value !== 0).map((value) => showAmount(value, 2)),
    ]);
    expect(figures.filter((figure) => !text.includes(figure))).toEqual([]);
    expect(text).toContain('holds for each of');
  });

  it.each([
    ['from=2026-10-01&to=2026-09-30&by=month&show=closing', 'to'],
    ['from=1900-01-01&to=2080-12-31&by=month&show=closing', 'to'],
    ['from=2026-10-01&to=2026-12-31&by=week&show=closing', 'by'],
    ['from=2026-10-01&to=2026-12-31&by=month&show=debt', 'show'],
    ['from=soon&to=2026-12-31&by=month&show=closing', 'from'],
  ])('is refused for %s, naming the key', async (query, key) => {
    const { status, body } = await portfolio(query);
    expect([status, body.error.faults.map((fault: { key: string }) => fault.key)]).toEqual([422, [key]]);
  });

  it('is nobody’s who is not logged in', async () => {
    expect(
      (
        await server
          .caller()
          .call('GET', '/api/portfolio?from=2026-10-01&to=2026-12-31&by=month&show=closing')
      ).status,
    ).toBe(401);
  });
});
