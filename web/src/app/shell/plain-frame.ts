import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';

/** The frame of a page that is about no period and no register: head, page, and at its foot what decides. */
@Component({
  selector: 'coffer-plain-frame',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      @if (back()) {
        <a class="brand" routerLink="/">Coffer</a>
      } @else {
        <span class="brand">Coffer</span>
      }
      <span class="about"><ng-content select="[about]" /></span>
      <span class="aside"><ng-content select="[aside]" /></span>
    </header>
    <ng-content select="[rail]" />
    <main id="page" tabindex="-1"><ng-content /></main>
    <ng-content select="[foot]" />
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: 56px auto minmax(0, 1fr) auto;
      height: 100vh;
    }
    header {
      display: flex;
      align-items: center;
      gap: var(--space-9);
      padding: 0 var(--space-9);
      background: var(--header);
      color: var(--header-ink);
      min-width: 0;
    }
    .brand {
      font: 600 var(--text-title)/1 var(--serif);
      color: inherit;
      text-decoration: none;
      min-width: 126px;
    }
    .about {
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .aside {
      margin-left: auto;
      white-space: nowrap;
    }
    main {
      grid-row: 3;
      overflow: auto;
      padding: var(--space-8) var(--space-9);
    }
    main:focus {
      outline: none;
    }
    @media (max-width: 820px) {
      :host {
        height: auto;
        min-height: 100vh;
      }
      .aside {
        display: none;
      }
    }
  `,
})
export class PlainFrame {
  /** Whether the name leads back to the register. */
  readonly back = input(true);
}
