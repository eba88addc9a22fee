import type { MinorUnits } from '@coffer/core';
import { showShortMonth, showAmount, showNumber } from '@coffer/contract';
import { colourOf } from '../charts/colours';
import type { EChartsCoreOption } from '../charts/echarts';
import type { BudgetWay } from './plan-work';

/** Where each month's cash goes: what contracts ask on paper shades, what is paid beyond in the colour of principal. */
export function budgetChart(way: BudgetWay, budget: number, digits: number): () => EChartsCoreOption {
  return () => {
    const unit = 10 ** digits;
    const ink = colourOf('--ink-2');
    const months = way.byMonth.map(({ month }) => showShortMonth(month));
    const series = (part: 'asked' | 'extra') =>
      way.loans.map(({ name }, at) => ({
        type: 'bar',
        name: part === 'extra' ? `${name}, beyond its contract` : name,
        stack: 'cash',
        barCategoryGap: '0%',
        itemStyle: {
          color: colourOf(part === 'extra' ? '--principal' : at % 2 === 0 ? '--closed' : '--line-2'),
          borderColor: colourOf('--sheet'),
          borderWidth: 0.5,
        },
        data: way.byMonth.map(({ members }) => (members[at]?.[part] ?? 0) / unit),
      }));
    return {
      textStyle: { fontFamily: 'Public Sans Variable' },
      grid: { left: 54, right: 16, top: 12, bottom: 22 },
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
          const paid = way.byMonth[at]?.members ?? [];
          const lines = paid.flatMap(({ asked, extra }, index) => {
            const name = way.loans[index]?.name ?? '';
            const money = (minor: MinorUnits): string => showAmount(minor, digits);
            if (asked + extra === 0) return [];
            return [`${name}: ${money(asked)}${extra > 0 ? ` and ${money(extra)} beyond` : ''}`];
          });
          return [months[at] ?? '', ...lines].join('<br>');
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
      ],
    };
  };
}
