import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { EntryKind } from '@coffer/core';
import type { EntrySum } from '@coffer/contract';
import { AmountPipe } from '../figures/amount.pipe';

const kindNames: Readonly<Record<EntryKind, string>> = {
  opening: 'Balances brought in',
  correction: 'Corrections of closed months',
  reversal: 'Reversals of last month’s accruals',
  issue: 'Borrowed and issued',
  payment: 'Payments',
  coupon: 'Coupons',
  redemption: 'Redeemed',
  accrual: 'Accrued and amortized',
  'current-portion': 'Current portion moved',
};

/** The month's entries, those of a kind added up by account. */
@Component({
  selector: 'coffer-entry-sums',
  imports: [AmountPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (sum of sums(); track sum.kind) {
      <table>
        <caption>
          <strong>{{ name(sum.kind) }}</strong>
          <span class="dim">{{ sum.count }} {{ sum.count === 1 ? 'entry' : 'entries' }}</span>
        </caption>
        <tbody>
          @for (line of sum.lines; track $index) {
            <tr>
              <td [class.credit]="line.credit > 0">{{ line.account }}</td>
              <td class="figure">{{ line.debit > 0 ? (line.debit | amount) : '' }}</td>
              <td class="figure">{{ line.credit > 0 ? (line.credit | amount) : '' }}</td>
            </tr>
          }
        </tbody>
      </table>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 12px;
      font-size: 12.5px;
    }
    table {
      width: 100%;
      border-collapse: collapse;
      table-layout: fixed;
    }
    caption {
      text-align: left;
      padding-bottom: 2px;
    }
    caption strong {
      margin-right: 8px;
    }
    td {
      padding: 3px 0;
      border-bottom: 1px solid var(--line);
    }
    .figure {
      padding-left: 8px;
      width: 25%;
    }
    .credit {
      padding-left: 16px;
    }
  `,
})
export class EntrySums {
  readonly sums = input.required<readonly EntrySum[]>();

  protected name(kind: EntryKind): string {
    return kindNames[kind];
  }
}
