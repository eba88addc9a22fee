import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { showAmount, showMonth, showMovement } from '@coffer/contract';
import { loaded } from '../api/loaded';
import { CompanyService } from '../company/company.service';
import { CorrectionsService } from './corrections.service';

/** A closed month as it was reported beside what is known of it now; nothing where both are the same. */
@Component({
  selector: 'coffer-month-corrected',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (loaded.failed(); as failed) {
      <section class="sheet wrong" role="alert">{{ failed }}</section>
    }
    @if (lines(); as lines) {
      @if (lines.length > 0) {
        <section class="sheet" aria-label="Corrections">
          <div class="head">
            <h2>Corrections</h2>
            <a routerLink="/catch-ups">All of the fiscal year</a>
          </div>
          <table class="plain">
            <thead>
              <tr>
                <th>{{ month() }}</th>
                <th class="figure">as reported</th>
                <th class="figure">as known now</th>
                <th class="figure">difference</th>
              </tr>
            </thead>
            <tbody>
              @for (line of lines; track line.account) {
                <tr>
                  <td>{{ line.account }}</td>
                  <td class="figure">{{ line.reported }}</td>
                  <td class="figure">{{ line.known }}</td>
                  <td class="figure">{{ line.difference }}</td>
                </tr>
              }
            </tbody>
          </table>
        </section>
      }
    }
  `,
  styles: `
    section {
      padding: var(--space-5) var(--space-7);
    }
    .head {
      display: flex;
      justify-content: space-between;
      align-items: baseline;
      margin-bottom: var(--space-3);
    }
    table {
      width: 100%;
      border-collapse: collapse;
      font-size: var(--text-small);
    }
    th {
      color: var(--ink-3);
      font-weight: 400;
      text-align: left;
    }
    th.figure {
      text-align: right;
    }
    td,
    th {
      padding: var(--space-1) 0;
      border-bottom: 1px solid var(--line);
    }
  `,
})
export class MonthCorrected {
  readonly endsOn = input.required<string>();
  private readonly corrections = inject(CorrectionsService);
  private readonly company = inject(CompanyService);
  protected readonly loaded = loaded(this.endsOn, (endsOn) => this.corrections.ofMonth(endsOn));
  protected readonly month = computed(() => showMonth(this.endsOn()));
  protected readonly lines = computed(() => {
    const digits = this.company.digits();
    if (this.loaded.behind()) return undefined;
    return this.loaded.value()?.accounts.map(({ account, reported, known }) => ({
      account,
      reported: showAmount(reported, digits),
      known: showAmount(known, digits),
      difference: `${known > reported ? '+' : ''}${showMovement(known - reported, digits)}`,
    }));
  });
}
