import {
  type CalendarDay,
  formatAmount,
  formatDay,
  formatPercent,
  loanRow,
  type LoanRow,
  type LoanSchedule,
  type MinorUnits,
  paymentsPerYear,
  ratioToNumber,
} from '@coffer/core';

const yearDays = 365;
/** A first period longer than this many regular ones is told of. */
const longFirst = 1.5;
/** A yearly rate above this is told of. */
const highRate = 0.3;
/** A last payment more than this many times the one before it is told of. */
const largeLast = 3;

/**
 * What is right as it is typed and seldom meant: each with its figure, so that a slip is seen before it is kept. The
 * measures are common practice.
 */
export function loanSurprises(schedule: LoanSchedule): string[] {
  return [
    ...firstPeriod(schedule),
    ...schedule.rates.flatMap(({ annualRate, from }) =>
      highRateWords(ratioToNumber(annualRate), formatPercent(annualRate), from),
    ),
    ...broughtIn(schedule),
    ...draws(schedule),
    ...lastPayment(schedule),
  ];
}

/** A yearly rate that is seldom meant. */
export function highRateWords(rate: number, percent: string, from: CalendarDay): string[] {
  return rate > highRate ? [`The rate from ${formatDay(from)} is ${percent} a year.`] : [];
}

const money = ({ terms }: LoanSchedule, minor: MinorUnits): string => formatAmount(minor, terms.digits);

function firstPeriod(schedule: LoanSchedule): string[] {
  const { start, first, every, due } = schedule.terms;
  const periods = ((first - start) * paymentsPerYear[every]) / yearDays;
  if (due === 'start' || periods <= longFirst) return [];
  const row = rows(schedule).find(({ n }) => n === 1);
  const interest = row ? `; its interest is ${money(schedule, row.interest)}` : '';
  const long = periods.toFixed(1).replace(/\.0$/, '');
  return [
    `The first period, ${formatDay(start)} to ${formatDay(first)}, is as long as ${long} regular ones${interest}.`,
  ];
}

/** Interest that had accrued when a loan was taken on, against what a regular period makes. */
function broughtIn(schedule: LoanSchedule): string[] {
  const { takenOn, amount, annualRate, every } = schedule.terms;
  if (!takenOn) return [];
  const period = Math.round((amount * ratioToNumber(annualRate)) / paymentsPerYear[every]);
  if (takenOn.accruedInterest <= period) return [];
  return [
    `The ${money(schedule, takenOn.accruedInterest)} of interest accrued at the start is more than a whole period makes, about ${money(schedule, period)}.`,
  ];
}

function draws(schedule: LoanSchedule): string[] {
  // A line is there to be drawn on.
  if (schedule.terms.creditLine) return [];
  return rows(schedule)
    .filter(({ kind, added, opening }) => kind === 'draw' && opening > 0 && added >= opening)
    .map(({ date, added, opening, closing }) => {
      const times = (closing / opening).toFixed(1);
      return `The draw of ${money(schedule, added)} on ${formatDay(date)} makes the debt ${times} times what it was, ${money(schedule, closing)}.`;
    });
}

/** A last payment that no balloon and no payments of interest alone account for. */
function lastPayment(schedule: LoanSchedule): string[] {
  const phase = schedule.terms.phases.at(-1);
  const told = schedule.notices.some(({ kind }) => kind === 'last-payment-large' || kind === 'left-at-end');
  if (phase?.type !== 'level' || phase.balloon !== undefined || told) return [];
  const [before, last] = rows(schedule)
    .filter(({ n }) => n !== null)
    .slice(-2);
  if (!before || !last || before.payment <= 0 || last.payment <= largeLast * before.payment) return [];
  const times = (last.payment / before.payment).toFixed(1);
  return [
    `The last payment, ${money(schedule, last.payment)} on ${formatDay(last.date)}, is ${times} times the one before it.`,
  ];
}

function rows(schedule: LoanSchedule): LoanRow[] {
  return Array.from({ length: schedule.length }, (_, at) => loanRow(schedule, at));
}
