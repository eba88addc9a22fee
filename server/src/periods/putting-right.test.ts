import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { asked, loan, moved, payments, PlayedBooks } from '../testing/played-books.ts';
import type { Answer } from '../testing/test-server.ts';

let books: PlayedBooks;
beforeEach(async () => {
  books = await PlayedBooks.start();
});
// Whatever was done: ledger, reports and documents agree.
afterEach(async () => {
  expect(await books.end()).toEqual([]);
});

describe('what was done by mistake is put right', () => {
  it('a payment recorded in a closed month is taken back, and the open month books the difference', async () => {
    const id = await books.takeOn(loan());
    await books.lock('2026-01-31');
    await books.pay(id, '2026-02-10', '2026-02-10', '5000.00', 'call');
    await books.lock('2026-02-28');
    const takeBack = (due: string, version: number): Promise<Answer> =>
      books.preparer.call('POST', '/api/payments/taken-back', {
        payments: [{ instrumentId: id, version, due }],
        reason: 'The bank sent it twice',
      });
    const none = await takeBack('2026-03-10', 2);
    expect([none.status, none.body.error.faults[0].key]).toEqual([422, 'payments.0.due']);
    expect((await takeBack('2026-02-10', 1)).body.error.code).toBe('stale-version');
    expect((await takeBack('2026-02-10', 2)).body).toEqual({ payments: 1, instruments: 1 });
    // As scheduled 8,605.52 leave the bank.
    const march = await books.entriesOf(id, '2026-03-31');
    const correction = march.find(({ kind }) => kind === 'correction');
    expect([correction?.forPeriod, moved(correction ? [correction] : [], 'cash')]).toEqual([
      '2026-02-28',
      -(860_552 - 500_000),
    ]);
    const { body } = await books.preparer.call('GET', `/api/instruments/${id}`);
    expect(body.versions[0].reason).toBe('Payment due 2026-02-10 taken back: The bank sent it twice');
  });

  it('an instrument taken on by mistake is withdrawn: out of books and lists, its history and name kept apart', async () => {
    const id = await books.takeOn(loan());
    const stays = await books.takeOn(loan({ name: 'Stays' }));
    await books.lock('2026-01-31', '2026-02-28');
    const closed = (await books.preparer.call('GET', '/api/periods/2026-02-28/close')).text;
    const path = `/api/instruments/${id}/withdrawal`;
    expect((await books.preparer.call('POST', path, { version: 9, reason: 'Twice' })).body.error.code).toBe(
      'stale-version',
    );
    const auditor = await books.server.as('tobiah');
    expect((await auditor.call('POST', path, { version: 1, reason: 'Twice' })).status).toBe(403);
    expect((await books.preparer.call('POST', path, { version: 1, reason: 'Twice' })).body).toEqual({ id });
    expect((await books.preparer.call('POST', path, { version: 1, reason: 'Twice' })).body.error.code).toBe(
      'withdrawn',
    );
    const names = async (on: string): Promise<string[]> =>
      (await books.preparer.call('GET', `/api/register?on=${on}`)).body.rows.map(
        ({ name }: { name: string }) => name,
      );
    expect([await names('2026-03-31'), await names('2026-02-28')]).toEqual([['Stays'], ['Loan', 'Stays']]);
    const march = await books.entriesOf(id, '2026-03-31');
    expect(march.map(({ kind, forPeriod }) => [kind, forPeriod])).toEqual([
      ['reversal', null],
      ['correction', '2026-01-31'],
      ['correction', '2026-02-28'],
      ['reversal', null],
    ]);
    await books.lock('2026-03-31');
    const left = await books.server
      .database('entry')
      .join('entry_line', (on) => {
        on.on('entry_line.company_id', 'entry.company_id').andOn('entry_line.number', 'entry.number');
      })
      .where({ instrument_id: id })
      .groupBy('role')
      .select<{ role: string; left: string }[]>(
        'role',
        books.server.database.raw('sum(debit - credit) as left'),
      );
    for (const { role, left: balance } of left) expect([role, Number(balance)]).toEqual([role, 0]);
    await books.lock('2026-04-30');
    expect(await books.entriesOf(id, '2026-04-30')).toEqual([]);
    expect((await books.preparer.call('GET', '/api/periods/2026-02-28/close')).text).toBe(closed);
    const { body } = await books.preparer.call('GET', `/api/instruments/${id}`);
    expect(body.withdrawn).toMatchObject({ by: 'Ilka Varga', reason: 'Twice' });
    expect((await books.change(id, (document) => document, 'call')).body.error.code).toBe('withdrawn');
    expect((await books.takeOn(loan({ start: '2026-05-02', ...payments('2026-06-02', 12) }))).length).toBe(
      stays.length,
    );
  });

  it('a month that has not ended is locked only where that is meant', async () => {
    for (let month = 1; month <= 12; month += 1) {
      const end = new Date(Date.UTC(2026, month, 0)).toISOString().slice(0, 10);
      expect((await books.preparer.call('POST', `/api/periods/${end}/lock`, {})).status).toBe(200);
    }
    // It is 15 January 2027.
    expect(asked(await books.preparer.call('POST', '/api/periods/2027-01-31/lock', {}))).toEqual([
      409,
      'month-not-ended',
    ]);
    expect((await books.preparer.insist('POST', '/api/periods/2027-01-31/lock', {})).status).toBe(200);
  });
});
