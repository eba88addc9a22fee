import type { MinorUnits } from '@coffer/core';
import { showAmount, showDay, showNumber } from '@coffer/contract';
import { colourOf } from '../charts/colours';
import type { EChartsCoreOption } from '../charts/echarts';
import type { CurvePoint } from './tried';

/** A balance over time, with the letter that marks it. */
export interface Curve {
  readonly letter: string;
  /** Said of it, where it is no variant. */
  readonly name?: string;
  readonly points: readonly CurvePoint[];
  readonly chosen: boolean;
}

const dashes: readonly (string | number[])[] = ['dashed', 'dotted', [12, 4, 2, 4], [4, 2], [16, 4], [2, 6]];
const dayMilliseconds = 86_400_000;

/** Balances of a loan and of its variants as they fall, the first one being the loan as it is. */
export function curvesChart(curves: readonly Curve[], on: number, digits: number): () => EChartsCoreOption {
  return () => {
    const units = (minor: MinorUnits): number => minor / 10 ** digits;
    const largest = Math.max(...curves.flatMap(({ points }) => points.map(({ balance }) => units(balance))));
    const smallest = Math.min(...curves.flatMap(({ points }) => points.map(({ balance }) => balance)));
    const [per, sign] = largest >= 1e7 ? [1e6, 'm'] : largest >= 1e4 ? [1000, 'k'] : [1, ''];
    const ink = colourOf('--ink-2');
    return {
      textStyle: { fontFamily: 'Public Sans Variable' },
      grid: { left: 46, right: 14, top: 12, bottom: 22 },
      xAxis: {
        type: 'time',
        axisLine: { lineStyle: { color: colourOf('--line-2') } },
        axisLabel: { color: ink, fontSize: 11, hideOverlap: true },
        splitLine: { show: false },
      },
      yAxis: {
        type: 'value',
        ...(smallest >= 0 && { min: 0 }),
        splitNumber: 3,
        axisLabel: {
          color: ink,
          fontSize: 11,
          formatter: (value: number) => `${showNumber(value / per)}${value === 0 ? '' : sign}`,
        },
        splitLine: { lineStyle: { color: colourOf('--line') } },
      },
      tooltip: {
        trigger: 'item',
        confine: true,
        formatter: ({ seriesName, value }: { seriesName: string; value: [number, number] }) =>
          `${seriesName}<br>${showDay(value[0] / dayMilliseconds)}<br>${showAmount(Math.round(value[1] * 10 ** digits), digits)}`,
      },
      series: curves.map(({ letter, name, points, chosen }, at) => ({
        name: name ?? (at === 0 ? 'as it is' : `variant ${letter}`),
        type: 'line',
        step: 'end',
        lineStyle: {
          color: colourOf(at === 0 ? '--ink' : '--principal'),
          width: chosen ? 3 : at === 0 ? 2 : 1.6,
          type: at === 0 ? 'solid' : (dashes[(at - 1) % dashes.length] ?? 'dashed'),
        },
        itemStyle: { color: colourOf(at === 0 ? '--ink' : '--principal') },
        data: markedPoints(points, letter, at, curves.length).map(({ on: day, balance, mark }) => ({
          value: [day * dayMilliseconds, units(balance)],
          symbol: mark ? 'circle' : 'none',
          symbolSize: mark ? 17 : 4,
          ...(mark && {
            label: {
              show: true,
              position: 'inside',
              formatter: mark,
              color: colourOf('--sheet'),
              fontSize: 11,
            },
          }),
        })),
        ...(at === 0 && {
          markLine: {
            silent: true,
            symbol: 'none',
            animation: false,
            label: { show: false },
            lineStyle: { color: colourOf('--flag'), width: 2, type: 'solid' },
            data: [{ xAxis: on * dayMilliseconds }],
          },
        }),
      })),
    };
  };
}

/** The letter of each curve stands on it, farther along from curve to curve, so that letters do not cover each other. */
function markedPoints(
  points: readonly CurvePoint[],
  letter: string,
  at: number,
  curves: number,
): (CurvePoint & { mark: string })[] {
  const marked = Math.floor((points.length * (at + 1)) / (curves + 2));
  return points.map((point, index) => ({ ...point, mark: at > 0 && index === marked ? letter : '' }));
}
