import { strFromU8, unzipSync } from 'fflate';

/** Cells of a sheet that are one: from the first row and column to the last, counted from 0. */
interface Merged {
  readonly top: number;
  readonly bottom: number;
  readonly left: number;
}

/**
 * The rows of each sheet of a workbook with what stands in a cell that is merged over rows in each of those rows: whoever
 * looks at the sheet reads it so. Over columns it stays in the first. Source: ISO/IEC 29500-1, sections 18.2.19 (sheet) and
 * 18.3.1.54 (mergeCell).
 */
export function filledDown(
  bytes: Uint8Array,
  sheets: readonly (readonly (readonly string[])[])[],
): (readonly (readonly string[])[])[] {
  const parts = unzipSync(bytes, {
    filter: ({ name }) => /^xl\/(workbook|_rels\/|worksheets\/[^/]+\.xml)/.test(name),
  });
  const text = (name: string): string => (parts[name] ? strFromU8(parts[name]) : '');
  const targets = new Map(
    tags(text('xl/_rels/workbook.xml.rels'), 'Relationship').map((tag) => [
      attribute(tag, 'Id'),
      attribute(tag, 'Target'),
    ]),
  );
  const paths = tags(text('xl/workbook.xml'), 'sheet').map((tag) => {
    const target = targets.get(attribute(tag, 'r:id')) ?? '';
    return target.startsWith('/') ? target.slice(1) : `xl/${target}`;
  });
  return sheets.map((rows, at) => {
    const merged = tags(text(paths[at] ?? ''), 'mergeCell').flatMap((tag) => mergedOf(attribute(tag, 'ref')));
    return merged.length === 0 ? rows : withMerged(rows, merged);
  });
}

function withMerged(rows: readonly (readonly string[])[], merged: readonly Merged[]): string[][] {
  const filled = rows.map((row) => [...row]);
  for (const { top, bottom, left } of merged) {
    const value = filled[top]?.[left] ?? '';
    for (let row = top + 1; row <= Math.min(bottom, filled.length - 1); row += 1)
      (filled[row] as string[])[left] = value;
  }
  return filled;
}

const tags = (xml: string, name: string): string[] =>
  xml.match(new RegExp(`<(?:\\w+:)?${name}\\s[^>]*>`, 'g')) ?? [];

const attribute = (tag: string, name: string): string =>
  new RegExp(`\\s${name}="([^"]*)"`).exec(tag)?.[1] ?? '';

/** `B3:C5`, which is of several rows. */
function mergedOf(ref: string): Merged[] {
  const [, letters = '', top, bottom] = /^([A-Z]{1,3})(\d+):[A-Z]{1,3}(\d+)$/.exec(ref) ?? [];
  const left = [...letters].reduce((sum, letter) => 26 * sum + letter.charCodeAt(0) - 64, 0) - 1;
  return left >= 0 && Number(bottom) > Number(top)
    ? [{ top: Number(top) - 1, bottom: Number(bottom) - 1, left }]
    : [];
}
