import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { addMonths, calendarFields, parseDay, type CalendarDay } from '@coffer/core';
import { showAmount, showNumber } from '@coffer/contract';
import { CompanyService } from '../company/company.service';
import { Chart } from './chart';
import { colourOf } from './colours';
import type { EChartsCoreOption } from './echarts';

/** What falls due in each of the five years after a day, and later. */
@Component({
  selector: 'coffer-maturity-chart',
  imports: [Chart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<coffer-chart [words]="words()" [option]="option()" />',
  styles: `
    coffer-chart {
      height: 100%;
    }
  `,
})
export class MaturityChart {
  readonly on = input.required<string>();
  /** Minor units, by year. */
  readonly due = input.required<readonly number[]>();
  private readonly company = inject(CompanyService);

  private readonly years = computed(() =>
    this.due().map((_, year) => {
      if (year === this.due().length - 1) return 'later';
      const end = addMonths(parseDay(this.on()) as CalendarDay, 12 * (year + 1), true);
      const { year: ends } = calendarFields(end);
      return String(ends);
    }),
  );
  private readonly texts = computed(() =>
    this.due().map((amount) => showAmount(amount, this.company.digits())),
  );
  protected readonly words = computed(
    () =>
      `Principal due by year: ${this.years()
        .map((year, at) => `${year} ${this.texts()[at] ?? ''}`)
        .join('; ')}`,
  );

  protected readonly option = computed(() => (): EChartsCoreOption => {
    const ink = colourOf('--ink-2');
    const units = this.due().map((amount) => amount / 10 ** this.company.digits());
    // Room for five digits over a bar.
    const [per, sign] = Math.max(...units) >= 1e8 ? [1e6, 'm'] : [1000, 'k'];
    const shown = units.map((amount) => Math.round(amount / per));
    return {
      textStyle: { fontFamily: 'Public Sans Variable' },
      grid: { left: 4, right: 4, top: 18, bottom: 18 },
      xAxis: {
        type: 'category',
        data: this.years(),
        axisTick: { show: false },
        axisLine: { lineStyle: { color: colourOf('--line-2') } },
        axisLabel: { color: ink, fontSize: 11, interval: 0, margin: 5 },
      },
      yAxis: { type: 'value', show: false },
      tooltip: {
        trigger: 'item',
        formatter: ({ dataIndex }: { dataIndex: number }) =>
          `${this.years()[dataIndex] ?? ''}: ${this.texts()[dataIndex] ?? ''}`,
      },
      series: [
        {
          type: 'bar',
          data: shown.map((value, at) => ({
            value,
            itemStyle: { color: colourOf(at === 0 ? '--ink' : '--principal-pale') },
          })),
          barCategoryGap: '22%',
          label: {
            show: true,
            position: 'top',
            color: ink,
            fontSize: 11,
            formatter: ({ value }: { value: number }) => `${showNumber(value)}${sign}`,
          },
        },
      ],
    };
  });
}
