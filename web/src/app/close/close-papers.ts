import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { downloads } from '@coffer/contract';
import { CompanyChoice } from '../session/company-choice';

/** The close of a month on paper and as a workbook. */
@Component({
  selector: 'coffer-close-papers',
  imports: [MatButtonModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button matButton="outlined" [matMenuTriggerFor]="files">Working paper</button>
    <mat-menu #files="matMenu">
      <a mat-menu-item [href]="paper()" download>On paper, PDF</a>
      <a mat-menu-item [href]="workbook()" download>As a workbook, XLSX</a>
    </mat-menu>
  `,
})
export class ClosePapers {
  private readonly choice = inject(CompanyChoice);
  /** Last day of the month. */
  readonly month = input.required<string>();
  protected readonly paper = computed(() =>
    this.choice.file(downloads.closePaper, { endsOn: this.month() }, {}),
  );
  protected readonly workbook = computed(() =>
    this.choice.file(downloads.closeWorkbook, { endsOn: this.month() }, {}),
  );
}
