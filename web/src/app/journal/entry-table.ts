import { booleanAttribute, ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { EntryLineView } from '@coffer/contract';
import { AmountPipe } from '../figures/amount.pipe';

/** The lines of an entry, debits before credits, under a caption that the user of it gives. */
@Component({
  selector: 'coffer-entry-table',
  imports: [AmountPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table>
      <caption>
        <ng-content />
      </caption>
      <tbody>
        @for (line of lines(); track $index) {
          <tr>
            <td [class.credit]="line.credit > 0">
              @if (coded()) {
                <span class="dim">{{ line.code }}</span>
              }
              {{ line.account }}
            </td>
            <td class="figure">{{ line.debit > 0 ? (line.debit | amount) : '' }}</td>
            <td class="figure">{{ line.credit > 0 ? (line.credit | amount) : '' }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    :host {
      display: block;
      font-size: var(--text-small);
    }
    table {
      width: 100%;
      border-collapse: collapse;
      table-layout: fixed;
    }
    caption {
      text-align: left;
      padding-bottom: var(--space-1);
    }
    td {
      padding: var(--space-1) 0;
      border-bottom: 1px solid var(--line);
    }
    .figure {
      width: 31%;
      padding-left: var(--space-4);
    }
    .credit {
      padding-left: var(--space-8);
    }
  `,
})
export class EntryTable {
  readonly lines = input.required<readonly EntryLineView[]>();
  /** Whether account codes are shown. */
  readonly coded = input(false, { transform: booleanAttribute });
}
