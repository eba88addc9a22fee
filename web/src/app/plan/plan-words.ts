import {
  showDay,
  showDecimal,
  showMonth,
  type PublishedBudget,
  type PublishedCrossing,
  type PublishedHorizon,
  type PublishedIncome,
  showRate,
} from '@coffer/contract';
import type { BudgetWay } from './plan-work';

/** What one more year adds and frees. */
export interface YearStep {
  /** The day that the year ends on. */
  readonly to: string;
  readonly adds: string;
  readonly frees: string;
  /** Yearly effective rate that the freed cash costs; empty where there is none. */
  readonly price: string;
  readonly addsMore: boolean;
}

/** The steps from year to year, where both ends reach the same instruments. */
export function yearSteps(years: readonly PublishedHorizon[]): YearStep[] {
  return years.flatMap(({ clearBy, addedInterest, freedCash, priceOfWaiting }) =>
    addedInterest === null || freedCash === null
      ? []
      : [
          {
            to: clearBy,
            adds: addedInterest,
            frees: freedCash,
            price: priceOfWaiting ?? '',
            addsMore: Number(addedInterest) > Number(freedCash),
          },
        ],
  );
}

/** What a chosen day means. */
export interface ChosenDay {
  readonly day: string;
  /** Decimal strings. */
  readonly monthlyCash: string;
  readonly interest: string;
  /** What the contracts ask in a month, in units of the currency. */
  readonly contractual: number;
  readonly years: readonly PublishedHorizon[];
  readonly hurdle: string;
  /** The horizon whose payments are worth least at what cash is worth, and the first and the last there is. */
  readonly cheapest: string | undefined;
  /** What that asks of income, where that is asked. */
  readonly income: PublishedIncome | undefined;
  readonly first: string | undefined;
  readonly last: string | undefined;
  readonly crossing: PublishedCrossing | null;
  /** Names of what no payment clears by the day. */
  readonly without: readonly string[];
}

/** In a few sentences: what a day asks and costs, and whether paying that fast is worth it. */
export function worthSentence(of: ChosenDay): string {
  const more = Number(of.monthlyCash) - of.contractual;
  const beyond = more > 0.005 ? `, ${money(more)} more than the contracts ask now` : '';
  const all = of.without.length === 0 ? 'Everything' : `All but ${of.without.join(', ')}`;
  const what = `${all} is cleared by ${showDay(of.day)} with ${showDecimal(of.monthlyCash)} a month${beyond}, and ${showDecimal(of.interest)} of interest.`;
  const step = of.years.find(({ clearBy, freedCash }) => clearBy > of.day && freedCash !== null);
  const later = step?.priceOfWaiting
    ? ` The year to ${showDay(step.clearBy)} adds ${showDecimal(step.addedInterest ?? '0')} of interest; the cash it frees costs ${showRate(step.priceOfWaiting)} a year.`
    : '';
  return `${what}${later}${worth(of)}${crossed(of.crossing)}`;
}

function worth({ hurdle, cheapest, first, last, day, income }: ChosenDay): string {
  if (hurdle === '' || cheapest === undefined) return '';
  const at = ` Where cash is worth ${showRate(hurdle)} a year,`;
  if (cheapest === first) return `${at} faster always pays${incomeWords(income)}.`;
  if (cheapest === last) return `${at} waiting always pays${incomeWords(income)}.`;
  const than = day < cheapest ? 'paying faster than that is not worth it' : 'paying this slowly costs more';
  return `${at} ${showDay(cheapest)} is cheapest${incomeWords(income)}${day.slice(0, 7) === cheapest.slice(0, 7) ? '' : `: ${than}`}.`;
}

function crossed(crossing: PublishedCrossing | null): string {
  if (!crossing) return '';
  return ` After ${showDecimal(crossing.years)} years, at ${showDecimal(crossing.monthlyCash)} a month, a year more adds as much interest as it frees cash${incomeWords(crossing.income)}.`;
}

/** What a way comes to that clears everything with what is there. */
export function clearedBy({
  budget,
}: BudgetWay): (PublishedBudget & { readonly clears: string }) | undefined {
  if ('commonDay' in budget || budget.short || budget.clears === null) return undefined;
  return { ...budget, clears: budget.clears };
}

/** Why a way is refused; empty where it is not. */
export function refusalOfWay({ budget }: BudgetWay): string {
  if ('commonDay' in budget) return `no day is within it; ${showDecimal(budget.least)} a month has one`;
  return budget.short
    ? `${showDecimal(budget.short.missing)} is missing in ${monthName(budget.short.month)}`
    : '';
}

/** What a way comes to, in a sentence or two. */
export function waySentence({ budget }: BudgetWay): string {
  if ('commonDay' in budget)
    return `no common day is within this budget; the least that has one is ${showDecimal(budget.least)} a month.`;
  const { short, clears, interest, unspent } = budget;
  if (short)
    return `in ${monthName(short.month)} more is asked for than is there by then, ${showDecimal(short.missing)} is missing. ${showDecimal(short.covers)} a month covers all that the agreements ask for.`;
  const what =
    clears === null
      ? `${leftWords(budget)}, at ${showDecimal(interest)} of interest.`
      : `everything is cleared by ${showMonth(clears)} at ${showDecimal(interest)} of interest.`;
  const rest =
    unspent !== undefined && Number(unspent) > 0
      ? ` It leaves ${showDecimal(unspent)} of each month unspent.`
      : '';
  return `${what}${rest}`;
}

function leftWords({ loans, months, left = '' }: PublishedBudget): string {
  const names = loans.flatMap((loan) => (loan.clears === null ? [loan.name] : []));
  const last = loans
    .flatMap(({ clears }) => (clears === null ? [] : [clears]))
    .sort()
    .at(-1);
  const rest = last
    ? `the rest is cleared by ${showMonth(last)}`
    : `the last payment is in ${monthName(months.at(-1)?.month ?? '')}`;
  return `${names.join(', ')} is not cleared, ${showDecimal(left)} is left; ${rest}`;
}

/** A month that is told without a day. */
const monthName = (month: string): string => showMonth(`${month}-01`);

/** The key of a way of using a budget. */
export function keyOfWay({ budget: { use } }: Pick<BudgetWay, 'budget'>): string {
  return typeof use === 'string' ? use : 'own';
}

const incomeWords = (income: PublishedIncome | undefined): string =>
  income ? `, which needs ${showDecimal(income.needed)} of income a year` : '';

const money = (amount: number): string => showDecimal(amount.toFixed(2));
