import { DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal, viewChild } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { type DuePayment, showAmount, showMonth } from '@coffer/contract';
import { ApiRefusal, newKey } from '../api/api-client';
import { loaded } from '../api/loaded';
import { messageOf } from '../api/message-of';
import { AsOfService } from '../company/as-of.service';
import { CompanyService } from '../company/company.service';
import { AmountPipe } from '../figures/amount.pipe';
import { FigureGrid } from '../figures/figure-grid';
import type { GridChoice, GridTyped } from '../figures/grid-model';
import { SessionService } from '../session/session.service';
import { paymentColumns, paymentRows } from './payment-columns';
import {
  draftOf,
  fellDueBefore,
  paymentId,
  paymentMade,
  readDraft,
  restOf,
  type DraftedPayment,
  type PaymentDraft,
} from './payment-draft';
import { PaymentsService } from './payments.service';

/** What falls due in the open month, ticked and recorded at once: as scheduled, or as typed. */
@Component({
  selector: 'coffer-payments',
  imports: [AmountPipe, DecimalPipe, FigureGrid, MatButtonModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './payments.page.html',
  styleUrl: './payments.page.scss',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class PaymentsPage {
  private readonly payments = inject(PaymentsService);
  private readonly company = inject(CompanyService);
  private readonly asOf = inject(AsOfService);
  protected readonly session = inject(SessionService);
  private readonly grid = viewChild<FigureGrid<DraftedPayment>>(FigureGrid);
  protected readonly loaded = loaded(
    computed(() => this.company.openEnd()),
    () => this.payments.ofMonth(),
  );
  protected readonly view = this.loaded.value;
  private readonly refusal = signal('');
  protected readonly failed = computed(() => this.refusal() || this.loaded.failed());
  protected readonly said = signal('');
  protected readonly busy = signal(false);
  private readonly typed = signal<ReadonlyMap<string, PaymentDraft>>(new Map());
  /** What the server found wrong, by payment. */
  private readonly refused = signal<ReadonlyMap<string, { field: 'on' | 'amount'; message: string }>>(
    new Map(),
  );
  private key = newKey();

  protected readonly mayRecord = computed(() => this.session.mayPrepare());
  protected readonly month = computed(() => showMonth(this.view()?.month ?? this.asOf.date()));
  protected readonly columns = computed(() =>
    paymentColumns(this.company.digits(), {
      mayRecord: this.mayRecord(),
      fees: (this.view()?.payments ?? []).some(({ fee }) => fee !== 0),
      by: this.asOf.date(),
    }),
  );
  protected readonly drafted = computed((): DraftedPayment[] => {
    const [digits, typed, refused] = [this.company.digits(), this.typed(), this.refused()];
    const drafted = (payment: DuePayment, made: PaymentDraft, rest: boolean): DraftedPayment => {
      const id = rest ? `${paymentId(payment)} rest` : paymentId(payment);
      const draft = typed.get(id) ?? made;
      const asked = rest ? payment.left : payment.amount;
      const reading = readDraft(payment, draft, digits, asked);
      const fault = refused.get(id);
      const read = fault ? { ...reading, words: fault.message, fault } : reading;
      return { id, payment, rest, draft, reading: read };
    };
    const by = this.asOf.date();
    return (this.view()?.payments ?? []).flatMap((payment) => {
      const rest = restOf(payment, by, digits);
      const ofRest = rest ? [drafted(payment, rest, true)] : [];
      if (this.isEarlier(payment)) return ofRest;
      return [drafted(payment, draftOf(payment, by, digits), false), ...ofRest];
    });
  });
  /** Payments that fall due in the month, without what is in arrears of earlier ones. */
  protected readonly ofMonth = computed(() =>
    this.drafted().filter(({ payment, rest }) => !rest && !this.isEarlier(payment)),
  );
  protected readonly inArrears = computed(() => this.drafted().filter(({ rest }) => rest).length);
  protected readonly rows = computed(() => paymentRows(this.drafted()));
  protected readonly ticked = computed(() => this.drafted().filter(({ draft }) => draft.ticked));
  protected readonly faulty = computed(() => this.ticked().filter(({ reading }) => reading.fault));
  protected readonly differing = computed(
    () => this.ticked().filter(({ reading }) => reading.differs).length,
  );
  protected readonly recorded = computed(
    () => this.ofMonth().filter(({ payment }) => payment.recorded.length > 0).length,
  );
  protected readonly leaving = computed(() =>
    this.ticked().reduce((sum, { reading }) => sum + (reading.amount ?? 0), 0),
  );
  protected readonly foot = computed(() => {
    const sum = (of: (payment: DraftedPayment) => number): string =>
      showAmount(
        this.ticked().reduce((total, payment) => total + of(payment), 0),
        this.company.digits(),
      );
    return {
      name: 'Ticked',
      'agreed-interest': sum(({ payment, rest }) => (rest ? 0 : payment.interest)),
      'agreed-fee': sum(({ payment, rest }) => (rest ? 0 : payment.fee)),
      'agreed-principal': sum(({ payment, rest }) => (rest ? 0 : payment.principal)),
      'agreed-amount': sum(({ payment, rest }) => (rest ? payment.left : payment.amount)),
      amount: sum(({ reading }) => reading.amount ?? 0),
    };
  });

  private isEarlier(payment: DuePayment): boolean {
    return fellDueBefore(payment, this.view()?.month ?? '');
  }

  protected load(): void {
    this.refusal.set('');
    this.loaded.again();
  }

  protected onChoose({ by, row, column }: GridChoice<DraftedPayment>): void {
    if (row.type !== 'item' || !this.mayRecord()) return;
    // A press on what is only read ticks nothing.
    if (by === 'press' && column.key !== 'ticked') return;
    const { payment, draft, rest } = row.item;
    if (!rest && payment.recorded.length > 0 && !draft.ticked) return;
    this.change(row.item, { ticked: !draft.ticked });
  }

  protected onTyped({ row, column, text }: GridTyped<DraftedPayment>): void {
    if (row.type !== 'item') return;
    const { payment, rest } = row.item;
    // What was typed a moment ago counts, though the table may not show it yet.
    const draft = this.typed().get(row.item.id) ?? row.item.draft;
    const field = column.key === 'on' ? 'on' : 'amount';
    if (draft[field] === text) return;
    const next = { ...draft, [field]: text };
    const asRecorded = draftOf(payment, this.asOf.date(), this.company.digits());
    // A recorded payment typed back to what it was needs no correction.
    const recorded = !rest && payment.recorded.length > 0;
    const same = recorded && next.on === asRecorded.on && next.amount === asRecorded.amount;
    this.change(row.item, { [field]: text, ticked: !same });
  }

  /** Ticks every payment not recorded yet, or none when all are. */
  protected tickAll(): void {
    const open = this.drafted().filter(({ payment }) => payment.recorded.length === 0);
    const ticked = open.some(({ draft }) => !draft.ticked);
    const typed = new Map(this.typed());
    for (const { id, draft } of open) typed.set(id, { ...draft, ticked });
    this.typed.set(typed);
  }

  private change({ id, draft }: DraftedPayment, more: Partial<PaymentDraft>): void {
    this.typed.update((typed) => new Map(typed).set(id, { ...(typed.get(id) ?? draft), ...more }));
    this.said.set('');
    if (!this.refused().has(id)) return;
    const refused = new Map(this.refused());
    refused.delete(id);
    this.refused.set(refused);
  }

  protected onKey(event: KeyboardEvent): void {
    const typing = event.target instanceof HTMLElement && event.target.matches('input, textarea');
    if (!this.mayRecord() || typing || event.altKey) return;
    if (event.key === 'a' && !event.ctrlKey && !event.metaKey) this.tickAll();
    else if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) this.record();
    else return;
    event.preventDefault();
  }

  protected record(): void {
    const [ticked, faulty] = [this.ticked(), this.faulty()];
    if (this.busy() || ticked.length === 0) return;
    if (faulty[0]) {
      this.grid()?.reveal(faulty[0].id, faulty[0].reading.fault?.field);
      return;
    }
    this.busy.set(true);
    this.refusal.set('');
    const digits = this.company.digits();
    this.payments
      .record(
        ticked.map((payment) => paymentMade(payment, digits)),
        this.key,
      )
      .subscribe({
        next: ({ payments }) => {
          const sum = showAmount(this.leaving(), digits);
          this.said.set(`${payments} ${payments === 1 ? 'payment' : 'payments'} recorded, ${sum} in all.`);
          const sent = new Set(ticked.map(({ id }) => id));
          this.typed.update((typed) => new Map([...typed].filter(([id]) => !sent.has(id))));
          this.done();
          this.load();
        },
        error: (error: unknown) => {
          this.refusal.set(messageOf(error));
          this.refused.set(faultsByPayment(error, ticked));
          this.done();
        },
      });
  }

  private done(): void {
    this.busy.set(false);
    this.key = newKey();
  }
}

function faultsByPayment(
  error: unknown,
  sent: readonly DraftedPayment[],
): Map<string, { field: 'on' | 'amount'; message: string }> {
  const faults = error instanceof ApiRefusal ? (error.refusal.faults ?? []) : [];
  return new Map(
    faults.flatMap(({ key, message }) => {
      const [, at, field] = key.split('.');
      const payment = sent[Number(at)];
      return payment ? [[payment.id, { field: field === 'amount' ? 'amount' : 'on', message }] as const] : [];
    }),
  );
}
