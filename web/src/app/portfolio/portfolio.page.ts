import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { Router } from '@angular/router';
import { map, of } from 'rxjs';
import {
  addMonths,
  formatDay,
  parseDay,
  portfolioSteps,
  type PortfolioMeasure,
  type PortfolioStep,
} from '@coffer/core';
import {
  endpoints,
  showAmount,
  showDay,
  type TriedRow,
  type TriedRows,
  showDecimal,
  withTried,
} from '@coffer/contract';
import { ApiClient } from '../api/api-client';
import { loaded } from '../api/loaded';
import { messageOf } from '../api/message-of';
import { Chart } from '../charts/chart';
import { AsOfService } from '../company/as-of.service';
import { CompanyService } from '../company/company.service';
import { ChoiceField } from '../fields/choice-field';
import { FigureGrid } from '../figures/figure-grid';
import type { GridAct, GridChoice, GridPlace, GridTyped } from '../figures/grid-model';
import { UnworkableNotice } from '../figures/unworkable-notice';
import { outcomeWords } from '../scenarios/differences';
import { ScenarioDesk, sentOf } from '../scenarios/scenario-desk';
import { ScenarioStrip } from '../scenarios/scenario-strip';
import { wordsOf } from '../scenarios/scenario-words';
import { readNumber } from '../typed/typed-number';
import { PaymentDrafts } from './payment-drafts';
import { PortfolioTakeOut, type LookedUnder } from './portfolio-take-out';
import { differenceCells } from './portfolio-tried';
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
  type PortfolioLine,
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
    PortfolioTakeOut,
    ScenarioStrip,
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
  protected readonly desk = inject(ScenarioDesk);
  private readonly drafts = inject(PaymentDrafts);
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

  protected readonly query = computed(() => {
    const span = this.span();
    return span && { ...span, by: this.step(), show: this.show() };
  });
  protected readonly loaded = loaded(this.query, (query) =>
    this.api.call(endpoints.portfolio, { query }).pipe(map((view) => ({ ...view, asked: query }))),
  );
  protected readonly asItIs = this.loaded.value;
  /** The step of the periods that are there, which another that is chosen takes the place of once its figures came. */
  private readonly shownStep = computed(() => this.asItIs()?.asked.by ?? this.step());
  private readonly triedQuery = computed(() => {
    const [asked, changes] = [this.query(), this.desk.chosen()?.changes ?? []];
    return asked && { asked, on: this.asOf.date(), changes: sentOf(changes) };
  });
  /** The scenario that is taken out, where one is chosen that changes something. */
  protected readonly takenOut = computed((): LookedUnder | undefined => {
    const [asked, chosen] = [this.triedQuery(), this.desk.chosen()];
    return asked && chosen && asked.changes.length > 0 ? { name: chosen.name, ...asked } : undefined;
  });
  protected readonly tried = loaded(this.triedQuery, (body) =>
    body.changes.length === 0
      ? of({ rows: [], faulty: [], asked: body.asked })
      : this.api.call(endpoints.tryPortfolio, { body }).pipe(map((made) => ({ ...made, asked: body.asked }))),
  );
  private readonly triedRows = computed((): TriedRows => {
    const made = this.tried.value();
    const isOf = JSON.stringify(made?.asked) === JSON.stringify(this.asItIs()?.asked);
    return new Map((isOf ? (made?.rows ?? []) : []).map((row) => [row.id, row]));
  });
  /** The portfolio under the chosen scenario. */
  protected readonly view = computed(() => {
    const view = this.asItIs();
    return view && withTried(view, this.triedRows());
  });
  /** Why something was not done, or a change cannot be; what was done last. */
  protected readonly fault = signal('');
  protected readonly done = signal('');
  protected readonly faulty = computed(() =>
    (this.tried.value()?.faulty ?? []).map(({ instrumentId, name, faults }) => {
      const named = name || this.nameOf(instrumentId);
      return `${named}: ${faults.map(({ message }) => message).join(' ')}`;
    }),
  );
  protected readonly title = computed(() => measures[this.asItIs()?.asked.show ?? this.show()]);
  protected readonly spanText = computed(() => {
    const span = this.asItIs()?.asked ?? this.span();
    return span ? `${showDay(span.from)} – ${showDay(span.to)}` : '';
  });
  protected readonly grouped = computed(() => {
    const view = this.view();
    return view ? portfolioGroups(view, this.groupedBy(), this.company.company()?.classNames) : [];
  });
  protected readonly folded = computed(() => {
    const many = (this.view()?.rows.length ?? 0) > mostUnfolded;
    const chosen = this.chosenFolds();
    return new Set(this.grouped().flatMap(({ name }) => ((chosen.get(name) ?? many) ? [name] : [])));
  });
  private readonly sums = computed(() => sumsOf(this.view()?.rows ?? [], this.view()?.periods.length ?? 0));
  protected readonly columns = computed(() => {
    const view = this.view();
    const typable = (line: PortfolioLine, at: number): boolean =>
      line.as !== 'before' && this.dueIn(line, at) !== undefined;
    return view ? portfolioColumns(view, this.shownStep(), this.company.digits(), typable) : [];
  });
  protected readonly rows = computed(() => {
    const view = this.view();
    const before = this.asItIs();
    const changes = before && { tried: this.triedRows(), before, note: this.noteOf };
    return view ? portfolioRows(this.grouped(), view, this.folded(), this.company.digits(), changes) : [];
  });
  private readonly sumsBefore = computed(() =>
    sumsOf(this.asItIs()?.rows ?? [], this.asItIs()?.periods.length ?? 0),
  );
  protected readonly difference = computed(() => {
    const view = this.view();
    if (!view || this.triedRows().size === 0) return undefined;
    return differenceCells(this.sums(), this.sumsBefore(), view, this.company.digits());
  });
  private readonly noteOf = (row: TriedRow): string => {
    const change = this.desk.chosen()?.changes.find(({ instrumentId }) => instrumentId === row.id);
    const words = change ? wordsOf(change) : '';
    return [words, outcomeWords(row.asItIs, row.changed, this.company.digits())].join(' · ');
  };
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
    (this.view()?.periods ?? []).map(({ to }) => periodName(to, this.shownStep())),
  );
  protected readonly chart = computed(() =>
    portfolioChart(this.grouped(), this.names(), this.company.digits(), {
      before: this.triedRows().size > 0 ? this.sumsBefore() : undefined,
      asOf: this.asOfAt(),
    }),
  );
  private readonly asOfAt = computed(() => {
    const on = this.asOf.date();
    const at = this.view()?.periods.findIndex(({ from, to }) => from <= on && on <= to) ?? -1;
    return at < 0 ? undefined : at;
  });
  /** The period that is pointed at, in table or chart: marked in both. */
  protected readonly looked = signal<string | undefined>(undefined);
  protected readonly lookedAt = computed(() => {
    const at = this.view()?.periods.findIndex(({ to }) => to === this.looked()) ?? -1;
    return at < 0 ? undefined : at;
  });
  protected readonly words = computed(() => {
    const total = this.total();
    const told = (this.view()?.periods ?? []).map(({ to }, at) => `${this.names()[at]} ${total?.[to]}`);
    return `${this.title()} of all instruments: ${told.join('; ')}`;
  });

  constructor() {
    this.desk.load().subscribe({ error: (error: unknown) => this.fault.set(messageOf(error)) });
  }

  protected look(at: number | undefined): void {
    this.looked.set(at === undefined ? undefined : this.view()?.periods[at]?.to);
  }

  protected move(by: number): void {
    this.moved.update((moved) => moved + by);
  }

  protected chooseStep(step: PortfolioStep): void {
    this.step.set(step);
    this.moved.set(0);
  }

  protected onChoose(choice: GridChoice<PortfolioLine>): void {
    const { row, column } = choice;
    // Where payments are typed over, a figure leads nowhere else.
    if (row.type === 'item' && this.show() === 'payment' && column.key !== 'name') this.onUntypable(choice);
    else if (row.type === 'item') this.open(row.item.row.id);
    else if (row.type === 'group')
      this.chosenFolds.update((folds) => new Map(folds).set(row.id, !this.folded().has(row.id)));
  }

  private open(id: string): void {
    void this.router.navigate(['/instruments', id]);
  }

  private nameOf(id: string): string {
    return this.desk.chosen()?.changes.find(({ instrumentId }) => instrumentId === id)?.name ?? '';
  }

  protected onAct({ row, key }: GridAct<PortfolioLine>): void {
    const id = row.id.replace(/:(note|before)$/, '');
    if (key === 'open') this.open(id);
    const chosen = this.desk.chosen();
    if (key === 'erase' && chosen) this.desk.changeInstrument(chosen.key, id, undefined);
  }

  /** The due date of the payment of a cell, where it can be another one: agreed, alone in its period, not closed. */
  private dueIn({ row }: PortfolioLine, at: number): string | undefined {
    const due = row.dues?.[at] ?? undefined;
    const open = this.company.openEnd();
    return due !== undefined && (open === undefined || due > this.closedThrough(open)) ? due : undefined;
  }

  /** The last day of the last closed month, by the end of the open one. */
  private closedThrough(openEnd: string): string {
    return formatDay(addMonths(parseDay(openEnd) ?? 0, -1, true));
  }

  protected onUntypable({ row, column }: GridPlace<PortfolioLine>): void {
    this.done.set('');
    if (row.type !== 'item') return;
    const { name } = row.item.row;
    const period = periodName(column.key, this.shownStep());
    const why =
      this.show() !== 'payment'
        ? 'Payments are typed over where payments are shown: choose Payments above.'
        : row.item.as === 'before'
          ? 'This is how it is; type into the line above it.'
          : 'There is no payment that could be another one: none is agreed, several are, or its month is closed.';
    this.fault.set(`${name}, ${period}: ${why}`);
  }

  /** A payment was typed over: the change is tried by itself first, and made where it can be. */
  protected onTyped({ row, column, text }: GridTyped<PortfolioLine>): void {
    this.fault.set('');
    this.done.set('');
    const at = this.view()?.periods.findIndex(({ to }) => to === column.key) ?? -1;
    const asked = this.query();
    if (row.type !== 'item' || at < 0 || !asked) return;
    const { row: instrument } = row.item;
    const due = this.dueIn(row.item, at);
    const digits = this.company.digits();
    if (due === undefined || text === showAmount(instrument.values[at] ?? 0, digits)) return;
    const where = `${instrument.name}, ${periodName(column.key, this.shownStep())}`;
    const payment = readNumber(text);
    if (payment === undefined) {
      this.fault.set(
        `${where}: “${text}” is not understood; type an amount such as ${showDecimal('45000.00')} or 45k.`,
      );
      return;
    }
    const typed = { instrumentId: instrument.id, name: instrument.name, due, payment };
    this.drafts.make(typed, asked, this.asOf.date()).subscribe({
      next: (why) => this.fault.set(why === '' ? '' : `${where}: ${why} Nothing was changed.`),
      error: (error: unknown) => this.fault.set(messageOf(error)),
    });
  }

  protected onAdopted(said: string): void {
    this.done.set(said);
    this.loaded.again();
  }

  /** Letters choose a scenario, brackets turn by twelve periods, wherever the cursor is but in a field. */
  protected onKey(event: KeyboardEvent): void {
    const inField =
      event.target instanceof HTMLElement && event.target.matches('input, textarea, mat-select');
    // What went to a place by its letters changes nothing here.
    if (inField || event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === '[') this.move(-shownPeriods);
    else if (event.key === ']') this.move(shownPeriods);
    else if (event.key === 's') void this.router.navigateByUrl('/portfolio/side-by-side');
    else if (event.key === 'o') this.desk.chosenKey.set(undefined);
    else if (/^[A-Z]$/.test(event.key)) {
      const scenario = this.desk.scenarios().find(({ letter }) => letter === event.key);
      if (scenario) this.desk.chosenKey.set(scenario.key);
    }
  }
}

function monthOf(day: number): number {
  return Number(formatDay(day).slice(5, 7));
}
