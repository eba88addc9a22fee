import { inject, ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { issueEntry, type Schedule } from '@coffer/core';
import { EntryList } from '../../journal/entry-list';
import { entryViews } from '../../journal/entry-views';
import { CompanyService } from '../../company/company.service';

/** The entry that a loan is received, or a bond issued, with. */
@Component({
  selector: 'coffer-issue-entry',
  imports: [EntryList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<coffer-entry-list [entries]="entries()" [posts]="false" />',
})
export class IssueEntry {
  private readonly company = inject(CompanyService);
  readonly schedule = input.required<Schedule>();

  protected readonly entries = computed(() => {
    const entry = issueEntry(this.schedule());
    return entryViews(entry ? [entry] : [], this.company.accounts());
  });
}
