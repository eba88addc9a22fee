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

/** What the lines are drawn between, and the scales beside them where they have any. */
export interface LineBounds {
  readonly least?: number;
  readonly most?: number;
  readonly scale?: {
    /** The year of each point; told where it changes. */
    readonly years: readonly string[];
    /** What the upright scale counts, such as `%`. */
    readonly unit: string;
  };
}

/** Lines over the payments of a schedule with a rule at the as-of date; what a point says is up to the caller. */
export function linesChart(
  lines: readonly DrawnLine[],
  paid: number,
  bounds: LineBounds,
  tip: (at: number) => string,
): () => EChartsCoreOption {
  return () => {
    const count = lines[0]?.values.length ?? 0;
    const { scale } = bounds;
    return {
      textStyle: { fontFamily: 'Public Sans Variable' },
      grid: scale ? { left: 40, right: 10, top: 8, bottom: 18 } : { left: 2, right: 2, top: 8, bottom: 2 },
      xAxis: {
        type: 'category',
        data: Array.from({ length: count }, (_, at) => scale?.years[at] ?? at),
        show: scale !== undefined,
        axisTick: { show: false },
        axisLine: { lineStyle: { color: colourOf('--line-2') } },
        axisLabel: {
          color: colourOf('--ink-2'),
          fontSize: 11,
          interval: (at: number) => at > 0 && scale?.years[at] !== scale?.years[at - 1],
          hideOverlap: true,
        },
      },
      yAxis: {
        type: 'value',
        show: scale !== undefined,
        splitNumber: 2,
        splitLine: { lineStyle: { color: colourOf('--line') } },
        axisLabel: { color: colourOf('--ink-2'), fontSize: 11, formatter: `{value}${scale?.unit ?? ''}` },
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
