import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeSteps, showDay, type CloseView, type DifferencesView } from '@coffer/contract';
import { TestServer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let [ilka, bram]: Caller[] = [];
beforeAll(async () => {
  server = await TestServer.start();
  [ilka, bram] = [await server.as('ilka'), await server.as('bram')];
});
afterAll(() => server.stop());

const october = '/api/periods/2026-10-31';
const close = async (): Promise<CloseView> => (await ilka?.call('GET', `${october}/close`))?.body;
const differences = async (): Promise<DifferencesView> =>
  (await ilka?.call('GET', `${october}/differences`))?.body;
const withdraw = async (name: string): Promise<void> => {
  const { body: register } = (await ilka?.call('GET', '/api/register?on=2026-10-31')) ?? {};
  const { id } = register.rows.find((row: { name: string }) => row.name === name);
  const { body } = (await ilka?.call('GET', `/api/instruments/${id}`)) ?? {};
  const sent = { version: body.version, reason: 'Signed by nobody' };
  expect((await ilka?.call('POST', `/api/instruments/${id}/withdrawal`, sent))?.status).toBe(200);
};
const sums = ({ lines }: DifferencesView): unknown =>
  (['accrued', 'expense', 'carrying', 'current'] as const).map((figure) => [
    lines.reduce((sum, line) => sum + line[figure].now, 0),
    lines.reduce((sum, line) => sum + line[figure].change, 0),
  ]);

// What was looked at is what is kept: evidence of a review stays with it (common practice of audit documentation).
describe('a month that is closed', () => {
  it('keeps what it was approved with: what was withdrawn, which payments were not recorded, who agreed to it', async () => {
    const { unrecorded: known } = await close();
    await withdraw('Batch house term loan');
    const { digest, unrecorded, payments } = await close();
    expect(unrecorded.length).toBeGreaterThan(0);
    expect(unrecorded.length).toBeLessThanOrEqual(known.length);
    const seen = await differences();
    const gone = seen.lines.find(({ name }) => name === 'Batch house term loan');
    expect(gone?.carrying).toMatchObject({ now: 0, parts: [{ reason: 'withdrawn' }] });
    expect((await ilka?.insist('POST', `${october}/hand-over`, { digest }))?.status).toBe(200);
    expect((await bram?.insist('POST', `${october}/approve`, { digest }))?.status).toBe(200);
    expect(await differences()).toEqual(seen);

    const closed = await close();
    expect({ payments: closed.payments, unrecorded: closed.unrecorded }).toEqual({
      payments,
      unrecorded: [...unrecorded].sort(
        (one, other) => one.due.localeCompare(other.due) || one.name.localeCompare(other.name),
      ),
    });
    const [first] = closed.unrecorded;
    const step = closeSteps(closed, 2).find(({ name }) => name === 'Payments recorded');
    expect(step).toMatchObject({ state: 'agreed', by: { by: 'Bram Osterhout' } });
    for (const told of ['not recorded, assumed paid', first?.name, showDay(first?.due ?? '')])
      expect(step?.evidence).toContain(told);
    // What happens later changes nothing of it.
    await withdraw(closed.rows[0]?.name ?? '');
    expect(await differences()).toEqual(seen);
    expect((await close()).unrecorded).toEqual(closed.unrecorded);
  });

  it('tells the same sums where nothing was kept of it, by what the month before reported', async () => {
    const kept = await differences();
    await server.owned.raw(
      'alter table told_at_close disable trigger user; delete from told_at_close; alter table told_at_close enable trigger user',
    );
    const now = await differences();
    expect(sums(now)).toEqual(sums(kept));
    expect(now.lines.find(({ name }) => name === 'Batch house term loan')?.carrying).toEqual(
      kept.lines.find(({ name }) => name === 'Batch house term loan')?.carrying,
    );
    // That somebody agreed stays told, though not to what.
    const step = closeSteps(await close(), 2).find(({ name }) => name === 'Payments recorded');
    expect(step).toMatchObject({ state: 'agreed', by: { by: 'Bram Osterhout' } });
  });
});
