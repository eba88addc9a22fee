import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { downloads } from '@coffer/contract';
import { CompanyChoice } from '../session/company-choice';

/** The close of a month on paper and as a workbook; its entries, once they are posted. */
@Component({
  selector: 'coffer-close-papers',
  imports: [MatButtonModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button matButton="outlined" [matMenuTriggerFor]="files">Take out</button>
    <mat-menu #files="matMenu">
      <a mat-menu-item [href]="paper()" download>Working paper, PDF</a>
      <a mat-menu-item [href]="workbook()" download>Working paper, XLSX</a>
      @if (closed()) {
        <a mat-menu-item [href]="entriesWorkbook()" download>Entries, XLSX</a>
        <a mat-menu-item [href]="entriesCsv()" download>Entries, CSV</a>
      }
    </mat-menu>
  `,
})
export class ClosePapers {
  private readonly choice = inject(CompanyChoice);
  /** Last day of the month. */
  readonly month = input.required<string>();
  readonly closed = input.required<boolean>();
  protected readonly paper = computed(() =>
    this.choice.file(downloads.closePaper, { endsOn: this.month() }, {}),
  );
  protected readonly workbook = computed(() =>
    this.choice.file(downloads.closeWorkbook, { endsOn: this.month() }, {}),
  );
  private readonly span = computed(() => ({ from: `${this.month().slice(0, 8)}01`, to: this.month() }));
  protected readonly entriesWorkbook = computed(() =>
    this.choice.file(downloads.journalWorkbook, {}, this.span()),
  );
  protected readonly entriesCsv = computed(() => this.choice.file(downloads.journalCsv, {}, this.span()));
}
