import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { OpenInstrument } from './instruments.service';
import { eventFacts, termFacts } from './term-facts';

/** The terms as agreed and the events since. */
@Component({
  selector: 'coffer-terms-tab',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
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
  protected readonly terms = computed(() => termFacts(this.instrument().read.document));
  protected readonly events = computed(() => eventFacts(this.instrument().read.document));
}
