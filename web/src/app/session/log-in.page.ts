import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { Router } from '@angular/router';
import { ApiRefusal } from '../api/api-client';
import { SessionService } from './session.service';

/** The log-in. */
@Component({
  selector: 'coffer-log-in',
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main>
      @if (wrongCodes(); as many) {
        <section class="sheet told" role="alertdialog" aria-labelledby="told">
          <h1 id="told">You are logged in</h1>
          <p class="notice flag">
            {{ many === 1 ? 'A wrong code was' : many + ' wrong codes were' }} typed for
            {{ logInName() }} since the last log-in. Each came with your password. If that was not you,
            somebody knows it: change it now.
          </p>
          <button #on matButton="filled" (click)="go()">Go on</button>
          <button matButton="outlined" (click)="go('/account')">Change the password</button>
        </section>
      } @else {
        <form class="sheet" [formGroup]="form" (ngSubmit)="submit()">
          <h1>Coffer</h1>
          <p class="dim">The schedules of what the company owes.</p>
          <mat-form-field>
            <mat-label>Log-in name</mat-label>
            <input matInput formControlName="logIn" autocomplete="username" />
            @if (form.controls.logIn.hasError('required')) {
              <mat-error>Type your log-in name.</mat-error>
            }
          </mat-form-field>
          <mat-form-field>
            <mat-label>Password</mat-label>
            <input matInput type="password" formControlName="password" autocomplete="current-password" />
            @if (form.controls.password.hasError('required')) {
              <mat-error>Type your password.</mat-error>
            }
          </mat-form-field>
          @if (codeAsked()) {
            <mat-form-field>
              <mat-label>Code of your second factor</mat-label>
              <input
                #code
                matInput
                formControlName="code"
                autocomplete="one-time-code"
                inputmode="numeric"
                placeholder="six digits, or a recovery code"
              />
            </mat-form-field>
          }
          @if (refused(); as message) {
            <p class="notice wrong" role="alert">{{ message }}</p>
          }
          <button matButton="filled" [disabled]="busy()">{{ busy() ? 'Logging in…' : 'Log in' }}</button>
          @if (demo()) {
            <p class="dim note">
              This is the demo company. <code>./coffer start --own</code> begins with a company of your own.
            </p>
          }
        </form>
      }
    </main>
  `,
  styles: `
    main {
      min-height: 100vh;
      display: grid;
      place-items: center;
      padding: var(--space-9);
    }
    form,
    .told {
      width: min(340px, 100%);
      padding: var(--space-10) var(--space-10);
      display: grid;
      gap: var(--space-7);
    }
    h1 {
      font-size: 30px;
    }
    .note {
      font-size: var(--text-small);
    }
  `,
})
export class LogInPage {
  /** Address of the page to go on to. */
  readonly to = input<string>();
  private readonly session = inject(SessionService);
  private readonly router = inject(Router);
  protected readonly form = inject(NonNullableFormBuilder).group({
    logIn: ['', Validators.required],
    password: ['', Validators.required],
    code: '',
  });
  protected readonly codeAsked = signal(false);
  protected readonly demo = signal(false);
  private readonly code = viewChild<ElementRef<HTMLInputElement>>('code');

  constructor() {
    this.session.load().subscribe({
      next: ({ installation }) => {
        this.demo.set(installation === 'demo');
        if (installation === 'empty') void this.router.navigateByUrl('/set-up');
      },
      error: (error: unknown) => this.tell(error),
    });
  }
  protected readonly busy = signal(false);
  protected readonly refused = signal('');
  /** Wrong codes that are told of before anything else is shown. */
  protected readonly wrongCodes = signal(0);
  private readonly on = viewChild<unknown, ElementRef<HTMLButtonElement>>('on', { read: ElementRef });

  private tellOf(wrong: number): void {
    this.wrongCodes.set(wrong);
    // The form has gone, and the keyboard with it.
    setTimeout(() => this.on()?.nativeElement.focus());
  }

  protected logInName(): string {
    return this.form.controls.logIn.value.trim();
  }

  /** To the page that was asked for, or another. */
  protected go(to = this.safe(this.to())): void {
    void this.router.navigateByUrl(to);
  }

  protected submit(): void {
    this.form.markAllAsTouched();
    if (this.form.invalid) return;
    const { logIn, password, code } = this.form.getRawValue();
    this.busy.set(true);
    this.refused.set('');
    const withCode = code.trim() === '' ? {} : { code: code.trim() };
    this.session.logIn({ logIn: logIn.trim(), password, ...withCode }).subscribe({
      next: (wrong) => {
        if (wrong === 0) this.go();
        else this.tellOf(wrong);
      },
      error: (error: unknown) => this.tell(error),
    });
  }

  /** Only addresses within the application. */
  private safe(address: string | undefined): string {
    return address?.startsWith('/') && !address.startsWith('//') ? address : '/';
  }

  private tell(error: unknown): void {
    this.busy.set(false);
    if (error instanceof ApiRefusal && error.refusal.code === 'second-factor') {
      this.codeAsked.set(true);
      setTimeout(() => this.code()?.nativeElement.focus());
      return;
    }
    const fault = (key: string): string => (error instanceof ApiRefusal ? (error.faultOf(key) ?? '') : '');
    const more = fault('password') || fault('code') || fault('logIn');
    const message = error instanceof Error ? error.message : String(error);
    this.refused.set(more === '' || more === message ? message : `${message} ${more}`);
  }
}
