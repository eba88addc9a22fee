import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { addMonths, formatDay, parseDay, type CalendarDay } from '@coffer/core';
import { downloads } from '@coffer/contract';
import { CompanyChoice } from '../session/company-choice';

/** The posted entries of a span as files; of a month where only its end is given. */
@Component({
  selector: 'coffer-journal-files',
  imports: [MatButtonModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button matButton="outlined" [matMenuTriggerFor]="files">Take out the entries</button>
    <mat-menu #files="matMenu">
      <a mat-menu-item [href]="workbook()" download>As a workbook, XLSX</a>
      <a mat-menu-item [href]="csv()" download>As CSV</a>
    </mat-menu>
  `,
})
export class JournalFiles {
  private readonly choice = inject(CompanyChoice);
  /** Last day of the span. */
  readonly month = input.required<string>();
  /** First day of the span, where it is more than the month. */
  readonly from = input<string>();
  private readonly span = computed(() => {
    const start = addMonths(parseDay(this.month()) as CalendarDay, -1, true) + 1;
    return { from: this.from() ?? formatDay(start), to: this.month() };
  });
  protected readonly workbook = computed(() => this.choice.file(downloads.journalWorkbook, {}, this.span()));
  protected readonly csv = computed(() => this.choice.file(downloads.journalCsv, {}, this.span()));
}
