import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { issueEntry, type Schedule } from '@coffer/core';
import { EntryList } from '../../journal/entry-list';
import { entryViews, type AccountNames } from '../../journal/entry-views';

/** The entry that a loan is received, or a bond issued, with. */
@Component({
  selector: 'coffer-issue-entry',
  imports: [EntryList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<coffer-entry-list [entries]="entries()" [posts]="false" />',
})
export class IssueEntry {
  readonly schedule = input.required<Schedule>();
  readonly accounts = input.required<AccountNames>();

  protected readonly entries = computed(() => {
    const entry = issueEntry(this.schedule());
    return entryViews(entry ? [entry] : [], this.accounts());
  });
}
