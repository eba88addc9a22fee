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
import { Router } from '@angular/router';
import { map } from 'rxjs';
import {
  type BondFigure,
  type BondSchedule,
  entriesOnDay,
  explainBondFigure,
  explainPosition,
  type Explanation,
  type FigureLink,
  type MinorUnits,
  parseDay,
  position,
  type PositionFigure,
} from '@coffer/core';
import { showAmount, showText, showDay, type BondDocument } from '@coffer/contract';
import { messageOf } from '../../api/message-of';
import { Chart } from '../../charts/chart';
import { AsOfService } from '../../company/as-of.service';
import { ExplainPanel } from '../../explain/explain-panel';
import { InstrumentsService, type OpenInstrument } from '../../instrument/instruments.service';
import { EntryList } from '../../journal/entry-list';
import { entryViews } from '../../journal/entry-views';
import { SessionService } from '../../session/session.service';
import { TypedField } from '../../fields/typed-field';
import { DraftKeeper } from '../../terms/form/draft-keeper';
import { termsForm } from '../../terms/form/terms-form';
import { curvesChart } from '../curves-chart';
import { callNotice, readRedemption, redemptionForm, suggested } from './redemption-form';

/** A figure of what a redemption makes; most say how they are made. */
interface MadeLine {
  readonly name: string;
  readonly text: string;
  readonly strong?: boolean;
  readonly how?: () => Explanation;
}

/** Tries a redemption before maturity: what it retires, pays and gains or loses; then records it, with the reason. */
@Component({
  selector: 'coffer-redeem-tab',
  imports: [Chart, EntryList, ExplainPanel, MatButtonModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './redeem-tab.html',
  styleUrls: ['../trying.scss', './redeem-tab.scss'],
})
export class RedeemTab {
  readonly instrument = input.required<OpenInstrument>();
  /** A redemption was recorded; what was done, in words. */
  readonly recorded = output<string>();
  private readonly instruments = inject(InstrumentsService);
  private readonly asOf = inject(AsOfService);
  private readonly router = inject(Router);
  private readonly drafts = inject(DraftKeeper);
  protected readonly session = inject(SessionService);
  private readonly group = redemptionForm();
  protected readonly form = this.group.controls;
  protected readonly explained = signal<Explanation | undefined>(undefined);
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

  protected readonly lines = computed((): readonly MadeLine[] => {
    const made = this.made();
    if (!made) return [];
    const { row, cash, couponsSpared, expenseSpared, schedule } = made.outcome;
    const index = schedule.rows.indexOf(row);
    const how = (figure: BondFigure) => (): Explanation => explainBondFigure(schedule, index, figure);
    const left = (figure: PositionFigure) => (): Explanation => explainPosition(schedule, row.due, figure);
    const money = (minor: MinorUnits): string => showAmount(minor, schedule.terms.digits);
    const after = position(schedule, row.due);
    return [
      { name: 'Carrying amount retired', text: money(row.retired), how: how('retired') },
      { name: 'Paid for it', text: money(row.paid), how: how('paid') },
      {
        name: row.gain < 0 ? 'Loss on redemption' : 'Gain on redemption',
        text: money(Math.abs(row.gain)),
        strong: true,
        how: how('gain'),
      },
      { name: 'Coupon paid with it', text: money(row.coupon), how: how('coupon') },
      { name: 'Cash in all', text: money(cash) },
      { name: 'Face left', text: money(after.outstanding), how: left('outstanding') },
      { name: 'Carrying amount left', text: money(after.carrying), how: left('carrying') },
      { name: 'Coupons no longer paid', text: money(couponsSpared) },
      { name: 'Expense no longer charged', text: money(expenseSpared) },
    ];
  });

  protected readonly entries = computed(() => {
    const made = this.made();
    if (!made) return [];
    const all = entriesOnDay(made.outcome.schedule, made.outcome.row.due);
    return entryViews(
      all.filter(({ kind }) => kind !== 'accrual'),
      this.instrument().accounts,
    );
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
      if (!reading.ok) return;
      this.made.set(reading);
      this.explained.set(undefined);
    });
  }

  protected fault(key: string): string {
    const reading = this.reading();
    const found = reading.ok ? undefined : reading.faults.find((fault) => fault.key === key);
    return found ? showText(found.message) : '';
  }

  /** An input of the figure explained: another figure of the bond with the redemption, or one of its terms. */
  protected follow(link: FigureLink): void {
    const made = this.made();
    if (link.to === 'row' && made) {
      this.explained.set(explainBondFigure(made.outcome.schedule, link.row, link.column as BondFigure));
    } else {
      void this.router.navigate(['/instruments', this.instrument().id, 'terms']);
    }
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
        const { row } = reading.outcome;
        const face = showAmount(row.faceBefore - row.faceAfter, this.schedule().terms.digits);
        const on = showDay(reading.redemption.on);
        const said = `${face} of face is redeemed on ${on}, in the terms since version ${saved.version}.`;
        const { refundedBy } = reading.redemption;
        const begun = refundedBy !== undefined && this.beginRefunding(refundedBy, face, on);
        this.recorded.emit(begun ? `${said} ${refundedBy} is begun under New instrument.` : said);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.failed.set(messageOf(error));
      },
    });
  }

  /** The issue that refunds what was redeemed, begun for its terms to be typed. */
  private beginRefunding(name: string, face: string, issued: string): boolean {
    const form = termsForm();
    form.patchValue({ kind: 'bond', name, bond: { face, issued } });
    return this.drafts.begin(form);
  }
}
