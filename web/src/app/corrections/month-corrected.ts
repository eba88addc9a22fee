import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { showAmount, showMovement } from '@coffer/contract';
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
          <ul>
            @for (line of lines; track line.account) {
              <li>
                <span
                  ><strong>{{ line.account }}</strong> <span class="figure">{{ line.difference }}</span></span
                >
                <span class="dim">reported {{ line.reported }}, known now {{ line.known }}</span>
              </li>
            }
          </ul>
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
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
      font-size: var(--text-small);
    }
    li {
      display: grid;
      padding: var(--space-1) 0;
      border-top: 1px solid var(--line);
    }
    li > :first-child {
      display: flex;
      justify-content: space-between;
    }
  `,
})
export class MonthCorrected {
  readonly endsOn = input.required<string>();
  private readonly corrections = inject(CorrectionsService);
  private readonly company = inject(CompanyService);
  protected readonly loaded = loaded(this.endsOn, (endsOn) => this.corrections.ofMonth(endsOn));
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
