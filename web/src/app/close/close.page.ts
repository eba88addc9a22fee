import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { MatRadioModule } from '@angular/material/radio';
import { RouterLink } from '@angular/router';
import { catchError, combineLatest, EMPTY, map, of, switchMap, tap } from 'rxjs';
import type { AccrualChoice } from '@coffer/core';
import {
  type CloseRow,
  type CloseView,
  type EntryView,
  showAmount,
  showMonth,
  showMovement,
} from '@coffer/contract';
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
})
export class ClosePage {
  private readonly closes = inject(CloseService);
  private readonly company = inject(CompanyService);
  private readonly dialog = inject(MatDialog);
  protected readonly session = inject(SessionService);
  protected readonly asOf = inject(AsOfService);
  protected readonly view = signal<CloseView | undefined>(undefined);
  protected readonly failed = signal('');
  protected readonly said = signal('');
  /** The row whose entries are asked for; it stays through everything that works the month out anew. */
  private readonly asked = signal<{ row: CloseRow; column: string } | undefined>(undefined);
  protected readonly chosen = signal<{ row: CloseRow; entries: readonly EntryView[] } | undefined>(undefined);
  /** What becomes of the accruals was chosen, and the month is worked out anew. */
  protected readonly choosing = signal(false);
  private readonly reloads = signal(0);
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
    combineLatest([this.asOf.date$, toObservable(this.reloads)])
      .pipe(
        tap(() => this.failed.set('')),
        switchMap(([endsOn]) =>
          this.closes.of(endsOn).pipe(
            catchError((error: unknown) => {
              this.choosing.set(false);
              this.view.set(undefined);
              this.failed.set(messageOf(error));
              return EMPTY;
            }),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((view) => {
        this.view.set(view);
        this.choosing.set(false);
      });
    this.asOf.date$.pipe(takeUntilDestroyed()).subscribe(() => {
      this.said.set('');
      this.asked.set(undefined);
    });
    combineLatest([toObservable(this.asked), toObservable(this.reloads)])
      .pipe(
        switchMap(([asked]) =>
          asked
            ? this.closes.entriesOf(this.asOf.date(), asked.row.id).pipe(
                map(({ entries }) => ({ row: asked.row, entries })),
                catchError((error: unknown) => {
                  this.failed.set(messageOf(error));
                  return EMPTY;
                }),
              )
            : of(undefined),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((chosen) => this.chosen.set(chosen));
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
      next: () => this.reloads.update((count) => count + 1),
      error: (error: unknown) => {
        this.failed.set(messageOf(error));
        this.choosing.set(false);
        this.view.set({ ...view });
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
          this.reloads.update((count) => count + 1);
          this.said.set(said);
        });
      });
  }

  protected toOpenPeriod(): void {
    this.asOf.followOpenPeriod();
  }
}
