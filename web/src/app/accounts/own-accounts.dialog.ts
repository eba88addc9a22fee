import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { accountRoles, type AccountRole } from '@coffer/core';
import { accountName, type InstrumentView } from '@coffer/contract';
import { loaded } from '../api/loaded';
import { messageOf } from '../api/message-of';
import { TypedField } from '../fields/typed-field';
import { AccountsService } from './accounts.service';

/** Gives an instrument accounts of its own, and a cost centre. Closes with `true` once they are kept. */
@Component({
  selector: 'coffer-own-accounts',
  imports: [MatButtonModule, MatDialogModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Accounts of its own</h2>
    <form (submit)="keep($event)">
      <mat-dialog-content>
        <p class="dim">
          {{ instrument.document.name }}. What is posted keeps its codes; a balance that stands in another
          account is moved by an entry of the open month.
        </p>
        <coffer-typed-field label="Cost centre" [control]="centre" />
        @if (chart.value(); as known) {
          @for (each of roles; track each.role) {
            <label>
              <span>{{ each.name }}</span>
              <select
                [value]="chosen().get(each.role) ?? ''"
                (change)="choose(each.role, $any($event.target).value)"
              >
                <option value="" [selected]="!chosen().has(each.role)">
                  as the chart has it: {{ usual(each.role) }}
                </option>
                @for (account of known.accounts; track account.code) {
                  <option [value]="account.code" [selected]="chosen().get(each.role) === account.code">
                    {{ account.code }} {{ account.name }}
                  </option>
                }
              </select>
            </label>
          }
        }
        @if (failed() || chart.failed(); as message) {
          <p class="notice wrong" role="alert">{{ message }}</p>
        }
      </mat-dialog-content>
      <mat-dialog-actions align="end">
        <button matButton type="button" mat-dialog-close>Cancel</button>
        <button matButton="filled" [disabled]="busy()">Keep them</button>
      </mat-dialog-actions>
    </form>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: var(--space-4);
    }
    label {
      display: grid;
      grid-template-columns: 200px minmax(0, 1fr);
      align-items: center;
      gap: var(--space-5);
    }
    select {
      font: inherit;
      color: var(--ink);
      background: var(--sheet);
      border: 1px solid var(--line-2);
      border-radius: 4px;
      padding: var(--space-2) var(--space-3);
      min-width: 0;
    }
  `,
})
export class OwnAccountsDialog {
  protected readonly instrument =
    inject<Pick<InstrumentView, 'id' | 'accounts' | 'costCentre' | 'document'>>(MAT_DIALOG_DATA);
  private readonly service = inject(AccountsService);
  private readonly dialog = inject(MatDialogRef<OwnAccountsDialog, true>);
  protected readonly chart = loaded(signal('chart'), () => this.service.chart());
  protected readonly roles = accountRoles.map((role) => ({ role, name: accountName(role) }));
  protected readonly centre = new FormControl(this.instrument.costCentre ?? '', { nonNullable: true });
  protected readonly chosen = signal<ReadonlyMap<AccountRole, string>>(
    new Map(this.instrument.accounts.filter(({ own }) => own).map(({ role, code }) => [role, code])),
  );
  private readonly defaults = computed(
    () => new Map(this.chart.value()?.defaults.map(({ role, code }) => [role, code])),
  );
  protected readonly failed = signal('');
  protected readonly busy = signal(false);

  protected usual(role: AccountRole): string {
    return this.defaults().get(role) ?? 'none';
  }

  protected choose(role: AccountRole, code: string): void {
    this.chosen.update((before) => {
      const next = new Map(before);
      if (code === '') next.delete(role);
      else next.set(role, code);
      return next;
    });
  }

  protected keep(event: Event): void {
    event.preventDefault();
    this.busy.set(true);
    this.failed.set('');
    const accounts = [...this.chosen()].map(([role, code]) => ({ role, code }));
    const costCentre = this.centre.value.trim() || null;
    this.service.keepOwn(this.instrument.id, { accounts, costCentre }).subscribe({
      next: () => this.dialog.close(true),
      error: (error: unknown) => {
        this.busy.set(false);
        this.failed.set(messageOf(error));
      },
    });
  }
}
