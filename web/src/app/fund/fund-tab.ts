import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { map } from 'rxjs';
import {
  addMonths,
  explainFundFigure,
  explainNetDebt,
  entries,
  fundProofs,
  monthEnd,
  netDebt,
  parseDay,
  type Explanation,
  type FigureLink,
  type FundFigure,
  type FundRow,
} from '@coffer/core';
import { endpoints, type FundDocument, showAmount, showMonth, showText } from '@coffer/contract';
import { Router, RouterLink } from '@angular/router';
import { ApiClient, ApiRefusal } from '../api/api-client';
import { loaded } from '../api/loaded';
import { messageOf } from '../api/message-of';
import { saveFile } from '../api/save-file';
import { SessionService } from '../session/session.service';
import { MatDialog } from '@angular/material/dialog';
import { present } from '../fields/field-reader';
import { ReasonDialog, type Reasoned } from '../instrument/versions/reason.dialog';
import { FundsService, type OpenFund } from './funds.service';
import { Chart } from '../charts/chart';
import { AsOfService } from '../company/as-of.service';
import { ExplainPanel } from '../explain/explain-panel';
import { AmountPipe, DayPipe } from '../figures/amount.pipe';
import { FigureGrid } from '../figures/figure-grid';
import type { GridChoice, GridRow } from '../figures/grid-model';
import type { OpenInstrument } from '../instrument/instruments.service';
import { EntryList } from '../journal/entry-list';
import { entryViews } from '../journal/entry-views';
import { KeptInBrowser } from '../session/kept-in-browser';
import { ChoiceField } from '../fields/choice-field';
import { amountHint, dayHint, rateHint } from '../fields/hints';
import { ListedField } from '../fields/listed-field';
import { TypedField } from '../fields/typed-field';
import { compoundingChoices, dayCountChoices, frequencyChoices } from '../terms/form/choices';
import { curvesChart } from '../try/curves-chart';
import { fundColumns, fundCurves, fundLines, fundNotices, fundTotals } from './fund-figures';
import {
  fundForm,
  readTypedFund,
  suggestedFund,
  typedFundOf,
  type FundReading,
  type TypedFund,
  fundRoundingChoices,
} from './typed-fund';

const depositChoices = [
  ['level', 'the same each time'],
  ['listed', 'listed'],
] as const;

const fundCompounding = compoundingChoices.map(
  ([value, name]) => [value, value === 'each-payment' ? 'with each deposit' : name] as const,
);

/** A fund whose deposits repay the instrument: what must be paid in, what it earns, and the net debt on the way. */
@Component({
  selector: 'coffer-fund-tab',
  imports: [
    Chart,
    AmountPipe,
    ChoiceField,
    DayPipe,
    EntryList,
    ExplainPanel,
    FigureGrid,
    ListedField,
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    ReactiveFormsModule,
    RouterLink,
    TypedField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './fund-tab.html',
  styleUrls: ['../try/trying.scss', './fund-tab.scss'],
})
export class FundTab {
  readonly instrument = input.required<OpenInstrument>();
  private readonly asOf = inject(AsOfService);
  private readonly browser = inject(KeptInBrowser);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly api = inject(ApiClient);
  private readonly funds = inject(FundsService);
  private readonly router = inject(Router);
  protected readonly session = inject(SessionService);
  protected readonly busy = signal(false);
  protected readonly refused = signal('');
  private readonly dialog = inject(MatDialog);
  /** The fund of the books that is worked on; none while another one is made up. */
  protected readonly editing = signal<OpenFund | undefined>(undefined);
  private readonly standing = loaded(this.asOf.date, (on) =>
    this.api.call(endpoints.register, { query: { on } }),
  );
  /** Funds in the books that repay this instrument. */
  protected readonly inBooks = computed(() =>
    (this.standing.value()?.funds ?? []).filter(({ repaysId }) => repaysId === this.instrument().id),
  );
  protected readonly group = fundForm();
  protected readonly form = this.group.controls;
  protected readonly choices = {
    compoundingChoices: fundCompounding,
    dayCountChoices,
    depositChoices,
    frequencyChoices,
    fundRoundingChoices,
  };
  protected readonly amountHint = amountHint;
  protected readonly dayHint = dayHint;
  protected readonly rateHint = rateHint;
  protected readonly typed = toSignal(this.group.valueChanges.pipe(map(() => this.group.getRawValue())), {
    initialValue: this.group.getRawValue(),
  });
  protected readonly debt = computed(() => this.instrument().read.schedule);
  private readonly reading = computed(() => readTypedFund(this.typed(), this.instrument().read.document));
  /** What typing last made that could be worked out stays in view. */
  protected readonly made = signal<Extract<FundReading, { ok: true }> | undefined>(undefined);
  protected readonly stale = computed(() => !this.reading().ok);
  protected readonly explained = signal<{ figure: Explanation; row: string; column: string } | undefined>(
    undefined,
  );

  protected readonly on = computed(() => parseDay(this.asOf.date()) ?? 0);
  protected readonly month = computed(() => showMonth(this.asOf.date()));
  protected readonly view = signal<'schedule' | 'entries'>('schedule');

  protected readonly shown = computed(() => {
    const fund = this.made()?.schedule;
    if (!fund) return undefined;
    const [debt, on] = [this.debt(), this.on()];
    const proofs = fundProofs(fund);
    return {
      lines: fundLines(fund, debt),
      notices: fundNotices(fund, debt),
      columns: fundColumns(fund, debt),
      total: fundTotals(fund),
      at: netDebt(fund, debt, on),
      entries: entryViews(
        entries(fund, addMonths(monthEnd(on), -1, true) + 1, on, 'month'),
        this.instrument().accounts,
      ),
      rows: fund.rows.map((item): GridRow<FundRow> => ({ type: 'item', id: String(item.n), item })),
      proofs: proofs.length,
      failing: proofs.filter(({ holds }) => !holds),
    };
  });

  protected readonly option = computed(() => {
    const fund = this.made()?.schedule;
    const curves = fund ? fundCurves(fund, this.debt()) : [];
    return curvesChart(curves, this.on(), this.debt().terms.digits);
  });

  constructor() {
    effect(() => {
      const { id } = this.instrument();
      untracked(() => this.begin(id));
    });
    effect(() => {
      const reading = this.reading();
      if (!reading.ok) return;
      this.made.set(reading);
      this.explained.set(undefined);
    });
    effect(() => {
      const typed = this.typed();
      if (this.group.dirty) this.browser.keep('fund', untracked(this.instrument).id, typed);
    });
  }

  /** What was kept, else a fund that ends with the debt. */
  private begin(id: string): void {
    const empty = fundForm().getRawValue();
    const suggested = { ...empty, ...suggestedFund(this.debt(), untracked(this.on)) };
    const kept = this.browser.restore('fund', id, (value) => ({ ...empty, ...(value as TypedFund) }));
    this.made.set(undefined);
    this.group.reset(kept ?? suggested);
  }

  protected startAgain(): void {
    const { id } = this.instrument();
    this.editing.set(undefined);
    this.browser.forget('fund', id);
    this.begin(id);
  }

  protected readonly fault = (key: string): string => {
    const reading = this.reading();
    const found = reading.ok ? undefined : reading.faults.find((fault) => fault.key === key);
    return found ? showText(found.message) : '';
  };

  /** What is still needed before anything can be worked out. */
  protected readonly needed = computed(() => {
    const reading = this.reading();
    return reading.ok ? '' : reading.missing.map((key) => fieldNames[key] ?? key).join(', ');
  });

  /** What a field left open comes to. */
  protected worked(unknown: 'deposit' | 'count' | 'goal'): string {
    const fund = this.made()?.schedule;
    if (!fund || this.stale() || fund.solved?.unknown !== unknown) return '';
    const { digits } = fund.terms;
    if (unknown === 'count') return `worked out: ${fund.rows.length}`;
    const amount = unknown === 'deposit' ? (fund.deposit ?? 0) : (fund.rows.at(-1)?.closing ?? 0);
    return `worked out: ${showAmount(amount, digits)}`;
  }

  protected explain({ row, column }: GridChoice<FundRow>): void {
    if (row.type === 'item' && column.explains) this.show(row.item.n - 1, column.key as FundFigure | 'net');
  }

  private show(index: number, column: FundFigure | 'net'): void {
    const fund = this.made()?.schedule;
    if (!fund) return;
    const figure =
      column === 'net' ? explainNetDebt(fund, this.debt(), index) : explainFundFigure(fund, index, column);
    this.tell(figure, { row: String(index + 1), column });
  }

  /** Shows how a figure is made, and marks it where it stands in the schedule. */
  protected tell(figure: Explanation, at = { row: '', column: '' }): void {
    this.explained.set({ figure, ...at });
    setTimeout(() =>
      this.host.nativeElement.querySelector('coffer-explain-panel')?.scrollIntoView({ block: 'nearest' }),
    );
  }

  /** An input of the figure explained: another figure of the fund, or the field it was typed into. */
  protected follow(link: FigureLink): void {
    if (link.to === 'row') this.show(link.row, link.column as FundFigure);
    else {
      const field = this.host.nativeElement.querySelector(`[data-key="${link.key}"]`);
      field?.querySelector<HTMLElement>('input, mat-select, textarea')?.focus();
    }
  }

  /** Fills the form with a fund of the books, whose terms are to be others. */
  protected workOn(id: string): void {
    this.funds.open(id).subscribe({
      next: (fund) => {
        this.editing.set(fund);
        this.group.reset({ ...fundForm().getRawValue(), ...typedFundOf(fund.document) });
      },
      error: (error: unknown) => this.refused.set(messageOf(error)),
    });
  }

  /** Makes what is typed the terms of the fund of the books, with the reason; what was recorded of it stays. */
  protected changeTerms(fund: OpenFund): void {
    const made = this.made();
    if (!made) return;
    const { name, lender, agreement, events } = fund.document;
    const kept = present({ name, lender, agreement, events });
    const document = { ...made.document, ...kept } as FundDocument;
    const data: Reasoned = {
      title: `Change the terms of ${name}`,
      what: ['Recorded deposits stay as they were made; what closed months reported stays, too.'],
      does: 'Change them',
      act: (reason) => this.funds.change(fund, document, reason),
    };
    this.dialog
      .open<ReasonDialog, Reasoned, true>(ReasonDialog, { data, width: '480px' })
      .afterClosed()
      .subscribe((done) => {
        if (done === true) void this.router.navigate(['/funds', fund.id]);
      });
  }

  /** Takes the fund into the books, and opens it there. */
  protected takeOn(): void {
    const made = this.made();
    if (!made) return;
    this.busy.set(true);
    this.refused.set('');
    this.funds.takeOn(made.document).subscribe({
      next: (id) => void this.router.navigate(['/funds', id]),
      error: (error: unknown) => {
        this.busy.set(false);
        const faults = error instanceof ApiRefusal ? (error.refusal.faults ?? []) : [];
        this.refused.set([messageOf(error), ...faults.map(({ message }) => message)].join(' '));
      },
    });
  }

  /** The fund as a document that the command line and others can read. */
  protected takeOut(): void {
    const made = this.made();
    if (!made) return;
    const text = `${JSON.stringify(made.document, null, 2)}\n`;
    saveFile('fund.json', new Blob([text], { type: 'application/json' }));
  }
}

const fieldNames: Readonly<Record<string, string>> = {
  'rate.annual': 'rate',
  first: 'first deposit',
  deposits: 'listed deposits',
  'opening.on': 'day of what is held',
  'opening.amount': 'amount held',
};
