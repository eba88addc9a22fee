import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';

/** For an address that leads nowhere. */
@Component({
  selector: 'coffer-not-here',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h1>There is no page at this address</h1>
    <p>The link may be old. <a routerLink="/">Go to the register</a> and find the instrument there.</p>
  `,
})
export class NotHerePage {}
