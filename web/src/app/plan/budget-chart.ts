import type { MinorUnits } from '@coffer/core';
import { showAmount, showDecimal, showNumber, showShortMonth } from '@coffer/contract';
import { colourOf } from '../charts/colours';
import type { EChartsCoreOption } from '../charts/echarts';
import type { BudgetWay } from './plan-work';

/** Months that are drawn though one of them cannot be paid. */
const fewestDrawn = 12;

/** Where each month's cash goes: what contracts ask on paper shades, what is paid beyond in the colour of principal. */
export function budgetChart(
  { byMonth: all, budget: made }: BudgetWay,
  budget: number,
  digits: number,
): (() => EChartsCoreOption) | undefined {
  if ('commonDay' in made) return undefined;
  const { loans, short } = made;
  // What would come after a month that cannot be paid is of no use.
  const shortAt = short ? all.findIndex(({ month }) => month.startsWith(short.month)) : all.length;
  const byMonth = all.slice(0, Math.max(fewestDrawn, shortAt + 1));
  return () => {
    const unit = 10 ** digits;
    const ink = colourOf('--ink-2');
    const months = byMonth.map(({ month }) => showShortMonth(month));
    const series = (part: 'asked' | 'extra') =>
      loans.map(({ name }, at) => ({
        type: 'bar',
        name: part === 'extra' ? `${name}, beyond its contract` : name,
        stack: 'cash',
        barCategoryGap: '0%',
        itemStyle: {
          color: colourOf(part === 'extra' ? '--principal' : at % 2 === 0 ? '--closed' : '--line-2'),
          borderColor: colourOf('--sheet'),
          borderWidth: 0.5,
        },
        data: byMonth.map(({ members }) => (members[at]?.[part] ?? 0) / unit),
      }));
    return {
      textStyle: { fontFamily: 'Public Sans Variable' },
      grid: { left: 54, right: 16, top: short ? 26 : 12, bottom: 22 },
      xAxis: {
        type: 'category',
        data: months,
        axisTick: { show: false },
        axisLine: { lineStyle: { color: colourOf('--line-2') } },
        axisLabel: { color: ink, fontSize: 11, hideOverlap: true },
      },
      yAxis: {
        type: 'value',
        splitNumber: 3,
        axisLabel: {
          color: ink,
          fontSize: 11,
          formatter: (value: number) => `${showNumber(value / 1000)}k`,
        },
        splitLine: { lineStyle: { color: colourOf('--line') } },
      },
      tooltip: {
        trigger: 'axis',
        confine: true,
        formatter: (points: readonly { dataIndex: number }[]) => {
          const at = points[0]?.dataIndex ?? 0;
          const paid = byMonth[at]?.members ?? [];
          const lines = paid.flatMap(({ asked, extra }, index) => {
            const name = loans[index]?.name ?? '';
            const money = (minor: MinorUnits): string => showAmount(minor, digits);
            if (asked + extra === 0) return [];
            return [`${name}: ${money(asked)}${extra > 0 ? ` and ${money(extra)} beyond` : ''}`];
          });
          const { cash = '0' } = made.months[at] ?? {};
          const there =
            Number(cash) < 0 ? `${showDecimal(cash.slice(1))} is missing` : `${showDecimal(cash)} stays`;
          return [months[at] ?? '', ...lines, there].join('<br>');
        },
      },
      series: [
        ...series('asked'),
        ...series('extra'),
        {
          type: 'line',
          name: 'budget',
          symbol: 'none',
          silent: true,
          lineStyle: { color: colourOf('--flag'), width: 1.5 },
          data: months.map(() => budget / unit),
        },
        {
          type: 'line',
          name: 'cash at each month’s end',
          symbol: 'none',
          silent: true,
          lineStyle: { color: ink, width: 1.5, type: 'dashed' },
          data: byMonth.map((_, at) => Number(made.months[at]?.cash)),
        },
        ...(short ? [missingAt(shortAt, showDecimal(short.missing))] : []),
      ],
    };
  };
}

/** The month that cannot be paid, upright through the picture; a series of its own, so that its colour is its own too. */
function missingAt(month: number, missing: string): object {
  const color = colourOf('--wrong');
  return {
    type: 'line',
    name: 'missing',
    data: [],
    color,
    markLine: {
      symbol: 'none',
      silent: true,
      animation: false,
      lineStyle: { color, width: 2, type: 'solid' },
      label: { color, formatter: `${missing} is missing`, position: 'end' },
      data: [{ xAxis: month }],
    },
  };
}
