import { strToU8, zipSync, type Zippable } from 'fflate';
import { describe, expect, it } from 'vitest';
import { documentsOfZip, isZipOfDocuments } from './documents-of-zip';

const loan = (name: string): Uint8Array =>
  strToU8(
    JSON.stringify({
      document: 'coffer.instrument/1',
      kind: 'loan',
      name,
      currency: 'EUR',
      amount: '100000.00',
      start: '2026-01-15',
      rate: { annual: '6%' },
      payments: { every: 'quarter', first: '2026-04-15', phases: [{ type: 'level', count: 20 }] },
    }),
  );
const zip = (files: Zippable): Uint8Array => zipSync(files);

describe('a ZIP of documents', () => {
  it('is told from a workbook, which is a ZIP too, and from what is none', () => {
    expect(isZipOfDocuments(zip({ 'a.json': loan('A') }))).toBe(true);
    // ECMA-376, part 2: every such package has this part.
    expect(isZipOfDocuments(zip({ '[Content_Types].xml': strToU8('<Types/>') }))).toBe(false);
    expect(isZipOfDocuments(strToU8('PK but no ZIP'))).toBe(false);
    expect(isZipOfDocuments(strToU8('Loan;Bank'))).toBe(false);
  });

  it('is read document by document, each with what it is or what is wrong with it', () => {
    const read = documentsOfZip(
      zip({
        'company.json': strToU8('{}'),
        'documents/1 Press.json': loan('Press'),
        'broken.json': strToU8('{'),
        'half.json': strToU8('{"document":"coffer.instrument/1","kind":"loan","name":"Half"}'),
        'read me.txt': strToU8('not this'),
      }),
    );
    expect(read.map(({ file, name, what }) => [file, name, what])).toEqual([
      ['1 Press.json', 'Press', 'level, quarterly'],
      ['broken.json', 'broken.json', ''],
      ['half.json', 'Half', ''],
    ]);
    expect(read[1]?.faults).toEqual(['This is no JSON.']);
    expect(read[2]?.faults).toContain('start: This key is missing.');
    expect(() => documentsOfZip(zip({ 'read me.txt': strToU8('x') }))).toThrow(/no document/);
  });

  it('of 10 GB in 10 kB is not unpacked', () => {
    const bomb = zip({ 'a.json': loan('A') });
    // APPNOTE.TXT, 4.3.12: the uncompressed size of an entry stands at offset 24 of its central header.
    const at = Buffer.from(bomb).indexOf(Buffer.from([0x50, 0x4b, 1, 2]));
    new DataView(bomb.buffer).setUint32(at + 24, 0xfffffff0, true);
    expect(() => documentsOfZip(bomb)).toThrow(/more than 200 MB/);
  });
});
