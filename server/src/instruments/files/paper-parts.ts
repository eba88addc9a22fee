import type { Content, ContentTable, CustomTableLayout, TableCell } from 'pdfmake/interfaces';

/** Colours of a paper, as the application's light theme has them. */
export const inks = {
  ink: '#22283a',
  dim: '#5a6072',
  line: '#cfc7b6',
  soft: '#f1ece0',
  flag: '#6a3a63',
} as const;

/** Thin rules between rows, none between columns, a heavier one under the heading. */
export const ruled: CustomTableLayout = {
  hLineWidth: (row, { table }) => (row === 0 ? 0 : row === (table.headerRows ?? 0) ? 0.8 : 0.3),
  hLineColor: (row, { table }) => (row === (table.headerRows ?? 0) ? inks.ink : inks.line),
  vLineWidth: () => 0,
  paddingLeft: (column) => (column === 0 ? 0 : 5),
  paddingRight: (column, { table }) => (column === (table.widths?.length ?? 0) - 1 ? 0 : 5),
  paddingTop: () => 2.2,
  paddingBottom: () => 2.2,
};

/** What a paper says at its foot of who closes the months: nothing where two people do. */
export function closedBy({ alone }: { readonly alone: boolean }): string {
  return alone ? ' · months are closed by one person, no second one looks' : '';
}

/** A heading of a part of the paper. */
export function heading(text: string): Content {
  return { text, style: 'heading', headlineLevel: 1 };
}

/** Names with what they are, in two columns of pairs. */
export function pairs(facts: readonly (readonly [string, string])[]): Content {
  const half = Math.ceil(facts.length / 2);
  const list = (some: readonly (readonly [string, string])[]): Content =>
    some.length === 0
      ? { text: '' }
      : {
          layout: ruled,
          table: {
            widths: ['38%', '*'],
            headerRows: 0,
            body: some.map(([name, value]) => [{ text: name, color: inks.dim }, { text: value }]),
          },
        };
  return { columns: [list(facts.slice(0, half)), list(facts.slice(half))], columnGap: 24 };
}

/** A table under its heading, figures to the right. */
export function table(
  head: readonly string[],
  rows: readonly (readonly TableCell[])[],
  widths: ContentTable['table']['widths'],
  right: readonly number[],
): Content {
  const align = (column: number): 'right' | 'left' => (right.includes(column) ? 'right' : 'left');
  return {
    layout: ruled,
    table: {
      headerRows: 1,
      dontBreakRows: true,
      ...(widths && { widths }),
      body: [
        head.map((text, column) => ({ text, bold: true, color: inks.dim, alignment: align(column) })),
        ...rows.map((row) =>
          row.map((cell, column) =>
            typeof cell === 'string' ? { text: cell, alignment: align(column) } : cell,
          ),
        ),
      ],
    },
  };
}
