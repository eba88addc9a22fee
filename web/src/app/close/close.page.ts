import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { MatRadioModule } from '@angular/material/radio';
import { RouterLink } from '@angular/router';
import type { AccrualChoice } from '@coffer/core';
import {
  accountName,
  type CloseRow,
  type CloseView,
  showAmount,
  showMonth,
  showMovement,
} from '@coffer/contract';
import { loaded } from '../api/loaded';
import { messageOf } from '../api/message-of';
import { AsOfService } from '../company/as-of.service';
import { CompanyService } from '../company/company.service';
import { AmountPipe, DayPipe } from '../figures/amount.pipe';
import { FigureGrid } from '../figures/figure-grid';
import { UnworkableNotice } from '../figures/unworkable-notice';
import type { GridChoice } from '../figures/grid-model';
import { EntryList } from '../journal/entry-list';
import { JournalFiles } from '../journal/journal-files';
import { SessionService } from '../session/session.service';
import { toldCheck } from './close-checks';
import { attentionLines } from '../register/attention-lines';
import { closeColumns, closeRows, closeSums } from './close-rows';
import { CloseService } from './close.service';
import { EntrySums } from './entry-sums';
import { LockDialog } from './lock.dialog';

interface Step {
  readonly name: string;
  readonly state: 'done' | 'wrong' | 'waiting';
  readonly text: string;
}

/** What the chart of accounts lacks, or holds otherwise than the ledger; nothing where all is well. */
function accountSteps({ missingAccounts, untied }: CloseView): Step[] {
  const missing = missingAccounts.map((role) => accountName(role)).join(', ');
  const off = untied.map(({ code }) => code).join(', ');
  return [
    ...(missing === '' ? [] : [{ name: 'Accounts', state: 'wrong' as const, text: `none for ${missing}` }]),
    ...(off === '' ? [] : [{ name: 'Brought in', state: 'wrong' as const, text: `${off} does not tie` }]),
  ];
}

/** The period close: what the month makes of each instrument, its entries, and the lock. */
@Component({
  selector: 'coffer-close',
  imports: [
    UnworkableNotice,
    AmountPipe,
    DayPipe,
    EntryList,
    EntrySums,
    FigureGrid,
    JournalFiles,
    MatButtonModule,
    MatMenuModule,
    MatRadioModule,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './close.page.html',
  styleUrl: './close.page.scss',
  host: { '[class.behind]': 'loaded.behind()' },
})
export class ClosePage {
  private readonly closes = inject(CloseService);
  private readonly company = inject(CompanyService);
  private readonly dialog = inject(MatDialog);
  protected readonly session = inject(SessionService);
  protected readonly asOf = inject(AsOfService);
  protected readonly loaded = loaded(
    computed(() => this.asOf.date() || undefined),
    (endsOn) => this.closes.of(endsOn),
  );
  protected readonly view = this.loaded.value;
  private readonly refusal = signal('');
  protected readonly failed = computed(() => this.refusal() || this.loaded.failed() || this.ofRow.failed());
  protected readonly said = signal('');
  /** The row whose entries are asked for; it stays through everything that works the month out anew. */
  private readonly asked = signal<{ row: CloseRow; column: string } | undefined>(undefined);
  private readonly ofRow = loaded(
    computed(() => {
      const asked = this.asked();
      return asked && ([this.asOf.date(), asked.row.id] as const);
    }),
    ([endsOn, id]) => this.closes.entriesOf(endsOn, id),
  );
  protected readonly chosen = computed(() => {
    const [row, answer] = [this.asked()?.row, this.ofRow.value()];
    return row && answer && !this.ofRow.behind() ? { row, entries: answer.entries } : undefined;
  });
  /** What becomes of the accruals was chosen, and the month is worked out anew. */
  protected readonly choosing = signal(false);
  protected readonly month = computed(() => showMonth(this.asOf.date()));
  protected readonly columns = computed(() => closeColumns(this.company.digits()));
  protected readonly rows = computed(() => {
    const view = this.view();
    return view ? closeRows(view) : [];
  });
  private readonly sums = computed(() => {
    const view = this.view();
    return view ? closeSums(view) : undefined;
  });

  protected readonly foot = computed((): Record<string, string> => {
    const [sums, digits] = [this.sums(), this.company.digits()];
    if (!sums) return {};
    return {
      name: 'All instruments',
      accrued: showAmount(sums.payable, digits),
      expense: showMovement(sums.expense, digits),
      amortized: showMovement(sums.amortized, digits),
      carrying: showAmount(sums.carrying, digits),
      current: showAmount(sums.current, digits),
    };
  });

  protected readonly explained = computed(() => {
    const asked = this.asked();
    return asked && { row: asked.row.id, column: asked.column };
  });

  protected readonly attention = computed(() => attentionLines([], this.view()?.attention ?? []));
  protected readonly steps = computed((): Step[] => {
    const [view, digits] = [this.view(), this.company.digits()];
    if (!view) return [];
    const { payments } = view;
    const balanced = view.debits === view.credits;
    const agreed = view.checks.map((check): Step => {
      const { name, holds, text } = toldCheck(check, digits);
      return { name, state: holds ? 'done' : 'wrong', text };
    });
    return [
      ...(payments
        ? [
            {
              name: 'Payments recorded',
              state: payments.recorded < payments.due ? ('wrong' as const) : ('done' as const),
              text: payments.due === 0 ? 'none due' : `${payments.recorded} of ${payments.due}`,
            },
          ]
        : []),
      ...agreed,
      ...accountSteps(view),
      {
        name: 'Entries balance',
        state: balanced ? 'done' : 'wrong',
        text: `${view.entryCount} entries, ${showAmount(view.debits, digits)}`,
      },
      view.state === 'open'
        ? { name: 'Locked', state: 'waiting', text: 'not yet' }
        : { name: 'Locked', state: 'done', text: view.closedBy ?? '' },
    ];
  });

  constructor() {
    effect(() => {
      this.asOf.date();
      this.said.set('');
      this.refusal.set('');
      this.asked.set(undefined);
    });
    effect(() => {
      this.view();
      this.failed();
      this.choosing.set(false);
    });
  }

  /** Works the month out anew, and the entries that are looked at. */
  protected again(): void {
    this.refusal.set('');
    this.loaded.again();
    this.ofRow.again();
  }

  protected onChoose({ row, column }: GridChoice<CloseRow>): void {
    if (row.type !== 'item') return;
    this.asked.set({ row: row.item, column: column.key });
  }

  protected chooseAll(): void {
    this.asked.set(undefined);
  }

  /** Chooses what becomes of the accruals; where that is refused, what was chosen before is shown again. */
  protected choose(view: CloseView, accruals: AccrualChoice): void {
    this.choosing.set(true);
    this.closes.choose(view.endsOn, accruals).subscribe({
      next: () => this.again(),
      error: (error: unknown) => {
        this.refusal.set(messageOf(error));
        this.loaded.change((shown) => ({ ...shown }));
      },
    });
  }

  protected lock(view: CloseView): void {
    this.dialog
      .open<LockDialog, CloseView, string>(LockDialog, { data: view, width: '520px', disableClose: true })
      .afterClosed()
      .subscribe((said) => {
        if (said === undefined) return;
        // The as-of date stays where the entries are.
        this.asOf.choose(view.endsOn);
        this.company.load().subscribe(() => {
          this.again();
          this.said.set(said);
        });
      });
  }

  protected toOpenPeriod(): void {
    this.asOf.followOpenPeriod();
  }
}
