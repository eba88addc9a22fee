import { ChangeDetectionStrategy, Component, HostListener, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { endpoints, mostBundleBytes } from '@coffer/contract';
import { from, switchMap } from 'rxjs';
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
        <div class="actions">
          <input
            #file
            hidden
            type="file"
            accept=".zip"
            aria-label="Everything of a company, ZIP"
            (change)="bring(file)"
          />
          <button matButton="outlined" [disabled]="busy()" (click)="file.click()">
            {{ bringing() ? 'Bringing it in…' : 'Bring one from a file' }}
          </button>
        </div>
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

  protected readonly bringing = signal(false);

  constructor() {
    follow(this.form);
  }

  /** A company that another installation took out whole; under the name that is typed, where one is. */
  protected bring(input: HTMLInputElement): void {
    const file = input.files?.[0];
    input.value = '';
    if (!file || this.busy()) return;
    if (file.size > mostBundleBytes) {
      this.failed.set('The file is larger than 250 MB, the most that is taken in here.');
      return;
    }
    this.busy.set(true);
    this.bringing.set(true);
    this.failed.set('');
    const name = this.form.name.value.trim();
    from(file.arrayBuffer())
      .pipe(
        switchMap((bytes) =>
          this.api.call(endpoints.keepBundle, {
            query: name === '' ? {} : { name },
            body: new Uint8Array(bytes),
          }),
        ),
      )
      .subscribe({
        next: ({ companyId }) => this.session.work(companyId),
        error: (error: unknown) => this.refuse(error),
      });
  }

  private refuse(error: unknown): void {
    this.busy.set(false);
    this.bringing.set(false);
    const { fields, whole } = refusedAt(error);
    this.form.tell(fields);
    this.failed.set(whole);
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
      error: (error: unknown) => this.refuse(error),
    });
  }
}
