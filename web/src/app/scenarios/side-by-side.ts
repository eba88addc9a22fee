import { addMonths, type MinorUnits, parseDay } from '@coffer/core';
import { showAmount, showDay, showShortMonth, type OutlookView, type SideBySideView } from '@coffer/contract';
import { lessOrMore as differing, soonerOrLater } from './differences';

/** A figure of a column, with how it differs from the figure as it is. */
export interface ComparedFigure {
  readonly text: string;
  readonly sub: string;
}

/** A line of figures: as it is, then under each scenario. */
export interface ComparedFigures {
  readonly name: string;
  readonly interest: boolean;
  readonly figures: readonly ComparedFigure[];
}

const lessOrMore = (minor: MinorUnits, money: (minor: MinorUnits) => string): string =>
  minor === 0 ? 'the same' : differing(minor, money);

const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);

/** All instruments together, figure by figure. */
export function comparedInAll({ columns, days }: SideBySideView, digits: number): ComparedFigures[] {
  const money = (minor: MinorUnits): string => showAmount(minor, digits);
  const outlooks = columns.map(({ all }) => all);
  const [first] = outlooks;
  if (!first) return [];
  const figures = (
    text: (of: OutlookView) => string,
    sub: (of: OutlookView) => string,
    ofFirst = '',
  ): ComparedFigure[] => outlooks.map((of, at) => ({ text: text(of), sub: at === 0 ? ofFirst : sub(of) }));
  const difference = (
    of: (each: OutlookView) => number,
  ): { text: (each: OutlookView) => string; sub: (each: OutlookView) => string } => ({
    text: (each) => money(of(each)),
    sub: (each) => lessOrMore(of(each) - of(first), money),
  });
  const line = (name: string, of: (each: OutlookView) => number, interest = false): ComparedFigures => {
    const { text, sub } = difference(of);
    return { name, interest, figures: figures(text, sub) };
  };
  const highest = (of: OutlookView): number => Math.max(...of.months);
  const monthOf = (of: OutlookView): string => {
    const at = of.months.indexOf(highest(of));
    return monthAfter(days[0] ?? '', at);
  };
  return [
    line('Interest', ({ interest }) => interest, true),
    line('Payments of the next twelve months', ({ months }) => sum(months)),
    {
      name: 'Highest month of the twelve',
      interest: false,
      figures: figures(
        (of) => money(highest(of)),
        (of) => `${monthOf(of)}, ${lessOrMore(highest(of) - highest(first), money)}`,
        monthOf(first),
      ),
    },
    line('Owed in a year', ({ owedAfter }) => owedAfter),
    ...(outlooks.some(({ left }) => left > 0)
      ? [line('Left after the last payments', ({ left }) => left)]
      : []),
    {
      name: 'Last payment',
      interest: false,
      figures: figures(
        ({ ends }) => showDay(ends),
        ({ ends }) => soonerOrLater(parseDay(first.ends) ?? 0, parseDay(ends) ?? 0),
      ),
    },
  ];
}

/** The month after a day by so many: `Mar 2027`. */
function monthAfter(day: string, months: number): string {
  return showShortMonth(addMonths(parseDay(day) ?? 0, months + 1, false));
}

/** An instrument that some scenario changes: three figures in each column, `as it is` where a scenario leaves it. */
export interface ComparedInstrument {
  readonly id: string;
  readonly name: string;
  readonly groups: readonly (readonly string[])[];
}

/** What differs, by instrument: interest, payments of the next twelve months, last payment. */
export function comparedByInstrument(
  { rows, columns }: SideBySideView,
  digits: number,
): ComparedInstrument[] {
  const texts: ((of: OutlookView) => string)[] = [
    ({ interest }) => showAmount(interest, digits),
    ({ months }) => showAmount(sum(months), digits),
    ({ ends }) => showDay(ends),
  ];
  const groupsOf = (outlooks: readonly (OutlookView | null)[]): string[][] =>
    texts.map((text) => outlooks.map((of) => (of ? text(of) : 'as it is')));
  return [
    ...rows.map(({ id, name, columns: of }) => ({ id, name, groups: groupsOf(of) })),
    { id: '', name: 'All instruments', groups: groupsOf(columns.map(({ all }) => all)) },
  ];
}
