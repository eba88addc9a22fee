import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import { mostAtOnce, showNumber, showText } from '@coffer/contract';
import { ApiRefusal } from '../api/api-client';
import { messageOf } from '../api/message-of';
import type { PackedDocument } from '../sheets/documents-of-zip';
import { TakingOn } from './taking-on';

/** The documents of a ZIP on their way into the register: each with what it is or what is wrong, all or none. */
@Component({
  selector: 'coffer-documents',
  imports: [MatButtonModule],
  providers: [TakingOn],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (failed(); as message) {
      <p class="notice wrong" role="alert">{{ message }}</p>
    }
    <div class="sheet list">
      <table>
        <thead>
          <tr>
            <th scope="col">Taken on</th>
            <th scope="col">Instrument</th>
            <th scope="col">What it is</th>
            <th scope="col">File</th>
          </tr>
        </thead>
        <tbody>
          @for (each of documents(); track each.file; let at = $index) {
            <tr [class.out]="leftOut().has(at)">
              <td>
                <input
                  type="checkbox"
                  [checked]="!leftOut().has(at)"
                  [attr.aria-label]="'Take on ' + each.name"
                  (change)="turn(at)"
                />
              </td>
              <th scope="row">{{ each.name }}</th>
              <td>
                @for (fault of faultsOf(at); track $index) {
                  <div class="wrong">{{ showText(fault) }}</div>
                } @empty {
                  {{ showText(each.what) }}
                }
              </td>
              <td class="dim">{{ each.file }}</td>
            </tr>
          }
        </tbody>
      </table>
    </div>
    <footer class="sheet">
      <div>
        @if (taking.soFar(); as far) {
          <strong role="status">Taking on {{ far.done }} of {{ far.of }}…</strong>
          <progress [value]="far.done" [max]="far.of"></progress>
        } @else {
          <strong>All {{ kept().length }} or none.</strong>
          @if (inTheWay()) {
            <span class="wrong">{{ inTheWay() }}</span>
          }
        }
      </div>
      @if (taking.soFar()) {
        <button matButton="outlined" (click)="cancel()">Cancel</button>
      } @else {
        <button matButton (click)="again.emit()">Another file</button>
        <button matButton="filled" [disabled]="inTheWay() !== ''" (click)="takeOn()">
          Take on {{ kept().length }} {{ kept().length === 1 ? 'instrument' : 'instruments' }}
        </button>
      }
    </footer>
  `,
  styleUrl: './documents-part.scss',
})
export class DocumentsPart {
  readonly documents = input.required<readonly PackedDocument[]>();
  readonly again = output();
  private readonly router = inject(Router);
  protected readonly taking = inject(TakingOn);
  protected readonly showText = showText;
  protected readonly failed = signal('');
  protected readonly leftOut = signal<ReadonlySet<number>>(new Set());
  /** What the server found wrong, by the place of the document. */
  private readonly refused = signal<ReadonlyMap<number, readonly string[]>>(new Map());
  protected readonly kept = computed(() =>
    [...this.documents().keys()].filter((at) => !this.leftOut().has(at)),
  );
  protected readonly inTheWay = computed(() => {
    const kept = this.kept();
    if (kept.length === 0) return 'No document is kept.';
    if (kept.length > mostAtOnce)
      return `More than ${showNumber(mostAtOnce)} documents; leave some out, or bring them in parts.`;
    const faulty = kept.filter((at) => (this.documents()[at]?.faults.length ?? 0) > 0).length;
    return faulty === 0
      ? ''
      : `${faulty} ${faulty === 1 ? 'document has' : 'documents have'} faults: leave them out, or bring them mended.`;
  });

  protected faultsOf(at: number): readonly string[] {
    return [...(this.documents()[at]?.faults ?? []), ...(this.refused().get(at) ?? [])];
  }

  protected turn(at: number): void {
    this.leftOut.update((before) => {
      const now = new Set(before);
      if (!now.delete(at)) now.add(at);
      return now;
    });
  }

  protected takeOn(): void {
    const kept = this.kept();
    this.failed.set('');
    this.refused.set(new Map());
    this.taking.run(kept.map((at) => this.documents()[at]?.document)).subscribe({
      next: () => void this.router.navigateByUrl('/'),
      error: (error: unknown) => {
        this.failed.set(messageOf(error));
        const faults = error instanceof ApiRefusal ? (error.refusal.faults ?? []) : [];
        const found = new Map<number, string[]>();
        for (const { key, message } of faults) {
          const at = kept[Number(key.split('.')[1])];
          if (at !== undefined) found.set(at, [...(found.get(at) ?? []), message]);
        }
        this.refused.set(found);
      },
    });
  }

  protected cancel(): void {
    this.taking.end();
    this.failed.set('Taking on was cancelled; nothing was taken on.');
  }
}
