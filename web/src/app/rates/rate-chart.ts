import { parseDay } from '@coffer/core';
import { showDay } from '@coffer/contract';
import { colourOf } from '../charts/colours';
import type { EChartsCoreOption } from '../charts/echarts';

const dayMilliseconds = 86_400_000;

interface Value {
  readonly on: string;
  readonly rate: string;
}

/** An index as it was published, as steps; what is drafted stands as hollow marks. */
export function rateChart(kept: readonly Value[], drafted: readonly Value[]): () => EChartsCoreOption {
  const points = (values: readonly Value[]): number[][] =>
    values
      .map(({ on, rate }) => [(parseDay(on) ?? 0) * dayMilliseconds, Number.parseFloat(rate)])
      .sort(([a = 0], [b = 0]) => a - b);
  return () => {
    const ink = colourOf('--ink-2');
    return {
      textStyle: { fontFamily: 'Public Sans Variable' },
      grid: { left: 46, right: 14, top: 12, bottom: 22 },
      xAxis: {
        type: 'time',
        axisLine: { onZero: false, lineStyle: { color: colourOf('--line-2') } },
        axisLabel: { color: ink, fontSize: 11, hideOverlap: true },
        splitLine: { show: false },
      },
      yAxis: {
        type: 'value',
        scale: true,
        splitNumber: 3,
        axisLabel: { color: ink, fontSize: 11, formatter: (value: number) => `${value} %` },
        splitLine: { lineStyle: { color: colourOf('--line') } },
      },
      tooltip: {
        trigger: 'item',
        confine: true,
        formatter: ({ value }: { value: [number, number] }) =>
          `${showDay(value[0] / dayMilliseconds)}<br>${value[1]} %`,
      },
      series: [
        {
          type: 'line',
          step: 'end',
          symbolSize: 5,
          lineStyle: { color: colourOf('--interest'), width: 2 },
          itemStyle: { color: colourOf('--interest') },
          data: points(kept),
        },
        {
          type: 'scatter',
          symbolSize: 9,
          itemStyle: { color: colourOf('--sheet'), borderColor: colourOf('--flag'), borderWidth: 2 },
          data: points(drafted),
        },
      ],
    };
  };
}
