import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { parseDay } from '@coffer/core';
import {
  eventFacts,
  recordsPayments,
  showDay,
  showDecimal,
  termFacts,
  type InstrumentDocument,
} from '@coffer/contract';
import { newKey } from '../../api/api-client';
import { AsOfService } from '../../company/as-of.service';
import { DayPipe } from '../../figures/amount.pipe';
import { PaymentsService } from '../../payments/payments.service';
import { SessionService } from '../../session/session.service';
import { Timeline } from '../../terms/timeline/timeline';
import { viewKindOf } from '../../kinds/view-kinds';
import type { OpenInstrument } from '../instruments.service';
import { ReasonDialog, type Reasoned } from './reason.dialog';

/** What is recorded for a payment. */
interface Recorded {
  readonly due: string;
  readonly made: string;
}

/** The terms as agreed and the events since. */
@Component({
  selector: 'coffer-terms-tab',
  imports: [DayPipe, Timeline],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (life(); as drawn) {
      <section class="sheet life">
        <coffer-timeline [model]="drawn" [on]="on()" [fixed]="true" />
      </section>
    }
    <section class="sheet">
      <h2>Terms</h2>
      <dl class="list">
        @for (fact of terms(); track fact[0]) {
          <dt>{{ fact[0] }}</dt>
          <dd>{{ fact[1] }}</dd>
        }
      </dl>
    </section>
    @if (recorded().length > 0) {
      <section class="sheet">
        <h2>Recorded payments</h2>
        <table>
          <tbody>
            @for (payment of recorded(); track payment.due) {
              <tr>
                <th scope="row">due {{ payment.due | day }}</th>
                <td>{{ payment.made }}</td>
                <td class="figure">
                  @if (mayRecord()) {
                    <button
                      class="link"
                      [attr.aria-label]="'Take back what is recorded for ' + (payment.due | day)"
                      (click)="takeBack(payment)"
                    >
                      Take back
                    </button>
                  }
                </td>
              </tr>
            }
          </tbody>
        </table>
      </section>
    }
    <section class="sheet">
      <h2>Events</h2>
      <table>
        <tbody>
          @for (event of events(); track $index) {
            <tr>
              <th scope="row">{{ event[0] }}</th>
              <td>{{ event[1] }}</td>
            </tr>
          } @empty {
            <tr>
              <td class="dim">Nothing has departed from the terms.</td>
            </tr>
          }
        </tbody>
      </table>
    </section>
  `,
  styleUrl: './fact-tables.scss',
})
export class TermsTab {
  readonly instrument = input.required<OpenInstrument>();
  readonly changed = output<string>();
  private readonly asOf = inject(AsOfService);
  private readonly dialog = inject(MatDialog);
  private readonly payments = inject(PaymentsService);
  private readonly session = inject(SessionService);
  protected readonly on = computed(() => parseDay(this.asOf.date()));
  /** The agreement drawn on its life, as it is composed. */
  protected readonly life = computed(() => {
    const { document, schedule } = this.instrument().read;
    return viewKindOf(document).timeline(document, schedule);
  });
  protected readonly terms = computed(() => termFacts(this.instrument().read.document));
  /** Events but payments recorded, which stand by themselves. */
  protected readonly events = computed(() => eventFacts(withoutPayments(this.instrument().read.document)));
  protected readonly recorded = computed(() => recordedIn(this.instrument().read.document));
  protected readonly mayRecord = computed(
    () => this.session.mayPrepare() && this.instrument().withdrawn === null,
  );

  protected takeBack({ due, made }: Recorded): void {
    const instrument = this.instrument();
    const key = newKey();
    const data: Reasoned = {
      title: 'Take back a recorded payment',
      what: [
        `${instrument.read.document.name}, due ${showDay(due)}: ${made}.`,
        'The payment counts as made as scheduled again until it is recorded anew. Months that are closed stay as they are; the open month books the difference.',
      ],
      does: 'Take it back',
      act: (reason) => this.payments.takeBack(instrument, due, reason, key),
    };
    this.dialog
      .open<ReasonDialog, Reasoned, true>(ReasonDialog, { data, width: '480px' })
      .afterClosed()
      .subscribe((done) => {
        if (done === true) this.changed.emit(`What was recorded for ${showDay(due)} is taken back.`);
      });
  }
}

function withoutPayments(document: InstrumentDocument): InstrumentDocument {
  if (!recordsPayments(document)) return document;
  const events = (document.events ?? []).filter(({ type }) => type !== 'paid');
  return { ...document, events } as InstrumentDocument;
}

/** What is recorded by due date, in its order; a payment made in parts stands once. */
function recordedIn(document: InstrumentDocument): Recorded[] {
  if (!recordsPayments(document)) return [];
  const made = new Map<string, string[]>();
  for (const event of document.events ?? []) {
    if (event.type !== 'paid') continue;
    const parts = made.get(event.due) ?? [];
    made.set(event.due, [...parts, `${showDecimal(event.amount)} on ${showDay(event.on)}`]);
  }
  return [...made]
    .map(([due, parts]) => ({ due, made: parts.join(', ') }))
    .sort((one, other) => one.due.localeCompare(other.due));
}
