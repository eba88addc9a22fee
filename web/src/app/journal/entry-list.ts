import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { ListedEntry } from './entry-views';
import { DayPipe, WithDaysPipe } from '../figures/amount.pipe';
import { EntryTable } from './entry-table';

/** Entries one under another. */
@Component({
  selector: 'coffer-entry-list',
  imports: [DayPipe, EntryTable, WithDaysPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (entry of entries(); track $index) {
      <coffer-entry-table coded [lines]="entry.lines">
        <strong>{{ entry.memo | withDays }}</strong>
        <span class="dim">
          {{ entry.date | day }}
          @if (entry.number !== null) {
            · entry {{ entry.number }}
          } @else if (posts()) {
            · not posted yet
          }
        </span>
      </coffer-entry-table>
    } @empty {
      <p class="dim">No entries.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--space-7);
    }
    strong {
      margin-right: var(--space-4);
    }
  `,
})
export class EntryList {
  readonly entries = input.required<readonly ListedEntry[]>();
  /** Whether these are the books' own entries, posted or still to be; otherwise they are only shown as they would be. */
  readonly posts = input(true);
}
