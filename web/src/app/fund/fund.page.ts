import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import {
  addMonths,
  entries,
  explainFundFigure,
  explainNetDebt,
  fundPosition,
  fundProofs,
  monthEnd,
  parseDay,
  type Explanation,
  type FigureLink,
  type FundFigure,
  type FundRow,
} from '@coffer/core';
import { downloads, endpoints, showDay, showMonth, showText } from '@coffer/contract';
import { MomentPipe } from '../figures/moment.pipe';
import { CompanyChoice } from '../session/company-choice';
import { of } from 'rxjs';
import { ApiClient } from '../api/api-client';
import { loaded } from '../api/loaded';
import { Chart } from '../charts/chart';
import { AsOfService } from '../company/as-of.service';
import { ExplainPanel } from '../explain/explain-panel';
import { AmountPipe, DayPipe } from '../figures/amount.pipe';
import { FigureGrid } from '../figures/figure-grid';
import type { GridChoice, GridRow } from '../figures/grid-model';
import { InstrumentsService } from '../instrument/instruments.service';
import { ReasonDialog, type Reasoned } from '../instrument/versions/reason.dialog';
import { EntryList } from '../journal/entry-list';
import { entryViews } from '../journal/entry-views';
import { SessionService } from '../session/session.service';
import { curvesChart } from '../try/curves-chart';
import { fundColumns, fundCurves, fundNotices, fundTotals } from './fund-figures';
import { FundsService, type OpenFund } from './funds.service';
import { RecordDepositDialog } from './record-deposit.dialog';

/** A fund in the books: what it holds beside what it repays, its schedule, entries and history. */
@Component({
  selector: 'coffer-fund',
  imports: [
    AmountPipe,
    Chart,
    MomentPipe,
    DayPipe,
    EntryList,
    ExplainPanel,
    FigureGrid,
    MatButtonModule,
    MatButtonToggleModule,
    MatMenuModule,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './fund.page.html',
  styleUrl: './fund.page.scss',
})
export class FundPage {
  protected readonly showText = showText;
  private readonly choice = inject(CompanyChoice);
  readonly id = input.required<string>();
  private readonly api = inject(ApiClient);
  private readonly funds = inject(FundsService);
  private readonly instruments = inject(InstrumentsService);
  private readonly dialog = inject(MatDialog);
  private readonly title = inject(Title);
  private readonly router = inject(Router);
  protected readonly asOf = inject(AsOfService);
  protected readonly session = inject(SessionService);
  protected readonly showDay = showDay;
  protected readonly said = signal('');
  protected readonly view = signal<'schedule' | 'entries' | 'history'>('schedule');
  protected readonly explained = signal<
    { readonly figure: Explanation; readonly row: string; readonly column: string } | undefined
  >(undefined);
  private readonly loaded = loaded(
    computed(() => this.id()),
    (id) => this.funds.open(id),
  );
  protected readonly failed = this.loaded.failed;
  protected readonly fund = computed(() => (this.loaded.behind() ? undefined : this.loaded.value()));
  /** The register's line of it on the as-of date: as reported where that ends a closed month. */
  private readonly standing = loaded(
    computed(() => ({ id: this.id(), on: this.asOf.date(), version: this.fund()?.version })),
    ({ on }) => this.api.call(endpoints.register, { query: { on } }),
  );
  protected readonly row = computed(() => this.standing.value()?.funds.find(({ id }) => id === this.id()));
  protected readonly reported = computed(() => this.standing.value()?.reported ?? false);
  private readonly debt = loaded(
    computed(() => this.row()?.repaysId ?? undefined),
    (id) => (id === undefined ? of(undefined) : this.instruments.open(id)),
  );
  private readonly on = computed(() => parseDay(this.asOf.date()) ?? 0);
  protected readonly month = computed(() => showMonth(this.asOf.date()));
  protected readonly figures = computed(() => {
    const fund = this.fund();
    return this.row()?.figures ?? (fund && fundPosition(fund.schedule, this.on()));
  });
  protected readonly proofs = computed(() => {
    const fund = this.fund();
    const proofs = fund ? fundProofs(fund.schedule) : [];
    return { of: proofs.length, failing: proofs.filter(({ holds }) => !holds) };
  });
  /** Everything above the list is there, so that nothing moves any more under who presses. */
  private readonly settled = computed(() => {
    const has = ({ value, failed }: { value: () => unknown; failed: () => string }): boolean =>
      value() !== undefined || failed() !== '';
    return has(this.standing) && (typeof this.row()?.repaysId !== 'string' || has(this.debt));
  });
  protected readonly shown = computed(() => {
    const fund = this.fund();
    const debt = this.debt.value()?.read.schedule;
    if (!fund || !this.settled()) return undefined;
    const { schedule } = fund;
    const on = this.on();
    const from = addMonths(monthEnd(on), -1, true) + 1;
    return {
      columns: fundColumns(schedule, debt),
      rows: schedule.rows.map((item): GridRow<FundRow> => ({ type: 'item', id: String(item.n), item })),
      total: fundTotals(schedule),
      entries: entryViews(entries(schedule, from, monthEnd(on), 'month'), fund.accounts),
      notices: debt ? fundNotices(schedule, debt) : [],
      chart: debt && curvesChart(fundCurves(schedule, debt), on, schedule.terms.digits),
    };
  });
  protected readonly document = computed(() =>
    this.choice.file(downloads.instrumentDocument, { id: this.id() }, {}),
  );

  constructor() {
    effect(() => {
      const fund = this.fund();
      if (fund) this.title.setTitle(`${fund.document.name} · Coffer`);
    });
  }

  protected explain({ row, column }: GridChoice<FundRow>): void {
    if (row.type === 'item' && column.explains) this.show(row.item.n - 1, column.key as FundFigure | 'net');
  }

  private show(index: number, column: FundFigure | 'net'): void {
    const schedule = this.fund()?.schedule;
    const debt = this.debt.value()?.read.schedule;
    if (!schedule) return;
    const figure =
      column === 'net'
        ? debt && explainNetDebt(schedule, debt, index)
        : explainFundFigure(schedule, index, column);
    if (figure) this.explained.set({ figure, row: String(index + 1), column });
  }

  protected follow(link: FigureLink): void {
    if (link.to === 'row') this.show(link.row, link.column as FundFigure);
  }

  protected recordDeposit(fund: OpenFund): void {
    this.dialog
      .open<RecordDepositDialog, OpenFund, string>(RecordDepositDialog, { data: fund, width: '440px' })
      .afterClosed()
      .subscribe((said) => {
        if (said === undefined) return;
        this.said.set(said);
        this.loaded.again();
      });
  }

  protected withdraw({ id, version, document }: OpenFund): void {
    const data: Reasoned = {
      title: `Withdraw ${document.name}`,
      what: [
        'It leaves the register, and the open month takes back what the books hold of it. Closed months stay as they are.',
      ],
      does: 'Withdraw it',
      act: (reason) => this.instruments.withdraw(id, version, reason),
    };
    this.dialog
      .open<ReasonDialog, Reasoned, true>(ReasonDialog, { data, width: '480px' })
      .afterClosed()
      .subscribe((done) => {
        if (done === true) void this.router.navigateByUrl('/');
      });
  }
}
