import type { MinorUnits } from '@coffer/core';
import { showAmount } from '@coffer/contract';
import { colourOf } from './colours';
import type { EChartsCoreOption } from './echarts';

/** One payment or coupon, in two parts that stand on each other. Minor units. */
export interface SplitBar {
  readonly label: string;
  readonly lower: number;
  readonly upper: number;
  /** A balance drawn as a line over the bars. */
  readonly line?: number;
}

/**
 * Bars of two parts over the whole term, those up to the as-of date solid and the rest pale, with a line between
 * them; and a line for a balance where the bars have one.
 */
export function splitChart(
  bars: readonly SplitBar[],
  paid: number,
  names: readonly [string, string],
  digits: number,
): () => EChartsCoreOption {
  return () => {
    const units = (minor: MinorUnits): number => minor / 10 ** digits;
    const series = (part: 'lower' | 'upper', name: string, solid: string, pale: string): object => ({
      name,
      type: 'bar',
      stack: 'split',
      barCategoryGap: bars.length > 240 ? '0%' : '14%',
      data: bars.map((bar, at) => ({
        value: units(bar[part]),
        itemStyle: { color: at < paid ? solid : pale },
      })),
      emphasis: { itemStyle: { color: colourOf('--flag') } },
    });
    const lines = bars.filter((bar) => bar.line !== undefined).map((bar) => units(bar.line ?? 0));
    return {
      textStyle: { fontFamily: 'Public Sans Variable' },
      grid: { left: 2, right: 2, top: 8, bottom: 2 },
      xAxis: [
        { type: 'category', data: bars.map(({ label }) => label), show: false },
        { type: 'value', min: -0.5, max: bars.length - 0.5, show: false },
      ],
      yAxis: [
        { type: 'value', show: false },
        { type: 'value', show: false, scale: true },
      ],
      tooltip: {
        trigger: 'item',
        confine: true,
        formatter: ({ dataIndex }: { dataIndex: number }) => tip(bars[dataIndex], names, digits),
      },
      series: [
        series('lower', names[0], colourOf('--principal'), colourOf('--principal-pale')),
        series('upper', names[1], colourOf('--interest-fill'), colourOf('--interest-pale')),
        {
          type: 'line',
          xAxisIndex: 1,
          yAxisIndex: 1,
          symbol: 'none',
          lineStyle: { color: colourOf('--flag'), width: 2 },
          data: lines.map((value, at) => [at, value]),
          tooltip: { show: false },
          markLine: {
            silent: true,
            symbol: 'none',
            animation: false,
            label: { show: false },
            lineStyle: { color: colourOf('--flag'), width: 2, type: 'solid' },
            data: paid > 0 && paid < bars.length ? [{ xAxis: paid - 0.5 }] : [],
          },
        },
      ],
    };
  };
}

function tip(bar: SplitBar | undefined, names: readonly [string, string], digits: number): string {
  if (!bar) return '';
  const line = bar.line === undefined ? '' : `<br>carrying ${showAmount(bar.line, digits)}`;
  return `${bar.label}<br>${names[0]} ${showAmount(bar.lower, digits)}<br>${names[1]} ${showAmount(bar.upper, digits)}${line}`;
}
