import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { AppearanceService } from '../shell/appearance.service';
import type { ECharts, EChartsCoreOption } from './echarts';

/** A chart. What it shows is also told in words, for those who do not see it. */
@Component({
  selector: 'coffer-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '',
  host: { role: 'img', '[attr.aria-label]': 'words()' },
  styles: `
    :host {
      display: block;
      min-height: 0;
      min-width: 0;
    }
  `,
})
export class Chart {
  readonly words = input.required<string>();
  /** Makes the options; called anew when the colours change. */
  readonly option = input.required<() => EChartsCoreOption>();
  /** Index of the bar to mark. */
  readonly marked = input<number | undefined>();
  /** The bar under the pointer. */
  readonly look = output<number | undefined>();
  readonly pick = output<number>();
  /** Where the pointer is pressed and moved to in the first grid, in its units; `done` as it is let go. */
  readonly dragged = output<{ readonly at: readonly [number, number]; readonly done: boolean }>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly appearance = inject(AppearanceService);
  private readonly chart = signal<ECharts | undefined>(undefined);
  private readonly systemDark = signal(false);

  constructor() {
    const destroyed = inject(DestroyRef);
    afterNextRender(() => void this.draw(destroyed));
    effect(() => {
      this.appearance.chosen();
      this.systemDark();
      const still = matchMedia('(prefers-reduced-motion: reduce)').matches;
      this.chart()?.setOption(
        { animation: !still, animationDuration: 180, ...this.option()() },
        { notMerge: true },
      );
    });
    effect(() => {
      const [chart, at] = [this.chart(), this.marked()];
      if (!chart) return;
      chart.dispatchAction({ type: 'downplay' });
      if (at !== undefined) chart.dispatchAction({ type: 'highlight', dataIndex: at });
    });
  }

  /** The drawing library comes only when a chart is first on screen. */
  private async draw(destroyed: DestroyRef): Promise<void> {
    const { init } = await import('./echarts');
    if (destroyed.destroyed) return;
    const chart = init(this.host.nativeElement);
    chart.on('mouseover', ({ dataIndex }) => this.look.emit(dataIndex));
    chart.on('mouseout', () => this.look.emit(undefined));
    chart.on('click', ({ dataIndex }) => this.pick.emit(dataIndex));
    this.followDrags(chart);
    const resized = new ResizeObserver(() => chart.resize());
    resized.observe(this.host.nativeElement);
    const dark = matchMedia('(prefers-color-scheme: dark)');
    const changed = (): void => this.systemDark.set(dark.matches);
    dark.addEventListener('change', changed);
    destroyed.onDestroy(() => {
      resized.disconnect();
      dark.removeEventListener('change', changed);
      chart.dispose();
    });
    this.chart.set(chart);
  }

  private followDrags(chart: ECharts): void {
    let dragging = false;
    const tell = (event: { offsetX: number; offsetY: number }, done: boolean): void => {
      const at = chart.convertFromPixel({ gridIndex: 0 }, [event.offsetX, event.offsetY]) as number[];
      if (at.length === 2) this.dragged.emit({ at: [at[0] as number, at[1] as number], done });
    };
    const pointer = chart.getZr();
    pointer.on('mousedown', (event) => {
      dragging = chart.containPixel({ gridIndex: 0 }, [event.offsetX, event.offsetY]);
      if (dragging) tell(event, false);
    });
    pointer.on('mousemove', (event) => {
      if (dragging) tell(event, false);
    });
    pointer.on('mouseup', (event) => {
      if (dragging) tell(event, true);
      dragging = false;
    });
  }
}
