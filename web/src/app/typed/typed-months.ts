import { monthOf, monthWords } from './typed-day';

/** A month of the year, 1 to 12. */
export type Month = number;

/**
 * Months of the year as people type them: `may to sep`, `nov–feb` (over the year's end), `mar, jun, sep and dec`.
 * `undefined` for what names no months.
 */
export function readMonths(text: string): ReadonlySet<Month> | undefined {
  const months = new Set<Month>();
  for (const part of text
    .toLowerCase()
    .split(/[,;&]|\band\b/)
    .map((each) => each.trim())) {
    const span = /^([a-z]{3,9})\.?(?:\s*(?:-|–|to|till|until|through)\s*([a-z]{3,9})\.?)?$/.exec(part);
    const [from, to] = [monthOf(span?.[1]), monthOf(span?.[2] ?? span?.[1])];
    if (from === 0 || to === 0) return undefined;
    for (let month = from; ; month = (month % 12) + 1) {
      months.add(month);
      if (month === to) break;
    }
  }
  return months;
}

/** Months as they are typed: spans where they follow each other, over the year's end too. */
export function typedMonths(months: ReadonlySet<Month>): string {
  const all = Array.from({ length: 12 }, (_, at) => at + 1);
  const before = (month: Month): Month => ((month + 10) % 12) + 1;
  if (months.size === 12) return 'jan to dec';
  return all
    .filter((month) => months.has(month) && !months.has(before(month)))
    .map((first) => {
      let last = first;
      while (months.has((last % 12) + 1)) last = (last % 12) + 1;
      const words = [first, last].map((month) => monthWords[month - 1]);
      return first === last ? words[0] : words.join(' to ');
    })
    .join(', ');
}
