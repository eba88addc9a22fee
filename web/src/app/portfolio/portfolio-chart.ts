import type { MinorUnits } from '@coffer/core';
import { showAmount, showNumber } from '@coffer/contract';
import { colourOf } from '../charts/colours';
import type { EChartsCoreOption } from '../charts/echarts';
import type { PortfolioGroup } from './portfolio-rows';

/** Shades that groups are told apart by; the names stand beside them. */
export const shades = [
  '--principal',
  '--principal-pale',
  '--interest-fill',
  '--interest-pale',
  '--ink-3',
  '--line-2',
] as const;

/** The shade of a group by its place. */
export const shadeOf = (at: number): string => shades[at % shades.length] ?? '--ink-3';

const most = 1e8;

/** What stands in the picture besides the sums. */
export interface ChartMarks {
  /** The totals without a scenario, outlined; minor units. */
  readonly before?: readonly number[] | undefined;
  /** Place of the period that the as-of date is in. */
  readonly asOf?: number | undefined;
}

/** The sums of groups by period, stacked, with their total above; outlined what they come to without a scenario, upright the as-of date. */
export function portfolioChart(
  groups: readonly PortfolioGroup[],
  names: readonly string[],
  digits: number,
  { before, asOf }: ChartMarks = {},
): () => EChartsCoreOption {
  return () => {
    const unit = 10 ** digits;
    const totals = names.map((_, at) => groups.reduce((sum, { sums }) => sum + (sums[at] ?? 0), 0));
    const [per, sign] = Math.max(...totals) / unit >= most ? [1e6, 'm'] : [1000, 'k'];
    const ink = colourOf('--ink-2');
    const text = (minor: MinorUnits): string => `${showNumber(Math.round(minor / unit / per))}${sign}`;
    return {
      textStyle: { fontFamily: 'Public Sans Variable' },
      grid: { left: 8, right: 8, top: 20, bottom: 20 },
      xAxis: [
        {
          type: 'category',
          data: [...names],
          axisTick: { show: false },
          axisLine: { lineStyle: { color: colourOf('--line-2') } },
          axisLabel: { color: ink, fontSize: 11, interval: 0, hideOverlap: true },
        },
        { type: 'value', min: -0.5, max: names.length - 0.5, show: false },
      ],
      yAxis: { type: 'value', show: false },
      tooltip: {
        trigger: 'axis',
        formatter: (points: readonly { dataIndex: number }[]) => {
          const at = points[0]?.dataIndex ?? 0;
          const parts = groups.map(({ name, sums }) => `${name}: ${showAmount(sums[at] ?? 0, digits)}`);
          return [names[at], ...parts, `All: ${showAmount(totals[at] ?? 0, digits)}`].join('<br>');
        },
      },
      series: [
        ...groups.map(({ name, sums }, at) => ({
          type: 'bar',
          name,
          stack: 'all',
          barCategoryGap: '30%',
          itemStyle: { color: colourOf(shadeOf(at)) },
          data: sums.map((sum) => sum / unit),
          ...(at === groups.length - 1 && {
            label: {
              show: true,
              position: 'top',
              color: ink,
              fontSize: 11,
              formatter: ({ dataIndex }: { dataIndex: number }) => text(totals[dataIndex] ?? 0),
            },
          }),
        })),
        ...(before ? [outline(before.map((sum) => sum / unit))] : []),
        ...(asOf === undefined ? [] : [upright(asOf)]),
      ],
    };
  };
}

/** The end of the period that the as-of date is in, as an upright line. */
function upright(at: number): object {
  return {
    type: 'line',
    xAxisIndex: 1,
    symbol: 'none',
    silent: true,
    data: [],
    markLine: {
      silent: true,
      symbol: 'none',
      animation: false,
      label: { show: false },
      lineStyle: { color: colourOf('--flag'), width: 2, type: 'solid' },
      data: [{ xAxis: at + 0.5 }],
    },
  };
}

/** What stood before, as broken outlines over the bars. */
function outline(data: readonly number[]): object {
  return {
    type: 'bar',
    name: 'as it is',
    barGap: '-100%',
    barCategoryGap: '30%',
    silent: true,
    itemStyle: { color: 'transparent', borderColor: colourOf('--ink'), borderType: 'dashed', borderWidth: 1 },
    data: [...data],
  };
}
