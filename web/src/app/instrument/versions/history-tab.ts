import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { RouterLink } from '@angular/router';
import { forkJoin } from 'rxjs';
import { showText, versionChanges, type VersionChange } from '@coffer/contract';
import { MomentPipe } from '../../figures/moment.pipe';
import { loaded } from '../../api/loaded';
import { AmountPipe, DayPipe } from '../../figures/amount.pipe';
import { SessionService } from '../../session/session.service';
import { InstrumentsService, type OpenInstrument } from '../instruments.service';
import { ReasonDialog, type Reasoned } from './reason.dialog';

/** Who changed the instrument, when and why; and what each closed period reported from which version. */
@Component({
  selector: 'coffer-history-tab',
  imports: [AmountPipe, MomentPipe, DayPipe, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="sheet">
      <h2>Versions</h2>
      <a routerLink="/trail" [queryParams]="{ instrument: instrument().id }">In the audit trail</a>
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
              <td>{{ version.madeAt | moment }}</td>
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
      @if (mayWithdraw()) {
        <p class="dim mistake">
          Taken on by mistake? <button class="link" (click)="withdraw()">Withdraw it</button>
        </p>
      }
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
    .mistake {
      margin-top: var(--space-5);
    }
    .change td {
      border-top: 0;
      font-size: var(--text-small);
    }
    .was {
      text-decoration: line-through;
      color: var(--ink-3);
    }
  `,
})
export class HistoryTab {
  protected readonly showText = showText;
  readonly instrument = input.required<OpenInstrument>();
  readonly changed = output<string>();
  private readonly instruments = inject(InstrumentsService);
  private readonly dialog = inject(MatDialog);
  private readonly session = inject(SessionService);
  protected readonly mayWithdraw = computed(
    () => this.session.mayPrepare() && this.instrument().withdrawn === null,
  );
  /** The version whose changes are shown. */
  protected readonly opened = signal<number | undefined>(undefined);
  private readonly loaded = loaded(
    computed(() => {
      const version = this.opened();
      return version === undefined ? undefined : { id: this.instrument().id, version };
    }),
    ({ id, version }) =>
      forkJoin({ before: this.instruments.open(id, version - 1), after: this.instruments.open(id, version) }),
  );
  protected readonly failed = this.loaded.failed;
  protected readonly changes = computed((): readonly VersionChange[] | undefined => {
    const both = this.loaded.behind() ? undefined : this.loaded.value();
    return both && versionChanges(both.before.read.document, both.after.read.document);
  });

  protected withdraw(): void {
    const { id, version, read } = this.instrument();
    const { name } = read.document;
    const data: Reasoned = {
      title: `Withdraw ${name}`,
      what: [
        'It leaves the register, and the open month takes back what the books hold of it. Closed months stay as they are, and its history can still be read here.',
        'A withdrawal is for good; where it was meant after all, the instrument is taken on anew.',
      ],
      does: 'Withdraw it',
      act: (reason) => this.instruments.withdraw(id, version, reason),
    };
    this.dialog
      .open<ReasonDialog, Reasoned, true>(ReasonDialog, { data, width: '480px' })
      .afterClosed()
      .subscribe((done) => {
        if (done === true) this.changed.emit(`${name} is withdrawn.`);
      });
  }

  protected open(version: number): void {
    this.opened.update((opened) => (opened === version ? undefined : version));
  }
}
