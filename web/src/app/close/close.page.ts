import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatRadioModule } from '@angular/material/radio';
import { RouterLink } from '@angular/router';
import type { AccrualChoice } from '@coffer/core';
import {
  closeSteps,
  isOffTheLedger,
  notRecorded,
  type BookedRow,
  type CloseView,
  type DifferenceLine,
  showAmount,
  showMonth,
  showMovement,
} from '@coffer/contract';
import type { Observable } from 'rxjs';
import { newKey } from '../api/api-client';
import { loaded } from '../api/loaded';
import { messageOf } from '../api/message-of';
import { AsOfService } from '../company/as-of.service';
import { CompanyService } from '../company/company.service';
import { MonthCorrected } from '../corrections/month-corrected';
import { AmountPipe, DayPipe } from '../figures/amount.pipe';
import { FigureGrid } from '../figures/figure-grid';
import { MomentPipe } from '../figures/moment.pipe';
import { UnworkableNotice } from '../figures/unworkable-notice';
import type { GridChoice } from '../figures/grid-model';
import { EntryList } from '../journal/entry-list';
import { SessionService } from '../session/session.service';
import { attentionLines } from '../register/attention-lines';
import { closeColumns, closeRows, closeSums } from './close-rows';
import { CloseService } from './close.service';
import { ClosePapers } from './close-papers';
import { LeftOut } from './left-out';
import { EntrySums } from './entry-sums';
import { LockDialog, type ToClose } from './lock.dialog';
import { ChecksList } from './review/checks-list';
import { DecisionBar, type Decision } from './review/decision-bar';
import { DifferencesList, type Said } from './review/differences-list';
import { LookedAt } from './review/looked-at';
import { MonthComments } from './review/month-comments';
import { MonthStages } from './review/month-stages';
import { ReturnDialog, type Returned } from './review/return.dialog';

/** The period close: what the month makes of each instrument, its entries, and the lock. */
@Component({
  selector: 'coffer-close',
  imports: [
    ChecksList,
    ClosePapers,
    DecisionBar,
    DifferencesList,
    MatButtonToggleModule,
    MomentPipe,
    MonthComments,
    MonthCorrected,
    MonthStages,
    UnworkableNotice,
    AmountPipe,
    DayPipe,
    EntryList,
    EntrySums,
    FigureGrid,
    LeftOut,
    MatButtonModule,
    MatRadioModule,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './close.page.html',
  styleUrl: './close.page.scss',
  providers: [LookedAt],
  host: { '[class.behind]': 'loaded.behind()' },
})
export class ClosePage {
  private readonly closes = inject(CloseService);
  private readonly company = inject(CompanyService);
  private readonly dialog = inject(MatDialog);
  protected readonly notRecorded = notRecorded;
  protected readonly session = inject(SessionService);
  protected readonly asOf = inject(AsOfService);
  protected readonly loaded = loaded(
    computed(() => this.asOf.date() || undefined),
    (endsOn) => this.closes.of(endsOn),
  );
  protected readonly view = this.loaded.value;
  private readonly refusal = signal('');
  protected readonly failed = computed(
    () => this.refusal() || this.loaded.failed() || this.ofRow.failed() || this.differences.failed(),
  );
  protected readonly said = signal('');
  /** The row whose entries are asked for; it stays through everything that works the month out anew. */
  private readonly asked = signal<
    { readonly row: { readonly id: string; readonly name: string }; readonly column: string } | undefined
  >(undefined);
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
  /** Something was decided, and the month is worked out anew. */
  protected readonly busy = signal(false);
  /** What somebody wants to look at; else what differs once the month is handed over, and what it makes before. */
  protected readonly chosenLook = signal<'differences' | 'made' | undefined>(undefined);
  protected readonly look = computed(
    () => this.chosenLook() ?? (this.view()?.state === 'prepared' ? 'differences' : 'made'),
  );
  private readonly differences = loaded(
    computed(() => {
      const view = this.view();
      return view && this.look() === 'differences' ? ([view.endsOn, view.digest] as const) : undefined;
    }),
    ([endsOn]) => this.closes.differences(endsOn),
  );
  protected readonly different = computed(() =>
    this.differences.behind() ? undefined : this.differences.value(),
  );
  private readonly list = viewChild(DifferencesList);
  protected readonly progress = computed(() => this.list()?.progress());
  protected readonly holding = computed(() => {
    const of = (state: string): number => this.steps().filter((step) => step.state === state).length;
    const agreed = of('agreed') === 0 ? '' : `, ${of('agreed')} agreed to`;
    return `${of('done')} of ${this.steps().length} hold${agreed}`;
  });
  protected readonly aboutMonth = computed(
    () => this.view()?.review.comments.filter(({ instrumentId }) => instrumentId === null) ?? [],
  );
  /** The return that the month is open again by. */
  protected readonly returned = computed(() => {
    const view = this.view();
    const last = view?.review.steps.at(-1);
    return view?.state === 'open' && last?.step === 'returned' ? last : undefined;
  });
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
      accrued: showAmount(sums.accrued, digits),
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

  /** The chart is to be put right before the month is closed. */
  protected readonly offTheLedger = computed(() => {
    const { missingAccounts = [], brought = [] } = this.view() ?? {};
    return missingAccounts.length > 0 || brought.some(isOffTheLedger);
  });
  protected readonly attention = computed(() => attentionLines([], this.view()?.attention ?? []));
  protected readonly steps = computed(() => {
    const view = this.view();
    return view ? closeSteps(view, this.company.digits()) : [];
  });

  constructor() {
    effect(() => {
      this.asOf.date();
      this.said.set('');
      this.refusal.set('');
      this.asked.set(undefined);
      this.chosenLook.set(undefined);
    });
    effect(() => {
      this.view();
      this.failed();
      this.busy.set(false);
    });
  }

  /** Works the month out anew, and the entries that are looked at. */
  protected again(): void {
    this.refusal.set('');
    this.loaded.again();
    this.ofRow.again();
  }

  protected onChoose({ row, column }: GridChoice<BookedRow>): void {
    if (row.type !== 'item') return;
    this.asked.set({ row: row.item.row, column: column.key });
  }

  protected chooseAll(): void {
    this.asked.set(undefined);
  }

  /** Chooses what becomes of the accruals; where that is refused, what was chosen before is shown again. */
  protected choose(view: CloseView, accruals: AccrualChoice): void {
    this.busy.set(true);
    this.closes.choose(view.endsOn, accruals).subscribe({
      next: () => this.again(),
      error: (error: unknown) => {
        this.refusal.set(messageOf(error));
        this.loaded.change((shown) => ({ ...shown }));
      },
    });
  }

  /** Takes a decision about the month; what it was made of is looked at anew. */
  protected decide(view: CloseView, decision: Decision): void {
    if (decision === 'return') this.giveBack(view);
    else if (decision === 'hand-over') this.handOver(view);
    else this.close(view, decision);
  }

  private handOver(view: CloseView): void {
    this.act(
      this.closes.handOver(view, newKey()),
      () =>
        `${this.month()} is handed over. ${view.review.approvers.join(' or ') || 'Nobody yet'} may approve it.`,
    );
  }

  private giveBack(view: CloseView): void {
    const line = this.asked()?.row;
    this.dialog
      .open<ReturnDialog, unknown, Returned>(ReturnDialog, {
        data: { endsOn: view.endsOn, line },
        width: '520px',
      })
      .afterClosed()
      .subscribe((returned) => {
        if (!returned) return;
        this.act(
          this.closes.giveBack(view.endsOn, returned),
          () => `${this.month()} is returned and open again.`,
        );
      });
  }

  private close(view: CloseView, which: ToClose['which']): void {
    const data: ToClose = { close: view, which };
    this.dialog
      .open<LockDialog, ToClose, string>(LockDialog, { data, width: '520px', disableClose: true })
      .afterClosed()
      .subscribe((said) => {
        if (said === undefined) {
          // What stood in the way may be that the month is another by now.
          this.again();
          return;
        }
        // The as-of date stays where the entries are.
        this.asOf.choose(view.endsOn);
        this.company.load().subscribe(() => {
          this.again();
          this.said.set(said);
        });
      });
  }

  private act(call: Observable<unknown>, said: () => string): void {
    this.busy.set(true);
    this.refusal.set('');
    call.subscribe({
      next: () => {
        this.busy.set(false);
        this.company.load().subscribe(() => {
          this.again();
          this.said.set(said());
        });
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.again();
        this.refusal.set(messageOf(error));
      },
    });
  }

  protected say(view: CloseView, said: Said): void {
    this.closes.say(view.endsOn, said).subscribe({
      next: ({ comments }) =>
        this.loaded.change((shown) => ({ ...shown, review: { ...shown.review, comments } })),
      error: (error: unknown) => this.refusal.set(messageOf(error)),
    });
  }

  protected chooseLine({ id, name }: DifferenceLine): void {
    this.asked.set({ row: { id, name }, column: 'name' });
  }

  protected toOpenPeriod(): void {
    this.asOf.followOpenPeriod();
  }
}
