import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { downloads, endpoints, type PortfolioQuery, type ScenarioChange } from '@coffer/contract';
import { ApiClient } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { CompanyChoice } from '../session/company-choice';

/** A scenario that the portfolio is looked at under. */
export interface LookedUnder {
  readonly name: string;
  readonly on: string;
  readonly changes: readonly ScenarioChange[];
}

/** The portfolio as it is seen, as files: terms as they are, or under a scenario that they name. */
@Component({
  selector: 'coffer-portfolio-take-out',
  imports: [MatButtonModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button matButton="outlined" [matMenuTriggerFor]="files">Take out</button>
    <mat-menu #files="matMenu">
      @if (scenario(); as under) {
        <button mat-menu-item (click)="take(under, 'xlsx')">
          As a workbook, XLSX, with {{ under.name }}
        </button>
        <button mat-menu-item (click)="take(under, 'csv')">As CSV, with {{ under.name }}</button>
        <button mat-menu-item (click)="take(under, 'pdf')">
          As a working paper, PDF, with {{ under.name }}
        </button>
      } @else {
        <a mat-menu-item [href]="workbook()" download>As a workbook, XLSX</a>
        <a mat-menu-item [href]="csv()" download>As CSV</a>
        <a mat-menu-item [href]="paper()" download>As a working paper, PDF</a>
      }
    </mat-menu>
  `,
})
export class PortfolioTakeOut {
  private readonly api = inject(ApiClient);
  private readonly choice = inject(CompanyChoice);
  readonly asked = input.required<PortfolioQuery>();
  /** The scenario that is looked at, where it changes something. */
  readonly scenario = input<LookedUnder>();
  /** Why something was not taken out; empty once it is tried again. */
  readonly failed = output<string>();
  protected readonly workbook = computed(() =>
    this.choice.file(downloads.portfolioWorkbook, {}, this.asked()),
  );
  protected readonly csv = computed(() => this.choice.file(downloads.portfolioCsv, {}, this.asked()));
  protected readonly paper = computed(() => this.choice.file(downloads.portfolioPaper, {}, this.asked()));

  protected take({ name, on, changes }: LookedUnder, as: 'csv' | 'xlsx' | 'pdf'): void {
    this.failed.emit('');
    const body = { asked: this.asked(), on, scenario: name, changes: [...changes], as };
    this.api.file(endpoints.triedPortfolioFile, body).subscribe({
      error: (error: unknown) => this.failed.emit(messageOf(error)),
    });
  }
}
