import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { endpoints, type MemberView, type Permission } from '@coffer/contract';
import type { Observable } from 'rxjs';
import { ApiClient } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { RoleChoice } from './role-choice';

/** Changes somebody's role, suspends or readmits them. */
@Component({
  selector: 'coffer-role',
  imports: [MatButtonModule, MatDialogModule, RoleChoice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ member.name }}</h2>
    <mat-dialog-content>
      <coffer-role-choice [(role)]="role" />
      @if (failed(); as message) {
        <p class="notice wrong" role="alert">{{ message }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton class="first" [disabled]="busy()" (click)="save(member.role, !member.suspended)">
        {{ member.suspended ? 'Readmit' : 'Suspend' }}
      </button>
      <button matButton [disabled]="busy()" (click)="endSessions()">End sessions</button>
      <button matButton mat-dialog-close>Cancel</button>
      <button matButton="filled" [disabled]="busy()" (click)="save(role(), member.suspended)">
        Take this role
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: var(--space-6);
    }
    .first {
      margin-right: auto;
    }
  `,
})
export class RoleDialog {
  protected readonly member = inject<MemberView>(MAT_DIALOG_DATA);
  private readonly api = inject(ApiClient);
  private readonly dialog = inject(MatDialogRef<RoleDialog, boolean>);
  protected readonly role = signal<readonly Permission[]>(this.member.role);
  protected readonly failed = signal('');
  protected readonly busy = signal(false);

  protected endSessions(): void {
    this.run(this.api.call(endpoints.endMemberSessions, { params: { person: String(this.member.id) } }));
  }

  protected save(role: readonly Permission[], suspended: boolean): void {
    const params = { person: String(this.member.id) };
    this.run(this.api.call(endpoints.changeMember, { params, body: { role: [...role], suspended } }));
  }

  private run(call: Observable<unknown>): void {
    this.busy.set(true);
    this.failed.set('');
    call.subscribe({
      next: () => this.dialog.close(true),
      error: (error: unknown) => {
        this.busy.set(false);
        this.failed.set(messageOf(error));
      },
    });
  }
}
