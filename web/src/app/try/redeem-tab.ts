import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { map } from 'rxjs';
import { entriesOnDay, parseDay, position, type BondSchedule } from '@coffer/core';
import { showAmount, showDates, showDay, type BondDocument } from '@coffer/contract';
import { messageOf } from '../api/message-of';
import { Chart } from '../charts/chart';
import { AsOfService } from '../company/as-of.service';
import { InstrumentsService, type OpenInstrument } from '../instrument/instruments.service';
import { EntryList } from '../journal/entry-list';
import { entryViews } from '../journal/entry-views';
import { SessionService } from '../session/session.service';
import { TypedField } from '../terms/fields/typed-field';
import { curvesChart } from './curves-chart';
import { callNotice, readRedemption, redemptionForm, suggested } from './redemption-form';

/** Tries a redemption before maturity: what it retires, pays and gains or loses; then records it, with the reason. */
@Component({
  selector: 'coffer-redeem-tab',
  imports: [Chart, EntryList, MatButtonModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './redeem-tab.html',
  styleUrl: './redeem-tab.scss',
})
export class RedeemTab {
  readonly instrument = input.required<OpenInstrument>();
  /** A redemption was recorded; what was done, in words. */
  readonly recorded = output<string>();
  private readonly instruments = inject(InstrumentsService);
  private readonly asOf = inject(AsOfService);
  protected readonly session = inject(SessionService);
  protected readonly form = redemptionForm().controls;
  private readonly group = this.form.on.parent as ReturnType<typeof redemptionForm>;
  protected readonly asked = signal(false);
  protected readonly busy = signal(false);
  protected readonly failed = signal('');
  protected readonly schedule = computed(() => this.instrument().read.schedule as BondSchedule);
  private readonly typed = toSignal(this.group.valueChanges.pipe(map(() => this.group.getRawValue())), {
    initialValue: this.group.getRawValue(),
  });
  private readonly reading = computed(() => readRedemption(this.schedule(), this.typed()));
  /** What typing last made that could be worked out stays in view. */
  protected readonly made = signal<Extract<ReturnType<typeof readRedemption>, { ok: true }> | undefined>(
    undefined,
  );
  protected readonly stale = computed(() => !this.reading().ok);
  protected readonly callSays = computed(() => {
    const reading = this.reading();
    return reading.ok ? callNotice(this.schedule(), reading.redemption) : '';
  });

  protected readonly lines = computed(
    (): readonly (readonly [name: string, text: string, strong?: boolean])[] => {
      const made = this.made();
      if (!made) return [];
      const { row, cash, couponsSpared, expenseSpared, schedule } = made.outcome;
      const money = (minor: number): string => showAmount(minor, schedule.terms.digits);
      const after = position(schedule, row.due);
      return [
        ['Carrying amount retired', money(row.retired)],
        ['Paid for it', money(row.paid)],
        [row.gain < 0 ? 'Loss on redemption' : 'Gain on redemption', money(Math.abs(row.gain)), true],
        ['Coupon accrued, paid with it', money(row.coupon)],
        ['Cash in all', money(cash)],
        ['Face left', money(after.outstanding)],
        ['Carrying amount left', money(after.carrying)],
        ['Coupons no longer paid', money(couponsSpared)],
        ['Expense no longer charged', money(expenseSpared)],
      ];
    },
  );

  protected readonly entries = computed(() => {
    const made = this.made();
    if (!made) return [];
    const all = entriesOnDay(made.outcome.schedule, made.outcome.row.due);
    return entryViews(all.filter(({ kind }) => kind !== 'accrual'));
  });

  protected readonly option = computed(() => {
    const curve = ({ rows }: BondSchedule): { on: number; balance: number }[] =>
      rows.map(({ due, closing }) => ({ on: due, balance: closing }));
    const made = this.made();
    return curvesChart(
      [
        { letter: '', points: curve(this.schedule()), chosen: false },
        ...(made
          ? [{ letter: '', name: 'with the redemption', points: curve(made.outcome.schedule), chosen: true }]
          : []),
      ],
      parseDay(this.asOf.date()) ?? 0,
      this.schedule().terms.digits,
    );
  });

  constructor() {
    effect(() => {
      const schedule = this.schedule();
      untracked(() => this.group.patchValue(suggested(schedule, parseDay(this.asOf.date()) ?? 0)));
    });
    effect(() => {
      const reading = this.reading();
      if (reading.ok) this.made.set(reading);
    });
  }

  protected fault(key: string): string {
    const reading = this.reading();
    const found = reading.ok ? undefined : reading.faults.find((fault) => fault.key === key);
    return found ? showDates(found.message) : '';
  }

  protected record(): void {
    const reading = this.reading();
    const reason = this.form.reason.value.trim();
    this.asked.set(true);
    if (!reading.ok || reason === '') return;
    this.busy.set(true);
    this.failed.set('');
    const { id, version, read } = this.instrument();
    const document = read.document as BondDocument;
    const redemptions = [...(document.redemptions ?? []), reading.redemption];
    this.instruments.change(id, version, { ...document, redemptions }, reason).subscribe({
      next: (saved) => {
        const { on, face } = reading.redemption;
        this.recorded.emit(
          `${showAmount(reading.outcome.row.faceBefore - reading.outcome.row.faceAfter, this.schedule().terms.digits) || face} of face is redeemed on ${showDay(on)}, in the terms since version ${saved.version}.`,
        );
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.failed.set(messageOf(error));
      },
    });
  }
}
