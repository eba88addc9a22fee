import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import {
  endpoints,
  roleWords,
  type InvitationView,
  type MemberView,
  type Permission,
} from '@coffer/contract';
import { ApiClient } from '../api/api-client';
import { loaded } from '../api/loaded';
import { messageOf } from '../api/message-of';
import { SessionService } from '../session/session.service';
import { MomentPipe } from '../figures/moment.pipe';
import { InviteDialog } from './invite.dialog';
import { RoleDialog } from './role.dialog';

/** The people of the company, their roles, the links that were not taken up, and what happened. */
@Component({
  selector: 'coffer-people',
  imports: [MatButtonModule, MomentPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './people.page.html',
  styleUrl: './people.page.scss',
})
export class PeoplePage {
  private readonly api = inject(ApiClient);
  private readonly dialog = inject(MatDialog);
  protected readonly session = inject(SessionService);
  protected readonly loaded = loaded(
    computed(() => this.session.company()?.id),
    () => this.api.call(endpoints.people),
  );
  protected readonly view = this.loaded.value;
  protected readonly failed = signal('');
  /** Failures alone, where somebody looks for them. */
  protected readonly failuresOnly = signal(false);
  protected readonly events = computed(() =>
    (this.view()?.events ?? []).filter(({ failed }) => failed || !this.failuresOnly()),
  );

  protected roleOf(role: readonly Permission[]): string {
    return roleWords(role);
  }

  protected invite(): void {
    this.opened(
      this.dialog.open<InviteDialog, MemberView | null, boolean>(InviteDialog, {
        data: null,
        width: '480px',
      }),
    );
  }

  protected newPassword(member: MemberView): void {
    this.opened(
      this.dialog.open<InviteDialog, MemberView | null, boolean>(InviteDialog, {
        data: member,
        width: '480px',
      }),
    );
  }

  protected change(member: MemberView): void {
    this.opened(
      this.dialog.open<RoleDialog, MemberView, boolean>(RoleDialog, { data: member, width: '480px' }),
    );
  }

  private opened(dialog: ReturnType<MatDialog['open']>): void {
    dialog.afterClosed().subscribe(() => this.loaded.again());
  }

  protected takeBack({ id }: InvitationView): void {
    this.act(this.api.call(endpoints.takeBackInvitation, { params: { invitation: String(id) } }));
  }

  protected require(required: boolean): void {
    this.act(this.api.call(endpoints.requireFactor, { body: { required } }));
  }

  private act(call: ReturnType<typeof this.api.call>): void {
    this.failed.set('');
    call.subscribe({
      next: () => this.loaded.again(),
      error: (error: unknown) => this.failed.set(messageOf(error)),
    });
  }
}
