import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { endpoints, type SessionView } from '@coffer/contract';
import { RouterLink } from '@angular/router';
import type { Observable } from 'rxjs';
import { ApiClient } from '../api/api-client';
import { loaded } from '../api/loaded';
import { refusedAt } from '../api/refused-at';
import { SecretField } from '../fields/secret-field';
import { MomentPipe } from '../figures/moment.pipe';
import { SessionService } from '../session/session.service';
import { PlainFrame } from '../shell/plain-frame';
import { PasswordMeter } from './password-meter';
import { SecondFactorPart } from './second-factor-part';

/** A person's own account: password, second factor, and where it is logged in. */
@Component({
  selector: 'coffer-account',
  imports: [
    MatButtonModule,
    MomentPipe,
    PasswordMeter,
    PlainFrame,
    RouterLink,
    SecondFactorPart,
    SecretField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './account.page.html',
  styleUrl: './account.page.scss',
})
export class AccountPage {
  private readonly api = inject(ApiClient);
  protected readonly session = inject(SessionService);
  protected readonly loaded = loaded(
    computed(() => this.session.person()?.logIn),
    () => this.api.call(endpoints.account),
  );
  protected readonly account = this.loaded.value;
  protected readonly now = new FormControl('', { nonNullable: true });
  protected readonly next = new FormControl('', { nonNullable: true });
  protected readonly again = new FormControl('', { nonNullable: true });
  protected readonly typed = toSignal(this.next.valueChanges, { initialValue: '' });
  protected readonly faults = signal<Readonly<Record<string, string>>>({});
  protected readonly said = signal('');
  protected readonly failed = signal('');
  protected readonly names = computed(() => {
    const person = this.session.person();
    return person ? [person.name, person.logIn, ...person.companies.map(({ name }) => name)] : [];
  });

  protected changePassword(event: Event): void {
    event.preventDefault();
    const [now, next] = [this.now.value, this.next.value];
    const missing = {
      ...(now === '' && { now: 'This is needed.' }),
      ...(next === '' && { next: 'This is needed.' }),
    };
    this.faults.set(missing);
    if (now === '' || next === '') return;
    this.act(
      this.api.call(endpoints.changePassword, { body: { now, next } }),
      'The password is changed; all other sessions have ended.',
      () => {
        this.now.reset();
        this.next.reset();
      },
    );
  }

  /** Ends one session, or all others. */
  protected end(session?: SessionView): void {
    const password = this.again.value;
    this.faults.set(password === '' ? { password: 'This is needed.' } : {});
    if (password === '') return;
    const body = { password, ...(session && { session: session.id }) };
    const said = session ? 'The session has ended.' : 'All other sessions have ended.';
    this.act(this.api.call(endpoints.endSessions, { body }), said, () => this.again.reset());
  }

  private act(call: Observable<unknown>, said: string, then?: () => void): void {
    this.failed.set('');
    this.said.set('');
    call.subscribe({
      next: () => {
        this.said.set(said);
        then?.();
        this.loaded.again();
      },
      error: (error: unknown) => {
        const { fields, whole } = refusedAt(error);
        this.faults.set(fields);
        this.failed.set(whole);
      },
    });
  }
}
