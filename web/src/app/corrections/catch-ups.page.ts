import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { downloads, showMonth, showMovement } from '@coffer/contract';
import { loaded } from '../api/loaded';
import { AsOfService } from '../company/as-of.service';
import { CompanyService } from '../company/company.service';
import { railYears } from '../company/fiscal-periods';
import { AmountPipe } from '../figures/amount.pipe';
import { CompanyChoice } from '../session/company-choice';
import { CorrectionsService } from './corrections.service';

/** Everything that the months of a fiscal year book for months closed before, and what it comes to together. */
@Component({
  selector: 'coffer-catch-ups',
  imports: [AmountPipe, MatButtonModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './catch-ups.page.html',
  styleUrl: './catch-ups.page.scss',
  host: { '[class.behind]': 'loaded.behind()' },
})
export class CatchUpsPage {
  private readonly corrections = inject(CorrectionsService);
  private readonly company = inject(CompanyService);
  private readonly choice = inject(CompanyChoice);
  protected readonly asOf = inject(AsOfService);
  protected readonly showMonth = showMonth;

  /** The fiscal year that the chosen month lies in. */
  protected readonly year = computed(() => {
    const company = this.company.company();
    const date = this.asOf.date();
    return company && date
      ? railYears(company, date).find(({ periods }) => periods.some(({ endsOn }) => endsOn === date))
      : undefined;
  });
  private readonly span = computed(() => {
    const periods = this.year()?.periods;
    const [from, to] = [periods?.[0]?.endsOn, periods?.at(-1)?.endsOn];
    return from !== undefined && to !== undefined ? ([from, to] as const) : undefined;
  });
  protected readonly loaded = loaded(this.span, ([from, to]) => this.corrections.bookedBetween(from, to));
  protected readonly view = this.loaded.value;
  protected readonly csv = computed(() => {
    const span = this.span();
    return span ? this.choice.file(downloads.catchUpsCsv, {}, { from: span[0], to: span[1] }) : '';
  });

  protected moved(amount: number): string {
    return `${amount > 0 ? '+' : ''}${showMovement(amount, this.company.digits())}`;
  }
}
