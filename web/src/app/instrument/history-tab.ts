import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { DatePipe } from '@angular/common';
import { forkJoin } from 'rxjs';
import { showText, versionChanges, type VersionChange } from '@coffer/contract';
import { messageOf } from '../api/message-of';
import { AmountPipe, DayPipe } from '../figures/amount.pipe';
import { InstrumentsService, type OpenInstrument } from './instruments.service';

/** Who changed the instrument, when and why; and what each closed period reported from which version. */
@Component({
  selector: 'coffer-history-tab',
  imports: [AmountPipe, DatePipe, DayPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet">
      <h2>Versions</h2>
      <table>
        <thead>
          <tr>
            <th scope="col">Version</th>
            <th scope="col">Made</th>
            <th scope="col">By</th>
            <th scope="col">Why</th>
            <th scope="col"><span class="cdk-visually-hidden">What changed</span></th>
          </tr>
        </thead>
        <tbody>
          @for (version of instrument().versions; track version.version) {
            <tr>
              <td>{{ version.version }}</td>
              <td>{{ version.madeAt | date: 'd MMM y, HH:mm' }}</td>
              <td>{{ version.madeBy }}</td>
              <td>{{ showText(version.reason) }}</td>
              <td>
                @if (version.version > 1) {
                  <button
                    class="link"
                    [attr.aria-expanded]="opened() === version.version"
                    (click)="open(version.version)"
                  >
                    {{ opened() === version.version ? 'Hide' : 'What changed' }}
                  </button>
                }
              </td>
            </tr>
            @if (opened() === version.version) {
              @for (change of changes(); track $index) {
                <tr class="change">
                  <td></td>
                  <td>{{ change.name }}</td>
                  <td colspan="3">
                    @if (change.before) {
                      <span class="was">{{ change.before }}</span>
                    }
                    @if (change.before && change.after) {
                      <span aria-label="became"> → </span>
                    }
                    @if (change.after) {
                      <strong>{{ change.after }}</strong>
                    } @else {
                      <span class="dim"> taken out</span>
                    }
                  </td>
                </tr>
              } @empty {
                <tr class="change">
                  <td></td>
                  <td colspan="4" class="dim">
                    {{ failed() || (changes() ? 'Nothing in its terms.' : 'Comparing…') }}
                  </td>
                </tr>
              }
            }
          }
        </tbody>
      </table>
    </section>
    <section class="sheet">
      <h2>Reported by closed periods</h2>
      <table>
        <thead>
          <tr>
            <th scope="col">Period to</th>
            <th scope="col">Version</th>
            <th scope="col" class="figure">Carrying</th>
            <th scope="col" class="figure">Accrued</th>
            <th scope="col" class="figure">Current</th>
          </tr>
        </thead>
        <tbody>
          @for (then of instrument().reported; track then.periodEnd) {
            <tr>
              <td>{{ then.periodEnd | day }}</td>
              <td>{{ then.version }}</td>
              <td class="figure">{{ then.figures.carrying | amount }}</td>
              <td class="figure">{{ then.figures.accruedInterest | amount }}</td>
              <td class="figure">{{ then.figures.current | amount }}</td>
            </tr>
          } @empty {
            <tr>
              <td colspan="5" class="dim">No period has been closed since it was taken on.</td>
            </tr>
          }
        </tbody>
      </table>
    </section>
  `,
  styleUrl: './fact-tables.scss',
  styles: `
    .link {
      border: 0;
      padding: 0;
      background: none;
      font: inherit;
      color: var(--flag);
      text-decoration: underline;
      cursor: pointer;
      white-space: nowrap;
    }
    .change td {
      border-top: 0;
      font-size: 12.5px;
    }
    .was {
      text-decoration: line-through;
      color: var(--ink-3);
    }
  `,
})
export class HistoryTab {
  readonly instrument = input.required<OpenInstrument>();
  private readonly instruments = inject(InstrumentsService);
  protected readonly showText = showText;
  /** The version whose changes are shown. */
  protected readonly opened = signal<number | undefined>(undefined);
  protected readonly changes = signal<readonly VersionChange[] | undefined>(undefined);
  protected readonly failed = signal('');

  protected open(version: number): void {
    const again = this.opened() === version;
    this.opened.set(again ? undefined : version);
    this.changes.set(undefined);
    this.failed.set('');
    if (again) return;
    const { id } = this.instrument();
    forkJoin([version - 1, version].map((each) => this.instruments.open(id, each))).subscribe({
      next: ([before, after]) => {
        if (before && after && this.opened() === version) {
          this.changes.set(versionChanges(before.read.document, after.read.document));
        }
      },
      error: (error: unknown) => this.failed.set(messageOf(error)),
    });
  }
}
