import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestServer } from '../testing/test-server.ts';
import { formOf, wrongForm } from './form.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

describe('the form of the database', () => {
  // Written anew by `./coffer test --server form -u`, once a migration changes it.
  it('is the one that is written down', async () => {
    const form = `${JSON.stringify(await formOf(server.owned), undefined, 2)}\n`;
    await expect(form).toMatchFileSnapshot('form.json');
    expect(await wrongForm(server.database)).toEqual([]);
  });

  it.each([
    [
      'create or replace function reject_change() returns trigger language plpgsql as $$ begin return new; end $$',
      /function reject_change\(\)/,
    ],
    ['alter function reject_change() reset search_path', /function reject_change\(\)/],
    ['alter table entry disable trigger entry_append_only', /trigger entry_append_only on entry/],
    ['drop trigger period_keeps_closed on period', /lacks the trigger period_keeps_closed on period/],
    ['drop index audit_event_by_company', /lacks the index audit_event_by_company/],
    ['alter table period drop constraint period_seen', /lacks the constraint period_seen on period/],
    ['grant delete on entry to coffer', /rights on entry/],
    ['grant update on company to public', /rights on company/],
    ['grant create on schema public to coffer', /rights of coffer in the database/],
    ['alter table entry_line alter column debit drop not null', /column entry_line\.debit/],
    [
      'create function mine() returns int language sql as $$ select 1 $$',
      /function mine\(\) that this version does not make/,
    ],
  ])('is seen to be another after: %s', async (sql, told) => {
    await expect(
      server.owned.transaction(async (on) => {
        await on.raw(sql);
        throw new Error((await wrongForm(on)).join('\n'));
      }),
    ).rejects.toThrow(told);
  });
});
