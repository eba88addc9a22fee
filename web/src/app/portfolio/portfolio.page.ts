import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { Router } from '@angular/router';
import {
  addMonths,
  formatDay,
  parseDay,
  portfolioSteps,
  type PortfolioMeasure,
  type PortfolioStep,
} from '@coffer/core';
import { downloadAddress, downloads, endpoints, showDay, type PortfolioRow } from '@coffer/contract';
import { ApiClient } from '../api/api-client';
import { loaded } from '../api/loaded';
import { Chart } from '../charts/chart';
import { AsOfService } from '../company/as-of.service';
import { CompanyService } from '../company/company.service';
import { ChoiceField } from '../fields/choice-field';
import { FigureGrid } from '../figures/figure-grid';
import type { GridChoice } from '../figures/grid-model';
import { UnworkableNotice } from '../figures/unworkable-notice';
import { measureChoices, measures, stepNames } from './portfolio-measures';
import { portfolioChart, shadeOf } from './portfolio-chart';
import {
  groupingChoices,
  periodName,
  portfolioCells,
  portfolioColumns,
  portfolioGroups,
  portfolioRows,
  sumsOf,
  type Grouping,
} from './portfolio-rows';

/** Periods that are shown at once. */
const shownPeriods = 12;
/** Above this many instruments groups begin folded. */
const mostUnfolded = 30;

/** Every instrument over months, quarters or fiscal years, for one measure, with subtotals and the same as a chart. */
@Component({
  selector: 'coffer-portfolio',
  imports: [
    Chart,
    ChoiceField,
    FigureGrid,
    MatButtonModule,
    MatButtonToggleModule,
    MatMenuModule,
    UnworkableNotice,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './portfolio.page.html',
  styleUrl: './portfolio.page.scss',
  host: { '[class.behind]': 'loaded.behind()', '(document:keydown)': 'onKey($event)' },
})
export class PortfolioPage {
  private readonly api = inject(ApiClient);
  private readonly router = inject(Router);
  private readonly asOf = inject(AsOfService);
  private readonly company = inject(CompanyService);
  protected readonly measureChoices = measureChoices;
  protected readonly groupingChoices = groupingChoices;
  protected readonly steps = portfolioSteps.map((step) => ({ step, name: stepNames[step] }));
  protected readonly shadeOf = shadeOf;
  protected readonly shows = new FormControl<PortfolioMeasure>('payment', { nonNullable: true });
  protected readonly groups = new FormControl<Grouping>('class', { nonNullable: true });
  private readonly show = toSignal(this.shows.valueChanges, { initialValue: this.shows.value });
  private readonly groupedBy = toSignal(this.groups.valueChanges, { initialValue: this.groups.value });
  protected readonly step = signal<PortfolioStep>('month');
  /** By how many periods what is shown has been moved. */
  private readonly moved = signal(0);
  private readonly chosenFolds = signal<ReadonlyMap<string, boolean>>(new Map());

  /** From the period that ends on the as-of date's month on, as moved. */
  private readonly span = computed(() => {
    const end = parseDay(this.asOf.date());
    if (end === undefined) return undefined;
    const months = { month: 1, quarter: 3, year: 12 }[this.step()];
    const yearEnd = this.company.company()?.fiscalYearEndMonth ?? 12;
    let last = end;
    while ((monthOf(last) - yearEnd + 12) % months !== 0) last = addMonths(last, 1, true);
    last = addMonths(last, months * this.moved(), true);
    return {
      from: formatDay(addMonths(last, -months, true) + 1),
      to: formatDay(addMonths(last, months * (shownPeriods - 1), true)),
    };
  });

  private readonly query = computed(() => {
    const span = this.span();
    return span && { ...span, by: this.step(), show: this.show() };
  });
  protected readonly workbook = computed(() => this.file(downloads.portfolioWorkbook));
  protected readonly csv = computed(() => this.file(downloads.portfolioCsv));
  protected readonly loaded = loaded(this.query, (query) => this.api.call(endpoints.portfolio, { query }));
  protected readonly view = this.loaded.value;
  protected readonly title = computed(() => measures[this.show()]);
  protected readonly spanText = computed(() => {
    const span = this.span();
    return span ? `${showDay(span.from)} – ${showDay(span.to)}` : '';
  });
  protected readonly grouped = computed(() => {
    const view = this.view();
    return view ? portfolioGroups(view, this.groupedBy()) : [];
  });
  protected readonly folded = computed(() => {
    const many = (this.view()?.rows.length ?? 0) > mostUnfolded;
    const chosen = this.chosenFolds();
    return new Set(this.grouped().flatMap(({ name }) => ((chosen.get(name) ?? many) ? [name] : [])));
  });
  private readonly sums = computed(() => sumsOf(this.view()?.rows ?? [], this.view()?.periods.length ?? 0));
  protected readonly columns = computed(() => {
    const view = this.view();
    return view ? portfolioColumns(view, this.step(), this.company.digits()) : [];
  });
  protected readonly rows = computed(() => {
    const view = this.view();
    return view ? portfolioRows(this.grouped(), view, this.folded(), this.company.digits()) : [];
  });
  protected readonly total = computed(() => {
    const view = this.view();
    if (!view) return undefined;
    const without = view.unworkable.length;
    const name = without === 0 ? 'All instruments' : `All instruments, without ${without}`;
    return portfolioCells(name, this.sums(), view, this.company.digits());
  });
  /** How many cross-foot, of the instruments and all of them together. */
  protected readonly proofs = computed(() => {
    const rows = this.view()?.rows ?? [];
    const hold = rows.filter(({ off }) => off === 0).length;
    const all = rows.reduce((sum, { off }) => sum + off, 0) === 0 ? 1 : 0;
    return { hold: hold + all, of: rows.length + 1 };
  });
  private readonly names = computed(() =>
    (this.view()?.periods ?? []).map(({ to }) => periodName(to, this.step())),
  );
  protected readonly chart = computed(() =>
    portfolioChart(this.grouped(), this.names(), this.company.digits()),
  );
  protected readonly words = computed(() => {
    const total = this.total();
    const told = (this.view()?.periods ?? []).map(({ to }, at) => `${this.names()[at]} ${total?.[to]}`);
    return `${this.title()} of all instruments: ${told.join('; ')}`;
  });

  private file(of: typeof downloads.portfolioCsv | typeof downloads.portfolioWorkbook): string {
    const query = this.query();
    return query ? downloadAddress(of, {}, query) : '';
  }

  protected move(by: number): void {
    this.moved.update((moved) => moved + by);
  }

  protected chooseStep(step: PortfolioStep): void {
    this.step.set(step);
    this.moved.set(0);
  }

  protected onChoose({ row }: GridChoice<PortfolioRow>): void {
    if (row.type === 'item') void this.router.navigate(['/instruments', row.item.id]);
    else this.chosenFolds.update((folds) => new Map(folds).set(row.id, !this.folded().has(row.id)));
  }

  /** Brackets turn by twelve periods, wherever the cursor is but in a field. */
  protected onKey(event: KeyboardEvent): void {
    const inField =
      event.target instanceof HTMLElement && event.target.matches('input, textarea, mat-select');
    if (inField || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === '[') this.move(-shownPeriods);
    else if (event.key === ']') this.move(shownPeriods);
  }
}

function monthOf(day: number): number {
  return Number(formatDay(day).slice(5, 7));
}
