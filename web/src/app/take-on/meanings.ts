/** What a column of a sheet can mean. */
export const meanings = {
  kind: { title: 'Kind', heading: /^kind|^class|loan or bond/i },
  name: { title: 'Name', heading: /name|loan|instrument|descr|use|facility/i },
  lender: { title: 'Lender', heading: /lender|bank|creditor|counterpart/i },
  agreement: { title: 'Agreement no.', heading: /agreement|contract|ref/i },
  amount: { title: 'Amount', heading: /amount|principal|face|orig/i },
  start: { title: 'Start', heading: /start|draw|from|begin|value date|disburs/i },
  rate: { title: 'Rate', heading: /rate|int\b|interest|coupon|%/i },
  count: { title: 'Number of payments', heading: /^n$|no\.? of|number|count|term|periods|instal/i },
  every: { title: 'How often', heading: /every|freq|often|interval/i },
  first: { title: 'First payment', heading: /first/i },
  repaid: { title: 'How repaid', heading: /type|repaid|repayment|structure|amorti/i },
  dayCount: { title: 'Day count', heading: /basis|day.?count|days/i },
  currency: { title: 'Currency', heading: /curr|ccy/i },
  payment: { title: 'Payment, to compare', heading: /pmt|payment|annuity|instal?ment/i },
  balance: { title: 'Balance, to compare', heading: /bal|outstanding|remaining|open/i },
  last: { title: 'Matures, or last due to compare', heading: /last|matur|final|\bend/i },
  price: { title: 'Price of a bond', heading: /price/i },
  drawn: { title: 'Drawn of a line', heading: /drawn|utili[sz]/i },
} as const satisfies Record<string, { title: string; heading: RegExp }>;

export type Meaning = keyof typeof meanings;

export const meaningNames = Object.keys(meanings) as Meaning[];

/** What a sheet cannot do without; where it says of what kind each row is, that decides about the rest. */
export function neededColumns(pointing: Pointing): readonly Meaning[] {
  const says = [...pointing.values()].includes('kind');
  return ['name', 'amount', 'start', 'rate', ...(says ? [] : ['count' as const])];
}

/** What each column means, by its place; one meaning stands at one column. */
export type Pointing = ReadonlyMap<number, Meaning>;

/** Looked for in this order: what is told by fewer words first. */
const order: readonly Meaning[] = [
  'kind',
  'price',
  'drawn',
  'currency',
  'dayCount',
  'first',
  'last',
  'balance',
  'every',
  'repaid',
  'count',
  'payment',
  'rate',
  'start',
  'amount',
  'lender',
  'agreement',
  'name',
];

/** What the headings suggest; what was pointed at before, under the same heading, goes first. */
export function guessed(
  headings: readonly string[],
  remembered: Readonly<Record<string, Meaning | ''>>,
): Pointing {
  const pointing = new Map<number, Meaning>();
  const taken = new Set<Meaning>();
  const point = (at: number, meaning: Meaning): void => {
    if (taken.has(meaning) || pointing.has(at)) return;
    pointing.set(at, meaning);
    taken.add(meaning);
  };
  const keys = headings.map((heading) => heading.trim().toLowerCase());
  for (const [at, key] of keys.entries()) {
    const before = remembered[key];
    if (before) point(at, before);
  }
  for (const meaning of order) {
    const at = keys.findIndex(
      (key, place) =>
        key !== '' && !pointing.has(place) && !(key in remembered) && meanings[meaning].heading.test(key),
    );
    if (at >= 0) point(at, meaning);
  }
  // A sheet without a word for names calls its loans by their references.
  const reference = [...pointing].find(([, meaning]) => meaning === 'agreement');
  if (reference && !taken.has('name')) pointing.set(reference[0], 'name');
  return pointing;
}

/**
 * The row of headings: the first of twenty in which three cells or more mean something, each its own; a title above it
 * is passed over. Without one the first row is data already, and columns have no headings.
 */
export function headingRow(rows: readonly (readonly string[])[]): number | undefined {
  const at = rows.slice(0, 20).findIndex((row) => {
    const words = row.filter((cell) => /[a-z]/i.test(cell) || cell.trim() === '%' || cell.trim() === 'n');
    return (
      words.length >= 3 &&
      guessed(row, {}).size >= 3 &&
      !row.some((cell) => /^\d[\d.,' ]{3,}$/.test(cell.trim()))
    );
  });
  return at < 0 ? undefined : at;
}
