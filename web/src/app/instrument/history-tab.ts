import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { DatePipe } from '@angular/common';
import { AmountPipe, DayPipe } from '../figures/amount.pipe';
import type { OpenInstrument } from './instruments.service';

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
          </tr>
        </thead>
        <tbody>
          @for (version of instrument().versions; track version.version) {
            <tr>
              <td>{{ version.version }}</td>
              <td>{{ version.madeAt | date: 'd MMM y, HH:mm' }}</td>
              <td>{{ version.madeBy }}</td>
              <td>{{ version.reason }}</td>
            </tr>
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
})
export class HistoryTab {
  readonly instrument = input.required<OpenInstrument>();
}
