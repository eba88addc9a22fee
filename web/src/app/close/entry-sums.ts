import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { EntryKind } from '@coffer/core';
import { entryKindNames, type EntrySum } from '@coffer/contract';
import { EntryTable } from '../journal/entry-table';

/** The month's entries, those of a kind added up by account. */
@Component({
  selector: 'coffer-entry-sums',
  imports: [EntryTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (sum of sums(); track sum.kind) {
      <coffer-entry-table [lines]="sum.lines">
        <strong>{{ name(sum.kind) }}</strong>
        <span class="dim">{{ sum.count }} {{ sum.count === 1 ? 'entry' : 'entries' }}</span>
      </coffer-entry-table>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--space-6);
    }
    strong {
      margin-right: var(--space-4);
    }
  `,
})
export class EntrySums {
  readonly sums = input.required<readonly EntrySum[]>();

  protected name(kind: EntryKind): string {
    return entryKindNames[kind];
  }
}
