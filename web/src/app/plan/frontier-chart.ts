import { showDay, showNumber } from '@coffer/contract';
import type { PublishedHorizon } from '@coffer/contract';
import { colourOf } from '../charts/colours';
import type { EChartsCoreOption } from '../charts/echarts';

/** What stands on the curve of horizons. */
export interface FrontierPicture {
  readonly months: readonly PublishedHorizon[];
  readonly years: readonly PublishedHorizon[];
  /** The chosen day's interest and monthly cash. */
  readonly chosen: readonly [interest: number, cash: number] | undefined;
  readonly crossing: readonly [number, number] | undefined;
  readonly hurdle: readonly [number, number] | undefined;
}

/** Interest and monthly cash of a horizon, in units of the currency. */
export function placeOf({ interest, monthlyCash }: PublishedHorizon): readonly [number, number] {
  return [Number(interest), Number(monthlyCash)];
}

/** The highest monthly cash that is drawn: the fastest horizons may ask for far more, and are named in words. */
export function cashTop(years: readonly PublishedHorizon[], chosen: number): number {
  const cash = years.map((horizon) => placeOf(horizon)[1]);
  const [first = 0, second = first, third = second] = cash;
  const top = first > 1.8 * second ? second : first;
  return 1.12 * Math.max(second > 1.8 * third ? third : top, chosen);
}

/** The years whose names have room: those that lie at least `apart` from the last one named. */
function roomForNames(dots: readonly PublishedHorizon[], apart: number): ReadonlySet<PublishedHorizon> {
  const named: PublishedHorizon[] = [];
  for (const dot of dots) {
    const last = named.at(-1);
    if (!last || Math.abs(placeOf(dot)[0] - placeOf(last)[0]) >= apart) named.push(dot);
  }
  return new Set(named);
}

/** Total interest across, cash a month up, the horizons along the curve. */
export function frontierChart({
  months,
  years,
  chosen,
  crossing,
  hurdle,
}: FrontierPicture): () => EChartsCoreOption {
  return () => {
    const ink = colourOf('--ink-2');
    const top = cashTop(years, chosen?.[1] ?? 0);
    const drawn = months.filter((horizon) => placeOf(horizon)[1] <= top * 1.3);
    const interests = drawn.map((horizon) => placeOf(horizon)[0]);
    const [low, high] = [Math.min(...interests), Math.max(...interests)];
    const cash = drawn.map((horizon) => placeOf(horizon)[1]);
    // The curve has the picture to itself, with room below its lowest dots for their names.
    const least = Math.min(...cash);
    const step = 10 ** Math.floor(Math.log10(Math.max(1, least)));
    const bottom = Math.max(0, Math.floor((least - (top - least) * 0.1) / step) * step);
    const pad = Math.max((high - low) * 0.06, 1);
    const dots = years.filter((horizon) => placeOf(horizon)[1] <= top);
    const named = roomForNames(dots, (high - low) * 0.05);
    const thousands = (value: number): string =>
      Math.abs(value) >= 1000 ? `${showNumber(Math.round(value / 1000))}k` : showNumber(Math.round(value));
    const axis = { color: ink, fontSize: 11, formatter: thousands };
    const mark = (
      at: readonly number[] | undefined,
      name: string,
      symbol: string,
      token: string,
      size: number,
    ): object => ({
      type: 'scatter',
      name,
      symbol,
      symbolSize: size,
      z: 4,
      itemStyle: { color: colourOf(token), borderColor: colourOf('--sheet'), borderWidth: 2 },
      label: {
        show: true,
        position: 'top',
        distance: 9,
        formatter: name,
        color: colourOf(token),
        fontSize: 11,
        fontWeight: 600,
      },
      data: at && at[1] !== undefined && at[1] <= top ? [[...at]] : [],
    });
    return {
      textStyle: { fontFamily: 'Public Sans Variable' },
      grid: { left: 54, right: 22, top: 26, bottom: 24 },
      xAxis: {
        type: 'value',
        min: Math.max(0, low - pad),
        max: high + pad,
        splitLine: { show: false },
        axisLabel: { ...axis, showMinLabel: false, showMaxLabel: false },
      },
      yAxis: {
        type: 'value',
        min: bottom,
        max: top,
        splitNumber: 4,
        axisLabel: { ...axis, showMaxLabel: false },
        splitLine: { lineStyle: { color: colourOf('--line') } },
      },
      tooltip: { show: false },
      series: [
        {
          type: 'line',
          symbol: 'none',
          silent: true,
          lineStyle: { color: colourOf('--ink'), width: 2 },
          data: drawn.map((horizon) => [...placeOf(horizon)]),
        },
        {
          type: 'scatter',
          labelLayout: { hideOverlap: true },
          symbol: 'circle',
          symbolSize: 9,
          z: 3,
          itemStyle: { color: colourOf('--sheet'), borderColor: colourOf('--ink'), borderWidth: 2 },
          data: dots.map((horizon) => ({
            value: [...placeOf(horizon)],
            name: named.has(horizon) ? horizon.clearBy.slice(0, 4) : '',
          })),
          label: {
            show: true,
            position: 'bottom',
            formatter: '{b}',
            color: ink,
            fontSize: 11,
            padding: [0, 5],
          },
        },
        mark(crossing, 'crossing', 'diamond', '--ink', 13),
        mark(hurdle, 'cheapest at what cash is worth', 'diamond', '--principal', 13),
        mark(chosen, 'chosen', 'circle', '--flag', 16),
        {
          type: 'line',
          silent: true,
          symbol: 'none',
          lineStyle: { color: colourOf('--flag'), type: 'dashed', width: 1 },
          data: chosen ? [[0, chosen[1]], [...chosen], [chosen[0], bottom]] : [],
        },
      ],
    };
  };
}

/** The horizon nearest a place of the picture, measured by what is drawn of each side. */
export function nearestHorizon(
  months: readonly PublishedHorizon[],
  [x, y]: readonly [number, number],
  top: number,
): PublishedHorizon | undefined {
  const places = months.filter((horizon) => placeOf(horizon)[1] <= top * 1.3);
  const interests = places.map((horizon) => placeOf(horizon)[0]);
  const width = Math.max(...interests) - Math.min(...interests) || 1;
  const distance = (horizon: PublishedHorizon): number => {
    const [interest, cash] = placeOf(horizon);
    return ((interest - x) / width) ** 2 + ((cash - y) / (top || 1)) ** 2;
  };
  return places.toSorted((one, other) => distance(one) - distance(other))[0];
}

/** The horizons that ask for more than is drawn, in words. */
export function offPicture(years: readonly PublishedHorizon[], top: number): string {
  return years
    .filter((horizon) => placeOf(horizon)[1] > top)
    .map(
      ({ clearBy, monthlyCash }) => `${showDay(clearBy)} at ${showNumber(Math.round(Number(monthlyCash)))}`,
    )
    .join(', ');
}
