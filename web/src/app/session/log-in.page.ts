import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
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
        @if (refused(); as message) {
          <p class="notice wrong" role="alert">{{ message }}</p>
        }
        <button matButton="filled" [disabled]="busy()">{{ busy() ? 'Logging in…' : 'Log in' }}</button>
      </form>
    </main>
  `,
  styles: `
    main {
      min-height: 100vh;
      display: grid;
      place-items: center;
      padding: var(--space-9);
    }
    form {
      width: min(340px, 100%);
      padding: var(--space-10) var(--space-10);
      display: grid;
      gap: var(--space-7);
    }
    h1 {
      font-size: 30px;
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
  });
  protected readonly busy = signal(false);
  protected readonly refused = signal('');

  protected submit(): void {
    this.form.markAllAsTouched();
    if (this.form.invalid) return;
    const { logIn, password } = this.form.getRawValue();
    this.busy.set(true);
    this.refused.set('');
    this.session.logIn(logIn, password).subscribe({
      next: () => void this.router.navigateByUrl(this.safe(this.to())),
      error: (error: unknown) => this.tell(error),
    });
  }

  /** Only addresses within the application. */
  private safe(address: string | undefined): string {
    return address?.startsWith('/') && !address.startsWith('//') ? address : '/';
  }

  private tell(error: unknown): void {
    this.busy.set(false);
    const more = error instanceof ApiRefusal ? (error.faultOf('password') ?? '') : '';
    this.refused.set(`${error instanceof Error ? error.message : String(error)} ${more}`.trim());
  }
}
