import {
  formatAmount,
  formatDay,
  movementOver,
  movementProof,
  portfolioPeriods,
  portfolioValues,
  type CalendarDay,
  type PortfolioMeasure,
  type PortfolioStep,
  type Proof,
  type Schedule,
} from '@coffer/core';
import type { PublishedProof } from '../document/published-schedule.ts';
import { publishedProof } from '../document/proofs-json.ts';

/** What is asked of a portfolio. */
export interface PortfolioQuestion {
  readonly from: CalendarDay;
  readonly to: CalendarDay;
  readonly by: PortfolioStep;
  readonly show: PortfolioMeasure;
  /** The month that a fiscal year ends with, 1 to 12. */
  readonly fiscalYearEndMonth: number;
}

/** A portfolio over time in its published form. */
export interface PublishedPortfolio {
  readonly by: PortfolioStep;
  readonly show: PortfolioMeasure;
  /** The last day of each period. */
  readonly periods: readonly string[];
  readonly rows: readonly { readonly name: string; readonly values: readonly string[] }[];
  /** A list, or by currency where there are several: they are never added to each other. */
  readonly totals: readonly string[] | Readonly<Record<string, readonly string[]>>;
  readonly proofs: readonly PublishedProof[];
}

/** Somebody's instrument: what it is called, and its schedule. */
export interface PortfolioMember {
  readonly name: string;
  readonly schedule: Schedule;
}

/** Instruments by periods, for one measure, with totals and proofs that they cross-foot. */
export function portfolioJson(
  members: readonly PortfolioMember[],
  { from, to, by, show, fiscalYearEndMonth }: PortfolioQuestion,
): PublishedPortfolio {
  const periods = portfolioPeriods(by, from, to, fiscalYearEndMonth);
  const rows = members.map(({ name, schedule }) => ({
    name,
    terms: schedule.terms,
    values: portfolioValues(schedule, periods, show),
    movement: movementOver(schedule, periods),
  }));
  const currencies = [...new Set(rows.map(({ terms }) => terms.currency))];
  const totals = currencies.map((currency) => {
    const ofCurrency = rows.filter(({ terms }) => terms.currency === currency);
    const digits = ofCurrency[0]?.terms.digits ?? 2;
    const sums = periods.map((_, at) =>
      ofCurrency.reduce((sum, { values }) => sum + (values[at] as number), 0),
    );
    const all = currencies.length === 1 ? 'All instruments' : `All instruments in ${currency}`;
    const proof = proofOf(
      all,
      ofCurrency.map(({ movement }) => movement),
    );
    return { currency, values: sums.map((sum) => formatAmount(sum, digits)), proof, digits };
  });
  return {
    by,
    show,
    periods: periods.map((period) => formatDay(period.to)),
    rows: rows.map(({ name, values, terms }) => ({
      name,
      values: values.map((value) => formatAmount(value, terms.digits)),
    })),
    totals:
      totals.length > 1
        ? Object.fromEntries(totals.map(({ currency, values }) => [currency, values]))
        : (totals[0]?.values ?? []),
    proofs: [
      ...rows.map(({ name, movement, terms }) => publishedProof(proofOf(name, [movement]), terms.digits)),
      ...totals.map(({ proof, digits }) => publishedProof(proof, digits)),
    ],
  };
}

function proofOf(name: string, movements: Parameters<typeof movementProof>[1]): Proof {
  return movementProof(`${name}: opening + drawn + interest added − principal repaid = closing`, movements);
}
