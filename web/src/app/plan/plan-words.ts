import {
  showDay,
  showDecimal,
  type PublishedCrossing,
  type PublishedHorizon,
  showRate,
} from '@coffer/contract';

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
  readonly first: string | undefined;
  readonly last: string | undefined;
  readonly crossing: PublishedCrossing | null;
}

/** In a few sentences: what a day asks and costs, and whether paying that fast is worth it. */
export function worthSentence(of: ChosenDay): string {
  const more = Number(of.monthlyCash) - of.contractual;
  const beyond = more > 0.005 ? `, ${money(more)} more than the contracts ask now` : '';
  const what = `Everything is cleared by ${showDay(of.day)} with ${showDecimal(of.monthlyCash)} a month${beyond}, and ${showDecimal(of.interest)} of interest.`;
  const step = of.years.find(({ clearBy, freedCash }) => clearBy > of.day && freedCash !== null);
  const later = step?.priceOfWaiting
    ? ` The year to ${showDay(step.clearBy)} adds ${showDecimal(step.addedInterest ?? '0')} of interest; the cash it frees costs ${showRate(step.priceOfWaiting)} a year.`
    : '';
  return `${what}${later}${worth(of)}${crossed(of.crossing)}`;
}

function worth({ hurdle, cheapest, first, last, day }: ChosenDay): string {
  if (hurdle === '' || cheapest === undefined) return '';
  const at = ` Where cash is worth ${showRate(hurdle)} a year,`;
  if (cheapest === first) return `${at} faster always pays.`;
  if (cheapest === last) return `${at} waiting always pays.`;
  const than = day < cheapest ? 'paying faster than that is not worth it' : 'paying this slowly costs more';
  return `${at} ${showDay(cheapest)} is cheapest${day.slice(0, 7) === cheapest.slice(0, 7) ? '' : `: ${than}`}.`;
}

function crossed(crossing: PublishedCrossing | null): string {
  if (!crossing) return '';
  return ` After ${showDecimal(crossing.years)} years, at ${showDecimal(crossing.monthlyCash)} a month, a year more adds as much interest as it frees cash.`;
}

const money = (amount: number): string => showDecimal(amount.toFixed(2));
