import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { endpoints, type AccountView } from '@coffer/contract';
import qrcode from 'qrcode-generator';
import { ApiClient } from '../api/api-client';
import { refusedAt } from '../api/refused-at';
import { SecretField } from '../fields/secret-field';
import { TypedField } from '../fields/typed-field';
import { MomentPipe } from '../figures/moment.pipe';

/** Turns the second factor on, by a picture or by its letters, and off. */
@Component({
  selector: 'coffer-second-factor-part',
  imports: [MatButtonModule, MomentPipe, SecretField, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (recoveryCodes(); as codes) {
      <p class="notice agreed" role="status">
        The second factor is on. Keep these codes where the device is not; each lets you in once without it.
        They are not shown again.
      </p>
      <ul class="codes" aria-label="Recovery codes">
        @for (code of codes; track code) {
          <li>{{ code }}</li>
        }
      </ul>
      <button matButton="outlined" (click)="kept()">I have kept them</button>
    } @else if (begun(); as made) {
      <form class="begun" (submit)="confirm($event)">
        <svg [attr.viewBox]="picture().box" role="img" aria-label="Picture of the secret, for the device">
          <rect width="100%" height="100%" fill="#fff" />
          <path [attr.d]="picture().path" fill="#000" />
        </svg>
        <div class="steps">
          <p>Let a program for time codes read the picture, or type its letters:</p>
          <p class="secret">{{ spaced(made.secret) }}</p>
          <coffer-typed-field label="The six digits it shows" [control]="code" [fault]="fault('code')" />
          <button matButton="filled">Turn it on</button>
          <button matButton type="button" (click)="begun.set(undefined)">Cancel</button>
        </div>
      </form>
    } @else {
      <form class="fields" (submit)="begin($event)">
        @if (account().secondFactorSince) {
          <p class="line">
            <span class="chip agreed">on</span> since {{ account().secondFactorSince | moment }} ·
            {{ account().recoveryCodesLeft }} recovery codes left
          </p>
        } @else {
          <p class="line">
            <span class="chip">none</span> A code that changes every half minute, from a device that only you
            have.
          </p>
        }
        <coffer-secret-field label="Password now" [control]="password" [fault]="fault('password')" />
        @if (account().secondFactorSince) {
          <coffer-typed-field label="Code, or a recovery code" [control]="code" [fault]="fault('code')" />
          <button matButton="outlined" type="button" (click)="remove()">Turn it off</button>
        } @else {
          <button matButton="outlined">Set one up</button>
        }
      </form>
    }
    @if (failed(); as message) {
      <p class="notice wrong" role="alert">{{ message }}</p>
    }
  `,
  styleUrl: './second-factor-part.scss',
})
export class SecondFactorPart {
  readonly account = input.required<AccountView>();
  readonly changed = output();
  private readonly api = inject(ApiClient);
  protected readonly password = new FormControl('', { nonNullable: true });
  protected readonly code = new FormControl('', { nonNullable: true });
  protected readonly begun = signal<{ secret: string; address: string } | undefined>(undefined);
  protected readonly recoveryCodes = signal<readonly string[] | undefined>(undefined);
  private readonly faults = signal<Readonly<Record<string, string>>>({});
  protected readonly failed = signal('');
  protected readonly picture = computed(() => pictureOf(this.begun()?.address ?? ''));

  protected fault(key: string): string {
    return this.faults()[key] ?? '';
  }

  protected spaced(secret: string): string {
    return (secret.match(/.{1,4}/g) ?? []).join(' ');
  }

  protected begin(event: Event): void {
    event.preventDefault();
    this.clear();
    this.api.call(endpoints.beginFactor, { body: { password: this.password.value } }).subscribe({
      next: (made) => {
        this.password.reset();
        this.code.reset();
        this.begun.set(made);
      },
      error: (error: unknown) => this.refuse(error),
    });
  }

  protected confirm(event: Event): void {
    event.preventDefault();
    this.clear();
    this.api.call(endpoints.confirmFactor, { body: { code: this.code.value } }).subscribe({
      next: ({ recoveryCodes }) => {
        this.begun.set(undefined);
        this.recoveryCodes.set(recoveryCodes);
      },
      error: (error: unknown) => this.refuse(error),
    });
  }

  protected kept(): void {
    this.recoveryCodes.set(undefined);
    this.changed.emit();
  }

  protected remove(): void {
    this.clear();
    const body = { password: this.password.value, code: this.code.value };
    this.api.call(endpoints.removeFactor, { body }).subscribe({
      next: () => {
        this.password.reset();
        this.code.reset();
        this.changed.emit();
      },
      error: (error: unknown) => this.refuse(error),
    });
  }

  private clear(): void {
    this.faults.set({});
    this.failed.set('');
  }

  private refuse(error: unknown): void {
    const { fields, whole } = refusedAt(error);
    this.faults.set(fields);
    this.failed.set(whole);
  }
}

/** A text as a QR code (ISO/IEC 18004), as one path with the quiet zone of four modules that the standard asks for. */
function pictureOf(text: string): { readonly box: string; readonly path: string } {
  const quiet = 4;
  const code = qrcode(0, 'M');
  code.addData(text);
  code.make();
  const size = code.getModuleCount();
  const dark: string[] = [];
  for (let row = 0; row < size; row += 1) {
    for (let column = 0; column < size; column += 1) {
      if (code.isDark(row, column)) dark.push(`M${column + quiet} ${row + quiet}h1v1h-1z`);
    }
  }
  return { box: `0 0 ${size + 2 * quiet} ${size + 2 * quiet}`, path: dark.join('') };
}
