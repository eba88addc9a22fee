import { ChangeDetectionStrategy, Component, HostListener, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { endpoints } from '@coffer/contract';
import { ApiClient } from '../api/api-client';
import { refusedAt } from '../api/refused-at';
import { SessionService } from '../session/session.service';
import { PeriodRail } from '../shell/period-rail';
import { PlainFrame } from '../shell/plain-frame';
import { CompanyFields } from './company-fields';
import { CompanyForm } from './company-form';
import { follow, previewed } from './preview-as-of';

/** Another company in the installation, administered by who makes it. */
@Component({
  selector: 'coffer-another-company',
  imports: [CompanyFields, MatButtonModule, PeriodRail, PlainFrame],
  providers: previewed,
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <coffer-plain-frame>
      <strong about>{{ form.shownName() || 'Another company' }}</strong>
      @if (form.preview(); as drawn) {
        <coffer-period-rail rail [company]="drawn" />
      }
      <div class="page-head">
        <h1>Another company</h1>
        <span class="dim">with books, people and instruments of its own; you prepare and administer it</span>
      </div>
      <form class="sheet" (submit)="$event.preventDefault(); submit()">
        <coffer-company-fields [form]="form" />
        <button hidden></button>
      </form>
      <footer foot>
        <span>
          @if (failed(); as message) {
            <span class="wrong" role="alert">{{ message }}</span>
          }
        </span>
        <button matButton="filled" [disabled]="busy()" (click)="submit()">
          Make the company <kbd>Ctrl Enter</kbd>
        </button>
      </footer>
    </coffer-plain-frame>
  `,
  styleUrl: './set-up.page.scss',
})
export class AnotherCompanyPage {
  private readonly api = inject(ApiClient);
  private readonly session = inject(SessionService);
  protected readonly form = new CompanyForm();
  protected readonly failed = signal('');
  protected readonly busy = signal(false);

  constructor() {
    follow(this.form);
  }

  @HostListener('document:keydown.control.enter')
  protected submit(): void {
    const company = this.form.read();
    if (!company || this.busy()) return;
    this.busy.set(true);
    this.failed.set('');
    const known = new Set(this.session.companies().map(({ id }) => id));
    this.api.call(endpoints.makeCompany, { body: company }).subscribe({
      next: ({ person }) => {
        this.session.enter(person);
        const made = person.companies.find(({ id }) => !known.has(id));
        if (made) this.session.work(made.id);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        const { fields, whole } = refusedAt(error);
        this.form.tell(fields);
        this.failed.set(whole);
      },
    });
  }
}
