import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { EntryView } from '@coffer/contract';
import { AmountPipe, DayPipe, WithDaysPipe } from '../figures/amount.pipe';

/** Entries one under another, debits before credits, each leading to the row that it comes from. */
@Component({
  selector: 'coffer-entry-list',
  imports: [AmountPipe, DayPipe, RouterLink, WithDaysPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (entry of entries(); track $index) {
      <table>
        <caption>
          <strong>{{ entry.memo | withDays }}</strong>
          <span class="dim">
            {{ entry.date | day }} · {{ entry.number === null ? 'not posted yet' : 'entry ' + entry.number }}
            @if (named()) {
              · <a [routerLink]="['/instruments', entry.instrumentId, 'entries']">{{ entry.instrument }}</a>
            }
          </span>
        </caption>
        <tbody>
          @for (line of entry.lines; track $index) {
            <tr>
              <td class="account" [class.credit]="line.credit > 0">
                <span class="dim">{{ line.code }}</span> {{ line.account }}
              </td>
              <td class="figure">{{ line.debit > 0 ? (line.debit | amount) : '' }}</td>
              <td class="figure">{{ line.credit > 0 ? (line.credit | amount) : '' }}</td>
            </tr>
          }
        </tbody>
      </table>
    } @empty {
      <p class="dim">No entries.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 14px;
      font-size: 12.5px;
    }
    table {
      width: 100%;
      border-collapse: collapse;
      table-layout: fixed;
    }
    caption {
      text-align: left;
      display: table-caption;
      padding-bottom: 2px;
    }
    caption strong {
      margin-right: 8px;
    }
    td {
      padding: 3px 0 3px 10px;
      border-bottom: 1px solid var(--line);
    }
    .account {
      padding-left: 0;
    }
    .figure {
      width: 24%;
    }
    .credit {
      padding-left: 20px;
    }
  `,
})
export class EntryList {
  readonly entries = input.required<readonly EntryView[]>();
  /** Whether each entry names its instrument. */
  readonly named = input(false);
}
