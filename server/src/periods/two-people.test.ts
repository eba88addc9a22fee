import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { loanDocument, TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let ilka: Caller;
let bram: Caller;
beforeEach(async () => {
  server = await TestServer.start();
  [ilka, bram] = [await server.as('ilka'), await server.as('bram')];
});
afterEach(async () => {
  const found = await server.disagreements();
  await server.stop();
  expect(found).toEqual([]);
});

const october = '/api/periods/2026-10-31';
const digestSeen = async (by = ilka): Promise<string> =>
  (await by.call('GET', `${october}/close`)).body.digest as string;
const handOver = async (): Promise<Answer> =>
  ilka.insist('POST', `${october}/hand-over`, { digest: await digestSeen() });
const approve = async (by = bram): Promise<Answer> =>
  by.insist('POST', `${october}/approve`, { digest: await digestSeen(by) });
const said = ({ status, body }: Answer): unknown => [status, body.error?.code];
const reviewNow = async (by = bram): Promise<Record<string, unknown>> =>
  (await by.call('GET', `${october}/close`)).body.review;
const roleOf = async (logIn: string, role: string[]): Promise<void> => {
  await server.database.raw(
    `update member set role = ?::text[] where company_id = 1 and person_id = (select id from person where log_in = ?)`,
    [role, logIn],
  );
};

// Duties kept apart: who keeps the books does not approve them (common practice of internal control).
describe('a month that two people lock', () => {
  it('is handed over, returned with a comment, handed over again and approved: then it is posted as it was shown', async () => {
    expect(said(await ilka.insist('POST', `${october}/lock`, {}))).toEqual([409, 'second-person-needed']);
    expect(said(await approve())).toEqual([409, 'not-handed-over']);
    expect((await handOver()).body).toEqual({ endsOn: '2026-10-31', state: 'prepared' });
    const { body: close } = await bram.call('GET', `${october}/close`);
    expect([close.state, close.review.barred, close.review.approvers]).toEqual([
      'prepared',
      null,
      ['Bram Osterhout'],
    ]);
    const [line] = close.rows;
    const returned = { instrumentId: line.id, comment: 'Where is the lender’s sheet?' };
    expect((await bram.call('POST', `${october}/return`, returned)).body.state).toBe('open');
    expect(said(await approve())).toEqual([409, 'not-handed-over']);
    await ilka.call('POST', `${october}/comments`, { instrumentId: line.id, text: 'At its papers.' });
    await handOver();
    const review = await reviewNow();
    expect(review['comments']).toMatchObject([
      { instrumentId: line.id, text: 'Where is the lender’s sheet?', by: 'Bram Osterhout' },
      { instrumentId: line.id, text: 'At its papers.', by: 'Ilka Varga' },
    ]);
    expect((await approve()).body).toMatchObject({ entries: close.draftCount, opens: '2026-11-30' });
    const { body: closed } = await ilka.call('GET', `${october}/close`);
    expect(closed).toMatchObject({ state: 'closed', closedBy: 'Bram Osterhout', closedAs: 'reviewed' });
    expect(closed.digest).toBe(close.digest);
    expect(closed.review.steps.map(({ step, by }: { step: string; by: string }) => [step, by])).toEqual([
      ['handed-over', 'Ilka Varga'],
      ['returned', 'Bram Osterhout'],
      ['handed-over', 'Ilka Varga'],
      ['closed', 'Bram Osterhout'],
    ]);
    expect(said(await handOver())).toEqual([409, 'already-locked']);
    expect(said(await bram.call('POST', `${october}/comments`, { text: 'Late' }))).toEqual([
      409,
      'already-locked',
    ]);
  });

  it('is not approved by who handed it over, chose for it or changed an instrument for it', async () => {
    await roleOf('ilka', ['prepare', 'review']);
    await handOver();
    expect(said(await approve(ilka))).toEqual([403, 'own-work']);
    expect(await reviewNow(ilka)).toMatchObject({
      barred: 'You handed this month over.',
      approvers: ['Bram Osterhout'],
    });
    // Somebody who records one payment has a hand in it, whoever hands it over.
    await roleOf('bram', ['prepare', 'review']);
    await bram.insist('POST', '/api/instruments', { document: loanDocument('Bram’s own') });
    await handOver();
    const refused = await approve();
    expect(said(refused)).toEqual([403, 'own-work']);
    expect(refused.body.error.message).toBe(
      'You changed Bram’s own since the last close. Nobody else reviews here: an administrator invites somebody who does.',
    );
    await roleOf('tobiah', ['review']);
    expect((await approve(await server.as('tobiah'))).status).toBe(200);
    // What was changed before that close counts no more.
    expect((await reviewNow(bram))['barred']).toBeNull();
    const november = (await bram.call('GET', '/api/periods/2026-11-30/close')).body.review;
    expect([november.barred, november.approvers]).toEqual([
      null,
      ['Bram Osterhout', 'Ilka Varga', 'Tobiah Quince'],
    ]);
  });

  it('is asked about once more where a comment had no answer, by who said it and about what', async () => {
    const [first] = (await bram.call('GET', `${october}/close`)).body.rows;
    await bram.call('POST', `${october}/comments`, { instrumentId: first.id, text: 'Is this its rate?' });
    await ilka.call('POST', `${october}/comments`, { text: 'All is recorded.' });
    await handOver();
    const confirm = ['payments-unrecorded', 'fixings-missing', 'month-not-ended'];
    const approval = { digest: await digestSeen(bram), confirm };
    const asked = await bram.call('POST', `${october}/approve`, approval);
    expect(said(asked)).toEqual([409, 'to-confirm']);
    expect(asked.body.error.confirm).toMatchObject([{ code: 'comment-unanswered' }]);
    for (const told of ['Bram Osterhout', first.name, 'Is this its rate?'])
      expect(asked.body.error.confirm[0].message).toContain(told);
    expect((await reviewNow(bram))['named']).toEqual(asked.body.error.confirm);
    await ilka.call('POST', `${october}/comments`, { instrumentId: first.id, text: 'It is.' });
    expect((await bram.call('POST', `${october}/approve`, approval)).status).toBe(200);
  });

  it('is approved as it was seen: what changed since is named, and nothing is posted', async () => {
    await handOver();
    const seen = await digestSeen(bram);
    const { body: made } = await ilka.insist('POST', '/api/instruments', {
      document: loanDocument('Unread'),
    });
    const refused = await bram.insist('POST', `${october}/approve`, { digest: seen });
    expect(said(refused)).toEqual([409, 'changed-since']);
    expect(refused.body.error.message).toContain('Unread has come into the month');
    expect(await reviewNow()).toMatchObject({ changed: [{ instrumentId: made.id, name: 'Unread' }] });
    // Handed over again, what was seen before is not what would be approved.
    await handOver();
    const stale = await bram.insist('POST', `${october}/approve`, { digest: seen });
    expect(said(stale)).toEqual([409, 'not-as-seen']);
    expect(stale.body.error.message).toContain('Unread, version 1, by Ilka Varga');
    expect(await server.database('entry').where({ period_end: '2026-10-31', kind: 'accrual' })).toEqual([]);
    expect((await approve()).status).toBe(200);
  });

  it.each([
    [
      'another account',
      async (): Promise<unknown> => {
        const [first] = (await ilka.call('GET', `${october}/close`)).body.rows;
        const own = { accounts: [{ role: 'interest-expense', code: '7340' }], costCentre: null };
        return ilka.call('PUT', `/api/instruments/${first.id}/accounts`, own);
      },
      'comes out otherwise',
    ],
    [
      'another choice of accruals',
      (): Promise<unknown> => ilka.call('PUT', `${october}/accruals`, { accruals: 'standing' }),
      'What becomes of accruals is no longer the same',
    ],
    [
      'a payment',
      async (): Promise<unknown> => {
        const { payments } = (await ilka.call('GET', '/api/payments')).body;
        const {
          instrumentId,
          version,
          due,
          amount: agreed,
        } = payments.find(({ recorded }: { recorded: unknown[] }) => recorded.length === 0);
        const amount = (agreed / 100 - 1).toFixed(2);
        const paid = { instrumentId, version, due, on: due, amount };
        return ilka.insist('POST', '/api/payments', { payments: [paid] });
      },
      'is at version',
    ],
  ])('opens again in what it rests on by %s', async (_, change, what) => {
    await handOver();
    expect((await change()) as Answer).toMatchObject({ status: 200 });
    const refused = await approve();
    expect(said(refused)).toEqual([409, 'changed-since']);
    expect(refused.body.error.message).toContain(what);
  });

  it('is handed over and approved only with what is left open confirmed by name', async () => {
    const digest = await digestSeen();
    const asked = await ilka.call('POST', `${october}/hand-over`, { digest });
    expect(asked.body.error.confirm.map(({ code }: { code: string }) => code)).toEqual([
      'payments-unrecorded',
      'fixings-missing',
    ]);
    expect(asked.body.error.message).toContain('not recorded, assumed paid');
    const half = { digest, confirm: ['payments-unrecorded'] };
    expect((await ilka.call('POST', `${october}/hand-over`, half)).body.error.confirm).toHaveLength(1);
    await handOver();
    expect((await bram.call('POST', `${october}/approve`, { digest })).body.error.confirm).toHaveLength(2);
  });

  it('is locked by one where the company is set to one person, as it was seen', async () => {
    await handOver();
    await server.alone();
    expect(said(await handOver())).toEqual([409, 'one-person']);
    const digest = await digestSeen();
    await ilka.insist('POST', '/api/instruments', { document: loanDocument('Unread') });
    expect(said(await ilka.insist('POST', `${october}/lock`, { digest }))).toEqual([409, 'not-as-seen']);
    const locked = await ilka.insist('POST', `${october}/lock`, { digest: await digestSeen() });
    expect(locked.status).toBe(200);
    expect((await ilka.call('GET', `${october}/close`)).body.closedAs).toBe('alone');
  });

  it('is approved once, whoever comes with it at once', async () => {
    await roleOf('tobiah', ['review']);
    const tobiah = await server.as('tobiah');
    await handOver();
    const answers = await Promise.all([approve(), approve(tobiah)]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
  });
});
