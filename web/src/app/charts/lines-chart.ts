import { colourOf } from './colours';
import type { EChartsCoreOption } from './echarts';

/** One line over the payments of a schedule. */
export interface DrawnLine {
  readonly name: string;
  readonly token: '--principal' | '--interest-fill' | '--ink-2';
  readonly values: readonly number[];
  readonly dashed?: boolean;
  /** Holds its value until the next point. */
  readonly stepped?: boolean;
}

/** Lines over the payments of a schedule with a rule at the as-of date; what a point says is up to the caller. */
export function linesChart(
  lines: readonly DrawnLine[],
  paid: number,
  bounds: { readonly least?: number; readonly most?: number },
  tip: (at: number) => string,
): () => EChartsCoreOption {
  return () => {
    const count = lines[0]?.values.length ?? 0;
    return {
      textStyle: { fontFamily: 'Public Sans Variable' },
      grid: { left: 2, right: 2, top: 8, bottom: 2 },
      xAxis: { type: 'category', data: Array.from({ length: count }, (_, at) => at), show: false },
      yAxis: {
        type: 'value',
        show: false,
        min: bounds.least ?? 0,
        ...(bounds.most !== undefined && { max: bounds.most }),
      },
      tooltip: {
        trigger: 'axis',
        confine: true,
        formatter: ([first]: readonly { dataIndex: number }[]) => (first ? tip(first.dataIndex) : ''),
      },
      series: lines.map(({ name, token, values, dashed, stepped }, at) => ({
        name,
        type: 'line',
        data: values,
        ...(stepped && { step: 'end' }),
        symbol: 'circle',
        symbolSize: 5,
        showSymbol: false,
        lineStyle: { color: colourOf(token), width: 2, type: dashed ? 'dashed' : 'solid' },
        itemStyle: { color: colourOf(token) },
        emphasis: { itemStyle: { color: colourOf('--flag') } },
        ...(at === 0 && {
          markLine: {
            silent: true,
            symbol: 'none',
            animation: false,
            label: { show: false },
            lineStyle: { color: colourOf('--flag'), width: 2, type: 'solid' },
            data: paid > 0 && paid < count ? [{ xAxis: paid - 1 }] : [],
          },
        }),
      })),
    };
  };
}
