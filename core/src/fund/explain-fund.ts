import { grainsOf } from '../money/rounding.ts';
import { formatDay } from '../calendar/calendar-day.ts';
import { dayCounts } from '../calendar/day-counts/day-counts.ts';
import { fundGrowth, fundYears } from './fund-periods.ts';
import { fundAndDebt, netDebt } from './fund-and-debt.ts';
import type { FundRow, FundSchedule } from './fund-schedule.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { multiplyRatios, ratio, ratioToDecimal } from '../money/ratio.ts';
import { formatPercent } from '../rates/annual-rate.ts';
import { growsOnInterest } from '../rates/compounding.ts';
import { compoundingInWords } from '../loan/explain/explain-loan.ts';
import { roundedTo, roundingText, unroundedText } from '../explain/rounding-words.ts';
import type { ExplainStep, Explanation } from '../explain/explanation.ts';
import type { Count } from '../units/units.ts';

/** The columns of a fund's schedule that hold amounts. */
export type FundFigure = 'opening' | 'interest' | 'deposit' | 'closing';

const titles: Readonly<Record<FundFigure, string>> = {
  opening: 'Opening',
  interest: 'Interest earned',
  deposit: 'Deposit',
  closing: 'Closing',
};

/**
 * How a figure of a fund's schedule is made, from the same inputs by the same functions.
 *
 * @example
 * explainFundFigure(fund, 1, 'interest').amount // 4_552
 */
export function explainFundFigure(schedule: FundSchedule, index: Count, figure: FundFigure): Explanation {
  const row = schedule.rows[index] as FundRow;
  const cell = (column: FundFigure, label: string, of = row): ExplainStep => ({
    label,
    amount: of[column],
    link: { to: 'row', row: of.n - 1, column },
  });
  const title = `${titles[figure]}, deposit ${row.n}`;
  switch (figure) {
    case 'opening': {
      const before = schedule.rows[index - 1];
      const step = before
        ? cell('closing', `Closing of deposit ${before.n}`, before)
        : { label: 'Held at the beginning', amount: row.opening };
      return { title, amount: row.opening, steps: [step] };
    }
    case 'closing':
      return {
        title,
        amount: row.closing,
        steps: [cell('opening', 'Opening'), cell('interest', '+ interest'), cell('deposit', '+ deposit')],
      };
    case 'deposit':
      return { title, amount: row.deposit, ...depositMade(schedule, row, cell) };
    case 'interest':
      return { title, amount: row.interest, ...interestMade(schedule, row) };
  }
}

/**
 * How the net debt of a fund's row is made. Amount negative where the fund holds more than is owed.
 *
 * @example
 * explainNetDebt(fund, bond, 0).amount // 9_924_132
 */
export function explainNetDebt(schedule: FundSchedule, debt: Schedule, index: Count): Explanation {
  const row = schedule.rows[index] as FundRow;
  const { owed, held, net } = netDebt(schedule, debt, row.due);
  const kept: ExplainStep =
    held === row.closing
      ? { label: '− held by the fund', amount: held, link: { to: 'row', row: index, column: 'closing' } }
      : { label: '− held by the fund, which is paid out', amount: held };
  return {
    title: `Net debt, ${formatDay(row.due)}`,
    amount: net,
    steps: [{ label: 'Owed', amount: owed }, kept],
  };
}

/**
 * How a sum of a fund and the debt it repays is made.
 *
 * @example
 * explainFundAndDebt(fund, bond, 'outlay').amount // 13_758_680
 */
export function explainFundAndDebt(
  schedule: FundSchedule,
  debt: Schedule,
  figure: 'netInterest' | 'outlay',
): Explanation {
  const sums = fundAndDebt(schedule, debt);
  return figure === 'netInterest'
    ? {
        title: 'Net interest',
        amount: sums.netInterest,
        steps: [
          { label: 'Interest on the debt, over its whole life', amount: sums.debtInterest },
          { label: '− earned by the fund', amount: sums.earned },
        ],
      }
    : {
        title: 'Total outlay',
        amount: sums.outlay,
        steps: [
          { label: 'Paid on the debt', amount: sums.paidOnDebt },
          { label: '+ paid into the fund', amount: sums.deposits },
          { label: '− paid out by the fund', amount: sums.released },
        ],
      };
}

type Made = Pick<Explanation, 'steps' | 'unrounded' | 'rounding'>;

function depositMade(
  { terms, solved, deposit }: FundSchedule,
  row: FundRow,
  cell: (column: FundFigure, label: string) => ExplainStep,
): Made {
  const { goal } = terms;
  const made = terms.made?.find(({ due }) => due === row.agreed);
  if (made) {
    const label = `Recorded as made on ${formatDay(made.on)}, for ${formatDay(made.due)}`;
    return { steps: [{ label, amount: row.deposit }] };
  }
  if (goal !== undefined && row.closing === goal && row.deposit !== deposit) {
    return {
      steps: [
        { label: 'The goal', amount: goal, link: { to: 'terms', key: 'goal' } },
        cell('opening', '− opening'),
        cell('interest', '− its own interest'),
      ],
    };
  }
  if (goal !== undefined && row.closing > goal && row.deposit === 0) {
    return { steps: [{ label: 'Nothing is missing: interest alone passes the goal', amount: 0 }] };
  }
  if (solved?.unknown === 'deposit' && goal !== undefined) {
    const { rounding } = terms;
    return {
      steps: [
        { label: 'The goal', amount: goal, link: { to: 'terms', key: 'goal' } },
        {
          label: 'Level deposits',
          text: `${terms.deposits.type === 'level' ? terms.deposits.count : ''}, that reach it with their interest`,
          link: { to: 'terms', key: 'count' },
        },
        { label: 'Annual rate', text: formatPercent(terms.annualRate), link: { to: 'terms', key: 'rate' } },
      ],
      unrounded: solved.value,
      rounding: roundedTo(rounding.deposit, rounding.ties),
    };
  }
  const label = terms.deposits.type === 'level' ? 'Agreed deposit' : 'Listed in the terms';
  return { steps: [{ label, amount: row.deposit, link: { to: 'terms', key: 'deposit' } }] };
}

function interestMade({ terms }: FundSchedule, row: FundRow): Made {
  const { period, due, earning, exact } = row;
  const years = fundYears(terms, period, due);
  const growth = fundGrowth(terms, years);
  const grows = growsOnInterest(terms.compounding);
  const share = ratio(BigInt(years.num), BigInt(years.den));
  const days = dayCounts[terms.dayCount].days(period.from, due, period);
  return {
    steps: [
      {
        label: earning === row.opening ? 'Balance' : 'Paid in; interest earns none',
        amount: earning,
      },
      ...(grows
        ? [
            {
              label: `× growth, compounded ${compoundingInWords(terms.compounding)}`,
              text: ratioToDecimal(growth, 18),
            },
          ]
        : []),
      {
        label: grows ? 'Annual rate' : '× annual rate',
        text: formatPercent(terms.annualRate),
        link: { to: 'terms', key: 'rate' },
      },
      {
        label: `${grows ? 'Share' : '× share'} of the year (${dayCounts[terms.dayCount].title})`,
        text: `${share.num}/${share.den}`,
        link: { to: 'terms', key: 'dayCount' },
      },
      { label: 'Days counted', text: `${days}, ${formatDay(period.from)} to ${formatDay(due)}` },
    ],
    unrounded: unroundedText(multiplyRatios(ratio(exact.earning, grainsOf(terms)), growth), terms.digits),
    rounding: roundingText(terms),
  };
}
