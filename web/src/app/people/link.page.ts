import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { endpoints, roleWords, type LinkTarget } from '@coffer/contract';
import { switchMap } from 'rxjs';
import { PasswordMeter } from '../account/password-meter';
import { ApiClient, ApiRefusal } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { SecretField } from '../fields/secret-field';
import { SessionService } from '../session/session.service';
import { PlainFrame } from '../shell/plain-frame';

/** Where a one-time link leads: into a company, or to a new password. */
@Component({
  selector: 'coffer-link',
  imports: [MatButtonModule, PasswordMeter, PlainFrame, RouterLink, SecretField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <coffer-plain-frame [back]="false">
      <strong about>{{ target()?.company }}</strong>
      <form class="sheet" (submit)="use($event)">
        @if (target(); as known) {
          @if (known.kind === 'invitation') {
            <h1>Welcome, {{ known.name }}</h1>
            <p>
              You come to <strong>{{ known.company }}</strong> as one who {{ role() }}. Your log-in name is
              <strong>{{ known.logIn }}</strong>.
            </p>
          } @else {
            <h1>A new password</h1>
            <p>
              For <strong>{{ known.name }}</strong>, log-in name <strong>{{ known.logIn }}</strong>. All
              sessions and a second factor end with it.
            </p>
          }
          @if (needsPassword()) {
            <input hidden autocomplete="username" [value]="known.logIn" />
            <coffer-secret-field
              label="Choose a password"
              autocomplete="new-password"
              [control]="password"
              [fault]="fault()"
            />
            <coffer-password-meter [password]="typed()" [names]="[known.name, known.logIn, known.company]" />
          } @else if (!isMe()) {
            <p class="notice">
              {{ known.logIn }} is known here already. Log in as {{ known.logIn }}, then follow the link once
              more.
            </p>
          }
        } @else if (!failed()) {
          <p class="dim">Looking at the link…</p>
        }
        @if (failed(); as message) {
          <p class="notice wrong" role="alert">{{ message }}</p>
        }
        @if (target() && (needsPassword() || isMe())) {
          <button matButton="filled" [disabled]="busy()">
            {{ target()?.kind === 'invitation' ? 'Come in' : 'Take this password' }}
          </button>
        } @else {
          <a matButton="outlined" routerLink="/log-in">Log in</a>
        }
      </form>
    </coffer-plain-frame>
  `,
  styles: `
    form {
      width: min(440px, 100%);
      margin: 8vh auto 0;
      padding: var(--space-10);
      display: grid;
      gap: var(--space-7);
    }
  `,
})
export class LinkPage {
  private readonly api = inject(ApiClient);
  private readonly session = inject(SessionService);
  private readonly router = inject(Router);
  /** The token stands after `#`, where no server sees it until it is used. */
  private readonly token = location.hash.slice(1);
  protected readonly password = new FormControl('', { nonNullable: true });
  protected readonly typed = toSignal(this.password.valueChanges, { initialValue: '' });
  protected readonly target = signal<LinkTarget | undefined>(undefined);
  protected readonly fault = signal('');
  protected readonly failed = signal('');
  protected readonly busy = signal(false);
  protected readonly role = computed(() => roleWords(this.target()?.role ?? []));
  protected readonly needsPassword = computed(
    () => this.target()?.kind === 'new-password' || this.target()?.known === false,
  );
  protected readonly isMe = computed(
    () => this.session.person()?.logIn.toLowerCase() === this.target()?.logIn.toLowerCase(),
  );

  constructor() {
    this.session
      .load()
      .pipe(switchMap(() => this.api.call(endpoints.seeLink, { body: { token: this.token } })))
      .subscribe({
        next: (target) => this.target.set(target),
        error: (error: unknown) => {
          const malformed = error instanceof ApiRefusal && error.status === 422;
          this.failed.set(
            malformed ? 'This link is not whole. Copy all of it, or ask for it once more.' : messageOf(error),
          );
        },
      });
  }

  protected use(event: Event): void {
    event.preventDefault();
    this.fault.set('');
    this.failed.set('');
    if (this.needsPassword() && this.password.value === '') {
      this.fault.set('This is needed.');
      return;
    }
    this.busy.set(true);
    const password = this.needsPassword() ? { password: this.password.value } : {};
    this.api.call(endpoints.useLink, { body: { token: this.token, ...password } }).subscribe({
      next: ({ person }) => {
        this.session.enter(person);
        const joined = person.companies.find(({ name }) => name === this.target()?.company);
        if (joined) this.session.work(joined.id);
        else void this.router.navigateByUrl('/');
      },
      error: (error: unknown) => {
        this.busy.set(false);
        const fault = error instanceof ApiRefusal ? error.faultOf('password') : undefined;
        if (fault === undefined) this.failed.set(messageOf(error));
        else this.fault.set(fault);
      },
    });
  }
}
