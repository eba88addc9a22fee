import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { permissions, type Permission } from '@coffer/contract';

const words: Readonly<Record<Permission, readonly [name: string, means: string]>> = {
  prepare: ['Prepares', 'instruments, payments, closes, accounts and rates'],
  review: ['Reviews', 'looks through a month, keeps scenarios'],
  administer: ['Administers', 'people, roles and the company itself'],
};

/** A role, put together from what it allows; reading is always allowed. */
@Component({
  selector: 'coffer-role-choice',
  imports: [MatCheckboxModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fieldset>
      <legend>{{ legend() }}</legend>
      @for (each of choices; track each.key) {
        <mat-checkbox [checked]="role().includes(each.key)" (change)="turn(each.key, $event.checked)">
          {{ each.name }} <span class="dim">{{ each.means }}</span>
        </mat-checkbox>
      }
    </fieldset>
  `,
  styles: `
    fieldset {
      border: 0;
      padding: 0;
      margin: 0;
      display: grid;
    }
    legend {
      padding: 0;
      font-size: var(--text-small);
      color: var(--ink-3);
    }
  `,
})
export class RoleChoice {
  readonly legend = input('May do, beyond reading everything');
  readonly role = model.required<readonly Permission[]>();
  protected readonly choices = permissions.map((key) => ({ key, name: words[key][0], means: words[key][1] }));

  protected turn(permission: Permission, on: boolean): void {
    this.role.update((role) =>
      permissions.filter((each) => (each === permission ? on : role.includes(each))),
    );
  }
}
