import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { jpeg, pdf, png } from '../testing/small-files.ts';
import { TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let ilka: Caller;
let at: string;
beforeAll(async () => {
  server = await TestServer.start();
  ilka = await server.as('ilka');
  const { rows } = (await ilka.call('GET', '/api/register?on=2026-10-31')).body;
  at = `/api/instruments/${rows[0].id}/papers`;
});
afterAll(() => server.stop());

const keep = (name: string, bytes: Uint8Array<ArrayBuffer>): Promise<Answer> =>
  ilka.sendFile(`${at}?name=${encodeURIComponent(name)}`, bytes);
const text = (content: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(content);
const names = async (): Promise<string[]> =>
  (await ilka.call('GET', at)).body.papers.map(({ name }: { name: string }) => name);

describe('papers of an instrument', () => {
  it.each([
    ['Agreement, signed.pdf', pdf, 'application/pdf'],
    // What a file is called tells nothing of what it is.
    ['Letter.exe', png, 'image/png'],
    ['Stamp.pdf', jpeg, 'image/jpeg'],
  ])('are kept as the bytes that were brought: %s', async (name, bytes, type) => {
    const { status, body } = await keep(name, bytes);
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    expect([status, body]).toEqual([
      200,
      expect.objectContaining({ name, type, sha256, bytes: bytes.length, by: 'Ilka Varga' }),
    ]);
    const back = await ilka.bytes(`${at}/${body.id}`);
    expect(new Uint8Array(back)).toEqual(bytes);
    // Nothing of it runs where it is opened by its address, whatever it holds.
    const { headers } = await ilka.call('GET', `${at}/${body.id}`, undefined);
    expect(headers.get('content-type')).toBe(type);
    expect(headers.get('content-security-policy')).toContain('sandbox');
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('content-disposition')).toContain('attachment');
  });

  // A few hundred kilobytes that a browser would make gigabytes of (PNG, ISO/IEC 15948, 11.2.2: IHDR).
  it('are no picture that nobody could look at', async () => {
    const vast = new Uint8Array(png);
    const header = new DataView(vast.buffer);
    header.setUint32(16, 60_000);
    header.setUint32(20, 60_000);
    const told = await keep('Bomb.png', vast);
    expect([told.status, told.body.error.faults[0].message]).toEqual([
      422,
      expect.stringMatching(/60,000 × 60,000 points; up to 100 million can be shown\. Scan it less finely/),
    ]);
  });

  it('are kept once, and told in the audit trail', async () => {
    const before = await names();
    const again = await keep('The same under another name.png', png);
    expect([again.status, again.body.name]).toEqual([200, 'Letter.exe']);
    expect(await names()).toEqual(before);
    const { rows } = await server.database.raw(
      `select detail->>'name' as name from audit_event where action = 'paper-kept' order by id`,
    );
    expect(rows.map(({ name }: { name: string }) => name)).toEqual([
      'Agreement, signed.pdf',
      'Letter.exe',
      'Stamp.pdf',
    ]);
  });

  // A name may hide what a file is (OWASP, Unrestricted File Upload: right-to-left override, double extensions).
  it.each([
    ['../../etc/passwd', png, 'etc passwd.png'],
    ['Letter\u202egnp.exe', pdf, 'Letter gnp.exe.pdf'],
    ['.htaccess', pdf, 'htaccess.pdf'],
    ['Agreement.PDF', pdf, 'Agreement.PDF'],
  ])('%s is taken out under a name that leads nowhere and ends as it is', async (name, bytes, given) => {
    const other = new Uint8Array([...bytes, ...Buffer.from(`%${name}%%EOF`)]);
    const kept = await keep(name, other);
    // What cannot be a name at all is refused when it is brought.
    if (kept.status === 422) return expect(name).toMatch(/[\p{Cf}]/u);
    const { headers } = await ilka.call('GET', `${at}/${kept.body.id}`);
    expect(headers.get('content-disposition')).toMatch(new RegExp(`filename="?${given}"?$`));
    return undefined;
  });

  it.each([
    ['page.pdf', text('<html><script>alert(1)</script>'), /none of them by its bytes/],
    ['picture.png', text('<svg xmlns="http://www.w3.org/2000/svg" onload="alert(1)"/>'), /./],
    ['sheet.pdf', new Uint8Array([0x50, 0x4b, 3, 4, 20, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]), /./],
    ['cut.pdf', pdf.slice(0, -8), /has no end/],
    ['empty.pdf', new Uint8Array(), /is empty|expected the bytes/],
  ])('that are none are refused: %s', async (name, bytes, message) => {
    const before = await names();
    const { status, body } = await keep(name, bytes);
    expect([status, body.error.faults[0].message]).toEqual([422, expect.stringMatching(message)]);
    expect(await names()).toEqual(before);
  });

  it('may be of 25 MB and not a byte more', async () => {
    const large = new Uint8Array(25_000_000);
    large.set(png);
    expect((await keep('Scan.png', large)).status).toBe(200);
    const refused = await keep('Scan.png', new Uint8Array(25_000_001).fill(1));
    expect([refused.status, refused.body.error.message]).toEqual([413, expect.stringContaining('25 MB')]);
    const asJson = await ilka.call('POST', `${at}?name=x.png`, { bytes: 'no' });
    expect(asJson.status).toBe(422);
  });

  it('are taken away with a reason, their bytes gone and their name and hash not; and may come again', async () => {
    const { body } = await keep('Agreement, signed.pdf', pdf);
    const gone = `${at}/${body.id}/taken-away`;
    expect((await ilka.call('POST', gone, { reason: ' ' })).status).toBe(422);
    expect((await ilka.call('POST', gone, { reason: 'Of another loan' })).status).toBe(200);
    expect((await ilka.call('POST', gone, { reason: 'Of another loan' })).status).toBe(404);
    expect((await ilka.call('GET', `${at}/${body.id}`)).status).toBe(404);
    expect(await names()).not.toContain('Agreement, signed.pdf');
    const { rows } = await server.database.raw(
      `select content, taken_away_because from paper where id = '${body.id}'`,
    );
    expect(rows).toEqual([{ content: null, taken_away_because: 'Of another loan' }]);
    expect((await keep('Agreement, signed.pdf', pdf)).body.id).not.toBe(body.id);
  });

  it('whose bytes are no longer theirs are found when the installation is verified', async () => {
    expect(await server.disagreements()).toEqual([]);
    await server.owned.transaction(async (on) => {
      await on.raw('alter table paper drop constraint paper_is_what_it_was');
      await on.raw('alter table paper disable trigger paper_stays');
      await on.raw(`update paper set content = 'other' where name = 'Stamp.pdf'`);
    });
    // What was taken away to do so is found as well.
    expect((await server.disagreements()).sort()).toEqual([
      'The database lacks the constraint paper_is_what_it_was on paper.',
      'The paper Stamp.pdf is not what was brought: its hash is another.',
      'The trigger paper_stays on paper in the database is not as this version makes it.',
    ]);
  });
});
