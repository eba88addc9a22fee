import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { bondIssueEntry, loanIssueEntry, formatDay, type Schedule } from '@coffer/core';
import type { EntryView } from '@coffer/contract';
import { accountName } from '../journal/account-names';
import { EntryList } from '../journal/entry-list';

/** The entry that a loan is received, or a bond issued, with. */
@Component({
  selector: 'coffer-issue-entry',
  imports: [EntryList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<coffer-entry-list [entries]="entries()" />',
})
export class IssueEntry {
  readonly schedule = input.required<Schedule>();

  protected readonly entries = computed((): EntryView[] => {
    const schedule = this.schedule();
    const entry = schedule.kind === 'loan' ? loanIssueEntry(schedule) : bondIssueEntry(schedule);
    if (!entry) return [];
    const lines = entry.lines.map(({ account, debit, credit }) => ({
      role: account,
      code: '',
      account: accountName(account),
      debit,
      credit,
    }));
    return [{ ...entry, date: formatDay(entry.date), number: null, instrumentId: '', instrument: '', lines }];
  });
}
