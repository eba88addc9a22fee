import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { bondIssueEntry, loanIssueEntry, formatDay, type AccountRole, type Schedule } from '@coffer/core';
import type { EntryView } from '@coffer/contract';
import { EntryList } from '../journal/entry-list';

const roleNames: Partial<Record<AccountRole, string>> = {
  cash: 'Cash',
  asset: 'Asset purchased',
  'loan-payable': 'Loan payable',
  'bonds-payable': 'Bonds payable',
  'bond-discount': 'Discount on bonds payable',
  'bond-premium': 'Premium on bonds payable',
};

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
      account: roleNames[account] ?? account,
      debit,
      credit,
    }));
    return [{ ...entry, date: formatDay(entry.date), number: null, instrumentId: '', instrument: '', lines }];
  });
}
