import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { parseDay } from '@coffer/core';
import { eventFacts, termFacts } from '@coffer/contract';
import { AsOfService } from '../company/as-of.service';
import { fillForm } from '../terms/form/form-of-document';
import { termsForm } from '../terms/form/terms-form';
import { Timeline } from '../terms/timeline/timeline';
import { stretchSpans } from '../terms/timeline/stretch-spans';
import { timelineModel } from '../terms/timeline/timeline-model';
import type { OpenInstrument } from './instruments.service';

/** The terms as agreed and the events since. */
@Component({
  selector: 'coffer-terms-tab',
  imports: [Timeline],
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
  private readonly asOf = inject(AsOfService);
  protected readonly on = computed(() => parseDay(this.asOf.date()));
  /** The agreement drawn on its life, as it is composed. */
  protected readonly life = computed(() => {
    const { document, schedule } = this.instrument().read;
    if (document.kind === 'bond' || schedule.kind !== 'loan') return undefined;
    const form = termsForm();
    fillForm(form, document);
    return timelineModel(form.getRawValue().loan, stretchSpans(schedule), document.kind === 'credit-line');
  });
  protected readonly terms = computed(() => termFacts(this.instrument().read.document));
  protected readonly events = computed(() => eventFacts(this.instrument().read.document));
}
