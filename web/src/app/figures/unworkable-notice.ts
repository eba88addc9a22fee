import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { showText, type Unworkable } from '@coffer/contract';

/** Instruments that cannot be worked out, each with the reason and the way to its terms; all others stand. */
@Component({
  selector: 'coffer-unworkable-notice',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (one of unworkable(); track one.instrumentId) {
      <div class="notice wrong" role="alert">
        <strong>{{ one.name }} cannot be worked out.</strong> {{ showText(one.message) }}
        <a [routerLink]="['/instruments', one.instrumentId, 'terms']">Correct its terms</a>
      </div>
    }
  `,
  styles: `
    :host {
      display: contents;
    }
  `,
})
export class UnworkableNotice {
  readonly unworkable = input.required<readonly Unworkable[]>();
  protected readonly showText = showText;
}
