import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { TestServer } from '../testing/test-server.ts';
import { checkTrail, wrongHead, wrongTrail } from './trail.ts';

let server: TestServer;
beforeEach(async () => {
  server = await TestServer.start();
});
afterEach(() => server.stop());

/** As somebody could who owns the database, and no longer the application. */
const unguarded = (sql: string): Promise<unknown> =>
  server.owned.transaction(async (on) => {
    await on.raw('alter table audit_event disable trigger user');
    await on.raw(sql);
    await on.raw('alter table audit_event enable trigger user');
  });

describe('the audit trail', () => {
  it('is followed from its first event to its last, and its head changes with each', async () => {
    const before = await checkTrail(server.database);
    expect(before).toMatchObject({ from: 1, broken: null });
    await server.as('ilka');
    const after = await checkTrail(server.database);
    expect(after).toMatchObject({ to: (before.to ?? 0) + 1, broken: null });
    expect(after.head).not.toBe(before.head);
  });

  it.each([
    ['altered', `update audit_event set detail = '{"other": true}' where id = 5`, 5],
    ['told of somebody else', `update audit_event set person_id = 3 where id = 5`, 5],
    ['taken out', 'delete from audit_event where id = 5', 6],
    ['begun later', 'delete from audit_event where id < 5', 5],
    [
      'altered with its own hash anew',
      `update audit_event set action = 'other' where id = 5;
       update audit_event set hash = audit_event_hash(audit_event) where id = 5`,
      6,
    ],
  ])('is found to be %s', async (_, sql, at) => {
    await unguarded(sql);
    expect(await checkTrail(server.database)).toMatchObject({ broken: at });
    expect(await wrongTrail(server.database)).toEqual([expect.stringContaining(`breaks at event ${at}`)]);
    expect(await server.disagreements()).toEqual([expect.stringContaining('The audit trail')]);
  });

  // A trail that is cut at its end is whole as far as it goes: only a head that was noted elsewhere tells.
  it('that is cut at its end ends with another head', async () => {
    const { head } = await checkTrail(server.database);
    await unguarded('delete from audit_event where id = (select max(id) from audit_event)');
    const cut = await checkTrail(server.database);
    expect(cut.broken).toBeNull();
    expect(cut.head).not.toBe(head);
  });

  // Who owns the database can work out every hash anew; each close says where the trail stood when it was made.
  it.each([
    ['emptied', 'delete from audit_event'],
    ['cut before a close', `delete from audit_event where id > (select min(seen_to) from period) - 1`],
    [
      'chained anew from an event that was altered',
      `update audit_event set subject = 'other' where id = 2;
       do $$ declare event audit_event; last bytea := ''; begin
         for event in select * from audit_event order by id loop
           event.previous_hash := last;
           last := audit_event_hash(event);
           update audit_event set previous_hash = event.previous_hash, hash = last where id = event.id;
         end loop; end $$`,
    ],
  ])('that was %s is another one than the closes tell of', async (_, sql) => {
    await server.owned.raw('alter table period disable trigger user');
    await server.owned.raw(
      `update period set seen_to = last.id, seen_hash = last.hash
         from (select * from audit_event order by id desc limit 1) last where state = 'closed'`,
    );
    await server.owned.raw('alter table period enable trigger user');
    const { head } = await checkTrail(server.database);
    expect(await wrongTrail(server.database)).toEqual([]);
    expect(await wrongHead(server.database, head ?? '')).toEqual([]);
    await unguarded(sql);
    expect((await wrongTrail(server.database)).join()).toMatch(
      /The close of Ostrel Glassworks to 2026-09-30 tells of another event/,
    );
    expect(await wrongHead(server.database, head ?? '')).toEqual([
      expect.stringContaining('was cut before it, or made anew'),
    ]);
  });
});
