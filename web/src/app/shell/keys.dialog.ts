import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';
import { pages } from './pages';

/** Lists what the keyboard does. */
@Component({
  selector: 'coffer-keys',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Keys</h2>
    <mat-dialog-content>
      <dl class="list">
        @for (key of keys; track key[0]) {
          <dt>{{ key[1] }}</dt>
          <dd>{{ key[0] }}</dd>
        }
      </dl>
    </mat-dialog-content>
    <mat-dialog-actions align="end"
      ><button matButton="filled" mat-dialog-close>Close</button></mat-dialog-actions
    >
  `,
})
export class KeysDialog {
  protected readonly keys: readonly (readonly [string, string])[] = [
    ['/', 'Find an instrument, page or date'],
    ...pages.map(({ key, name }) => [`g then ${key}`, `Go to ${name}`] as const),
    ['← →', 'In the period rail: a month back or on'],
    ['↑ ↓', 'In the period rail: a year back or on'],
    ['arrows', 'In a table: move from figure to figure'],
    ['Enter', 'On a figure: how it is made; on a name: open it'],
    ['Shift with ↑ ↓', 'In a table: take in more rows'],
    ['Ctrl C', 'In a table: copy the rows with their headings'],
    ['digits', 'In a cell that can be typed into: begin typing; Enter keeps it, Escape does not'],
    ['e', 'In a schedule: the entries of the row, or of any day'],
    ['[ ]', 'In the portfolio: twelve periods earlier or later'],
    ['A B C, o', 'In the portfolio: a scenario by its letter, or as it is'],
    ['s', 'In the portfolio: scenarios side by side'],
    ['Delete', 'On a changed line of the portfolio: give the change back'],
    ['a', 'In the payments: tick all or none'],
    ['Space, c', 'On a line of the close: mark it as looked at; say something about it'],
    ['r', 'In the close: return a month that was handed over'],
    ['Ctrl Enter', 'Do what the page is for: record, take on, save'],
    ['?', 'This list'],
  ];
}
