import { randomBytes } from 'node:crypto';
import type { Knex } from 'knex';
import { describe, expect, it } from 'vitest';
import { releases, restoreRelease } from '../testing/releases/restore-release.ts';
import { besides } from '../testing/templates.ts';
import { TestServer, type Answer } from '../testing/test-server.ts';
import { connect } from './connect.ts';
import { migrate } from './migrate.ts';
import { sealedAsFoundOn, wrongSeals } from '../verify/wrong-seals.ts';

/** What nobody may change, row for row: the ledger, what was reported, every version, every event of the trail. */
async function kept(database: Knex): Promise<unknown> {
  const tables = [
    'entry',
    'entry_line',
    'reported_position',
    'reported_fund',
    'instrument_version',
    'audit_event',
  ];
  const hashes = tables.map(async (table) => {
    const { rows } = await database.raw<{ rows: object[] }>(
      `select count(*)::int as many, md5(string_agg(line, E'\\n' order by line)) as hash
       from (select to_jsonb(${table})::text as line from ${table}) listed where line::jsonb ->> 'action' is distinct from 'sealed'`,
    );
    return [table, rows[0]];
  });
  return Promise.all(hashes);
}

describe.each(releases)('what a release left: %s', (dump) => {
  it('is brought to the newest form with every row of the books as it was', async () => {
    const owner = process.env['COFFER_TEST_OWNER'] ?? '';
    const name = `coffer_release_${randomBytes(6).toString('hex')}`;
    const maker = connect(owner);
    await maker.raw(`create database ${name}`);
    restoreRelease(besides(owner, name), dump);
    const database = connect(besides(owner, name));
    const before = await kept(database);
    await migrate(database);
    expect(await kept(database)).toEqual(before);
    await database.destroy();
    await maker.raw(`drop database ${name}`);
    await maker.destroy();
  });

  it('is held as it was found on the day of the update', async () => {
    const server = await TestServer.startFromRelease(dump);
    expect(await sealedAsFoundOn(server.database)).toBe(new Date().toISOString().slice(0, 10));
    expect(await wrongSeals(server.database)).toEqual([]);
    await server.owned.transaction(async (on) => {
      await on.raw(
        'alter table entry disable trigger user; alter table reported_position disable trigger user',
      );
      await on.raw(`update entry set memo = 'other' where company_id = 1 and number = 7`);
      await on.raw(
        `update reported_position set expense = expense + 1 where company_id = 1 and period_end = '2026-10-31'`,
      );
      await on.raw(
        'alter table entry enable trigger user; alter table reported_position enable trigger user',
      );
    });
    expect((await server.disagreements()).sort()).toEqual([
      expect.stringMatching(/^The entries 1 to \d+: changed otherwise than by Coffer after/),
      expect.stringMatching(/^What the close reported 2026-10-31: changed otherwise than by Coffer after/),
    ]);
    await server.stop();
  });

  it('agrees in itself, shows its closed month as it was approved, and goes on to the next', async () => {
    const server = await TestServer.startFromRelease(dump);
    expect(await server.disagreements()).toEqual([]);
    const [ilka, bram] = [await server.as('ilka'), await server.as('bram')];
    const october = (await bram.call('GET', '/api/periods/2026-10-31/close')).body;
    expect(october).toMatchObject({ state: 'closed', closedAs: 'reviewed', closedBy: 'Bram Osterhout' });
    expect(october.checks.map(({ difference }: { difference: number }) => difference)).toEqual([0, 0, 0, 0]);
    const november = '/api/periods/2026-11-30';
    const { digest } = (await ilka.call('GET', `${november}/close`)).body;
    await ilka.insist('POST', `${november}/hand-over`, { digest });
    const approved: Answer = await bram.insist('POST', `${november}/approve`, { digest });
    expect([approved.status, approved.body.opens]).toEqual([200, '2026-12-31']);
    expect(await server.disagreements()).toEqual([]);
    await server.stop();
  });
});
