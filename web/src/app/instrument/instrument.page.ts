import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { MatTabsModule } from '@angular/material/tabs';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { proofsOf } from '@coffer/core';
import { downloads, recordsPayments } from '@coffer/contract';
import { CompanyChoice } from '../session/company-choice';
import { loaded } from '../api/loaded';
import { AsOfService } from '../company/as-of.service';
import { AmountPipe, DayPipe } from '../figures/amount.pipe';
import { isOwnTab, type OwnTab } from '../kinds/view-kind';
import { viewKindOf } from '../kinds/view-kinds';
import { SessionService } from '../session/session.service';
import { EntriesTab } from './entries/entries-tab';
import { HistoryTab } from './versions/history-tab';
import { InstrumentsService, type OpenInstrument } from './instruments.service';
import { MethodsTab } from './methods-tab';
import { PapersTab } from './papers/papers-tab';
import { PositionTab } from './position/position-tab';
import { RecordPaymentDialog } from '../payments/record-payment.dialog';
import { ScheduleTab } from './schedule/schedule-tab';
import { TermsTab } from './versions/terms-tab';
import { FundTab } from '../fund/fund-tab';
import { RedeemTab } from '../try/redemption/redeem-tab';
import { TryTab } from '../try/try-tab';

/** One instrument: its schedule, terms and events, entries, position and history. */
@Component({
  selector: 'coffer-instrument',
  imports: [
    AmountPipe,
    DayPipe,
    EntriesTab,
    FundTab,
    HistoryTab,
    MatButtonModule,
    MatMenuModule,
    MatTabsModule,
    MethodsTab,
    PapersTab,
    PositionTab,
    RedeemTab,
    RouterLink,
    ScheduleTab,
    TermsTab,
    TryTab,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './instrument.page.html',
  styleUrl: './instrument.page.scss',
})
export class InstrumentPage {
  private readonly choice = inject(CompanyChoice);
  readonly id = input.required<string>();
  readonly tab = input.required<string>();
  readonly row = input<string>();
  readonly column = input<string>();
  private readonly instruments = inject(InstrumentsService);
  private readonly dialog = inject(MatDialog);
  private readonly title = inject(Title);
  private readonly router = inject(Router);
  protected readonly session = inject(SessionService);
  protected readonly asOf = inject(AsOfService);
  private readonly loaded = loaded(
    computed(() => this.id()),
    (id) => this.instruments.open(id),
  );
  protected readonly opened = computed(() => (this.loaded.behind() ? undefined : this.loaded.value()));
  protected readonly failed = computed(() => (this.loaded.behind() ? '' : this.loaded.failed()));
  protected readonly said = signal('');
  /** What was done to the instrument: said when its figures follow. */
  private done = '';
  protected readonly tabs = [
    ['schedule', 'Schedule'],
    ['terms', 'Terms & events'],
    ['entries', 'Entries'],
    ['position', 'Position'],
    ['papers', 'Papers'],
    ['history', 'History'],
    ['try', 'Try a change'],
    ['redeem', 'Try a redemption'],
    ['methods', 'Both methods'],
    ['fund', 'Fund'],
  ] as const;
  /** Lender and agreement; where there is little room the end is cut off. */
  protected readonly whose = computed(() => {
    const { lender, agreement } = this.opened()?.read.document ?? {};
    return [lender, agreement && `agreement ${agreement}`].filter(Boolean).join(' · ');
  });
  protected readonly proofs = computed(() => {
    const opened = this.opened();
    return opened ? proofsOf(opened.read.schedule) : [];
  });
  protected readonly holding = computed(() => this.proofs().filter((proof) => proof.holds).length);

  constructor() {
    effect(() => {
      this.id();
      this.done = '';
      this.said.set('');
    });
    effect(() => {
      const opened = this.opened();
      // Done is done, also where its figures could not be had.
      this.failed();
      this.said.set(this.done);
      if (opened) this.title.setTitle(`${opened.read.document.name} · Coffer`);
    });
  }

  /** Changes are tried of loans, redemptions of bonds. */
  protected tabsOf({ read }: OpenInstrument): readonly (readonly [string, string])[] {
    const { tabs } = viewKindOf(read.document);
    return this.tabs.filter(([place]) => !isOwnTab(place) || tabs.includes(place));
  }

  /** Where the files of an instrument are fetched. */
  protected addresses({ id }: OpenInstrument): Record<'csv' | 'workbook' | 'paper' | 'document', string> {
    return {
      csv: this.choice.file(downloads.scheduleCsv, { id }, {}),
      workbook: this.choice.file(downloads.scheduleWorkbook, { id }, {}),
      paper: this.choice.file(downloads.workingPaper, { id }, { on: this.asOf.date() }),
      document: this.choice.file(downloads.instrumentDocument, { id }, {}),
    };
  }

  /** Whether an instrument has a view that only some have. */
  protected has({ read }: OpenInstrument, tab: OwnTab): boolean {
    return viewKindOf(read.document).tabs.includes(tab);
  }

  /** Whether payments of an instrument are recorded one by one. */
  protected records({ read }: OpenInstrument): boolean {
    return recordsPayments(read.document);
  }

  /** Terms were changed: the schedule they make is shown, with what was done. */
  protected changed(said: string): void {
    this.retry(said);
    void this.router.navigate(['/instruments', this.id(), 'schedule']);
  }

  protected retry(done = ''): void {
    this.done = done;
    this.loaded.again();
  }

  protected recordPayment(opened: OpenInstrument): void {
    this.dialog
      .open<RecordPaymentDialog, OpenInstrument, string>(RecordPaymentDialog, {
        data: opened,
        width: '420px',
      })
      .afterClosed()
      .subscribe((said) => {
        if (said !== undefined) this.retry(said);
      });
  }
}
