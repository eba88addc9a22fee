import { ChangeDetectionStrategy, Component, computed, HostListener, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import { endpoints, showDay } from '@coffer/contract';
import { switchMap } from 'rxjs';
import { PasswordMeter } from '../account/password-meter';
import { ApiClient } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { refusedAt } from '../api/refused-at';
import { FieldReader } from '../fields/field-reader';
import { SecretField } from '../fields/secret-field';
import { TypedField } from '../fields/typed-field';
import { SessionService } from '../session/session.service';
import { PeriodRail } from '../shell/period-rail';
import { PlainFrame } from '../shell/plain-frame';
import { CompanyFields } from './company-fields';
import { CompanyForm } from './company-form';
import { follow, previewed } from './preview-as-of';

const field = (): FormControl<string> => new FormControl('', { nonNullable: true });

/** First start: the company and its first administrator, for who has the one-time code. */
@Component({
  selector: 'coffer-set-up',
  imports: [CompanyFields, MatButtonModule, PasswordMeter, PeriodRail, PlainFrame, SecretField, TypedField],
  providers: previewed,
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './set-up.page.html',
  styleUrl: './set-up.page.scss',
})
export class SetUpPage {
  private readonly api = inject(ApiClient);
  private readonly session = inject(SessionService);
  private readonly router = inject(Router);
  protected readonly company = new CompanyForm();
  /** The code stands after `#` in what the start command prints, where no server sees it. */
  protected readonly code = new FormControl(location.hash.slice(1), { nonNullable: true });
  protected readonly name = field();
  protected readonly logIn = field();
  protected readonly password = field();
  protected readonly accepted = signal('');
  protected readonly faults = signal<Readonly<Record<string, string>>>({});
  protected readonly failed = signal('');
  protected readonly busy = signal(false);
  protected readonly typedPassword = toSignal(this.password.valueChanges, { initialValue: '' });
  private readonly typedName = toSignal(this.name.valueChanges, { initialValue: '' });
  private readonly typedLogIn = toSignal(this.logIn.valueChanges, { initialValue: '' });
  protected readonly known = computed(() => [this.typedName(), this.typedLogIn(), this.company.shownName()]);
  protected readonly summary = computed(() => {
    this.company.writes();
    const first = this.company.first();
    return [
      this.company.shownName() || 'Your company',
      this.company.shownCurrency(),
      first === undefined ? '' : `books from ${showDay(first)}`,
      this.typedName() === '' ? '' : `${this.typedName()} administers`,
    ]
      .filter((part) => part !== '')
      .join(', ');
  });

  constructor() {
    follow(this.company);
    this.session.load().subscribe({
      next: ({ installation }) => {
        if (installation !== 'empty') void this.router.navigateByUrl('/log-in');
        else if (this.code.value !== '') this.tryCode();
      },
      error: (error: unknown) => this.failed.set(messageOf(error)),
    });
  }

  protected tryCode(event?: Event): void {
    event?.preventDefault();
    this.faults.set({});
    this.api.call(endpoints.tryCode, { body: { code: this.code.value } }).subscribe({
      next: () => {
        const now = new Date();
        this.accepted.set(`${now.getHours()}:${String(now.getMinutes()).padStart(2, '0')}`);
        history.replaceState(null, '', location.pathname);
        setTimeout(() => document.querySelector<HTMLElement>('coffer-company-fields input')?.focus());
      },
      error: (error: unknown) => this.refuse(error),
    });
  }

  @HostListener('document:keydown.control.enter')
  protected submit(): void {
    if (this.accepted() === '' || this.busy()) return;
    const reader = new FieldReader();
    const name = reader.text('person.name', this.name.value);
    const logIn = reader.text('person.logIn', this.logIn.value);
    const password = this.password.value === '' ? undefined : this.password.value;
    if (password === undefined) reader.missing.push('person.password');
    this.faults.set(reader.byKey());
    const company = this.company.read();
    if (!company || name === undefined || logIn === undefined || password === undefined) {
      this.toFirstFault();
      return;
    }
    this.busy.set(true);
    this.failed.set('');
    const body = { code: this.code.value, company, person: { name, logIn, password } };
    this.session
      .load()
      .pipe(switchMap(() => this.api.call(endpoints.setUp, { body })))
      .subscribe({
        next: ({ person }) => {
          this.session.enter(person);
          void this.router.navigateByUrl('/');
        },
        error: (error: unknown) => this.refuse(error),
      });
  }

  private refuse(error: unknown): void {
    this.busy.set(false);
    const { fields, whole } = refusedAt(error);
    this.faults.set(fields);
    const ofCompany = Object.entries(fields).filter(([key]) => key.startsWith('company.'));
    this.company.tell(
      Object.fromEntries(ofCompany.map(([key, message]) => [key.slice('company.'.length), message])),
    );
    this.failed.set(whole);
    this.toFirstFault();
  }

  private toFirstFault(): void {
    setTimeout(() => document.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus());
  }
}
