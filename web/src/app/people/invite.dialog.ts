import { Clipboard } from '@angular/cdk/clipboard';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { endpoints, linkHours, type LinkView, type MemberView, type Permission } from '@coffer/contract';
import { ApiClient } from '../api/api-client';
import { refusedAt } from '../api/refused-at';
import { FieldReader } from '../fields/field-reader';
import { TypedField } from '../fields/typed-field';
import { RoleChoice } from './role-choice';

/** Invites somebody, or gives somebody of the company a link for a new password; shows the link, once. */
@Component({
  selector: 'coffer-invite',
  imports: [MatButtonModule, MatDialogModule, RoleChoice, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ member ? 'A new password for ' + member.name : 'Invite somebody' }}</h2>
    <form (submit)="make($event)">
      <mat-dialog-content>
        @if (link(); as made) {
          <p>Hand this link over yourself; it holds once, for {{ hours }} hours, and is not shown again.</p>
          <textarea readonly rows="3" aria-label="One-time link" (focus)="area.select()" #area>{{
            made
          }}</textarea>
          <p role="status" class="agreed">{{ copied() }}</p>
        } @else {
          @if (member) {
            <p>
              {{ member.name }} chooses it by a one-time link. All sessions of {{ member.name }} and the
              second factor end once it is used.
            </p>
          } @else {
            <coffer-typed-field label="Name" [control]="name" [fault]="faults()['name'] ?? ''" />
            <coffer-typed-field
              label="Log-in name"
              [control]="logIn"
              [fault]="faults()['logIn'] ?? ''"
              hint="Who is known in another company here is invited by the log-in name used there."
            />
            <coffer-role-choice [(role)]="role" />
          }
          @if (failed(); as message) {
            <p class="notice wrong" role="alert">{{ message }}</p>
          }
        }
      </mat-dialog-content>
      <mat-dialog-actions align="end">
        @if (link()) {
          <button matButton type="button" (click)="copy()">Copy the link</button>
          <button matButton="filled" type="button" [mat-dialog-close]="true">Done</button>
        } @else {
          <button matButton type="button" mat-dialog-close>Cancel</button>
          <button matButton="filled" [disabled]="busy()">Make the link</button>
        }
      </mat-dialog-actions>
    </form>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: var(--space-7);
    }
    textarea {
      width: 100%;
      resize: none;
      background: var(--paper);
    }
  `,
})
export class InviteDialog {
  /** Who is to choose a new password; somebody new is invited without one. */
  protected readonly member = inject<MemberView | null>(MAT_DIALOG_DATA);
  private readonly api = inject(ApiClient);
  private readonly clipboard = inject(Clipboard);
  protected readonly hours = linkHours;
  protected readonly name = new FormControl('', { nonNullable: true });
  protected readonly logIn = new FormControl('', { nonNullable: true });
  protected readonly role = signal<readonly Permission[]>(['prepare']);
  protected readonly faults = signal<Readonly<Record<string, string>>>({});
  protected readonly failed = signal('');
  protected readonly busy = signal(false);
  protected readonly link = signal('');
  protected readonly copied = signal('');

  protected make(event: Event): void {
    event.preventDefault();
    const asked = this.member
      ? this.api.call(endpoints.newPasswordLink, { params: { person: String(this.member.id) } })
      : this.invitation();
    if (!asked) return;
    this.busy.set(true);
    asked.subscribe({
      next: ({ token }: LinkView) => this.link.set(`${location.origin}/link#${token}`),
      error: (error: unknown) => {
        this.busy.set(false);
        const { fields, whole } = refusedAt(error);
        this.faults.set(fields);
        this.failed.set(whole);
      },
    });
  }

  private invitation(): ReturnType<typeof this.api.call<typeof endpoints.invite>> | undefined {
    const reader = new FieldReader();
    const name = reader.text('name', this.name.value);
    const logIn = reader.text('logIn', this.logIn.value);
    this.faults.set(reader.byKey());
    if (name === undefined || logIn === undefined) return undefined;
    return this.api.call(endpoints.invite, { body: { name, logIn, role: [...this.role()] } });
  }

  protected copy(): void {
    this.copied.set(
      this.clipboard.copy(this.link()) ? 'Copied.' : 'It cannot be copied here; mark it and copy it.',
    );
  }
}
