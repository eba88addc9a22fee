import { cellOf, type GridColumn, type GridRow } from './grid-model';

/** Where the columns of a grid lie: its CSS tracks, and the least width in pixels that holds them all. */
export interface GridTracks {
  readonly tracks: string;
  readonly least: number;
}

/** Pixels of a tabular digit, a point or comma, a percent sign, and any other character, in the type of `--text-body`. */
const [digit, mark, percent, other] = [9.46, 4.07, 12.3, 8.1];
/** How much wider the weight of headings and totals is. */
const heavier = 1.055;
const padding = 17;
/** Pixels of a character of a heading, in the type of `--text-small`. */
const heads = 6.6;

/** Pixels that a text needs in a cell, to within a pixel for figures. */
function widthOf(text: string, weight = 1): number {
  if (text === '') return 0;
  let width = 0;
  for (const character of text) {
    if (character >= '0' && character <= '9') width += digit;
    else if (character === '.' || character === ',') width += mark;
    else width += character === '%' ? percent : other;
  }
  return Math.ceil(padding + width * weight);
}

/**
 * Tracks in which no figure is cut off: a column of figures is as wide as asked for, or as its longest figure is.
 * What then does not fit is scrolled to.
 */
export function gridTracks<Item>(
  columns: readonly GridColumn<Item>[],
  rows: readonly GridRow<Item>[],
  total: Readonly<Record<string, string>> | undefined,
): GridTracks {
  let least = 0;
  const tracks = columns.map((column) => {
    const [, before = '', asked = '0', after = ''] = /^(minmax\()?(\d+)px(.*)$/.exec(column.track) ?? [];
    const figures = column.align === 'right' ? rows : [];
    const textsOf = (heavy: boolean): string[] =>
      figures.flatMap((row) =>
        (row.type === 'item' && cellOf(row, column).draft !== true) === heavy ? [] : cellOf(row, column).text,
      );
    const totalled = (column.align === 'right' && total?.[column.key]) || '';
    const heavy = widthOf(longestOf([...textsOf(true), totalled]), heavier);
    const longest = Math.max(widthOf(longestOf(textsOf(false))), heavy);
    const heading = column.align === 'right' ? Math.ceil(padding + heads * column.title.length) : 0;
    const width = Math.max(Number(asked), heading, longest);
    least += width;
    return `${before}${width}px${after}`;
  });
  return { tracks: tracks.join(' '), least };
}

function longestOf(texts: readonly string[]): string {
  return texts.reduce((longest, text) => (text.length > longest.length ? text : longest), '');
}
