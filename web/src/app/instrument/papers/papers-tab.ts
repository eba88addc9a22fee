import { showRate } from '@coffer/contract';
import { MomentPipe } from '../../figures/moment.pipe';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import type { PaperType, PaperView } from '@coffer/contract';
import { catchError, concatMap, from, map, of, toArray } from 'rxjs';
import { loaded } from '../../api/loaded';
import { messageOf } from '../../api/message-of';
import { SessionService } from '../../session/session.service';
import type { OpenInstrument } from '../instruments.service';
import { ReasonDialog, type Reasoned } from '../versions/reason.dialog';
import { PapersService } from './papers.service';
import { PdfPages } from './pdf-pages';

const kinds: Readonly<Record<PaperType, string>> = {
  'application/pdf': 'PDF',
  'image/png': 'picture, PNG',
  'image/jpeg': 'picture, JPEG',
};

/** The papers of an instrument, such as its agreement: brought, looked at, and taken away with a reason. */
@Component({
  selector: 'coffer-papers-tab',
  imports: [MomentPipe, MatButtonModule, PdfPages],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './papers-tab.html',
  styleUrl: './papers-tab.scss',
  host: { '(dragover)': '$event.preventDefault()', '(drop)': 'drop($event)' },
})
export class PapersTab {
  readonly instrument = input.required<OpenInstrument>();
  private readonly papers = inject(PapersService);
  private readonly dialog = inject(MatDialog);
  protected readonly session = inject(SessionService);
  protected readonly kinds = kinds;
  protected readonly loaded = loaded(
    computed(() => this.instrument().id),
    (id) => this.papers.of(id),
  );
  protected readonly all = computed(() => (this.loaded.behind() ? undefined : this.loaded.value()));
  private readonly chosenId = signal('');
  /** The paper that is looked at: the newest, unless another was chosen. */
  protected readonly chosen = computed(() => {
    const all = this.all() ?? [];
    return all.find(({ id }) => id === this.chosenId()) ?? all[0];
  });
  protected readonly address = computed(() => this.addressOf(this.chosen()));
  protected readonly bringing = signal(0);
  protected readonly failed = signal<readonly string[]>([]);
  protected readonly mayBring = computed(
    () => this.session.mayPrepare() && this.instrument().withdrawn === null,
  );

  private addressOf(paper: PaperView | undefined): string {
    return paper ? this.papers.address(this.instrument().id, paper.id) : '';
  }

  protected look({ id }: PaperView): void {
    this.chosenId.set(id);
  }

  protected bring(input: HTMLInputElement): void {
    const files = [...(input.files ?? [])];
    input.value = '';
    this.keep(files);
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    if (this.mayBring()) this.keep([...(event.dataTransfer?.files ?? [])]);
  }

  /** Keeps files one after another; one that cannot be kept is told and stops no others. */
  private keep(files: readonly File[]): void {
    if (files.length === 0) return;
    const { id } = this.instrument();
    this.bringing.set(files.length);
    this.failed.set([]);
    from(files)
      .pipe(
        concatMap((file) =>
          this.papers.keep(id, file).pipe(
            map((paper) => ({ paper, failed: '' })),
            catchError((error: unknown) => of({ paper: undefined, failed: `${file.name}: ${whyOf(error)}` })),
          ),
        ),
        toArray(),
      )
      .subscribe((done) => {
        this.bringing.set(0);
        this.failed.set(done.flatMap(({ failed }) => (failed === '' ? [] : [failed])));
        const last = done.findLast(({ paper }) => paper !== undefined)?.paper;
        if (last) this.look(last);
        this.loaded.again();
      });
  }

  protected takeAway(paper: PaperView): void {
    const { id } = this.instrument();
    const data: Reasoned = {
      title: `Take ${paper.name} away`,
      what: [
        'Its bytes are gone then. Its name, its hash, who took it away and why stay in the audit trail.',
      ],
      does: 'Take it away',
      act: (reason) => this.papers.takeAway(id, paper.id, reason),
    };
    this.dialog
      .open<ReasonDialog, Reasoned, true>(ReasonDialog, { data, width: '480px' })
      .afterClosed()
      .subscribe((done) => {
        if (done === true) this.loaded.again();
      });
  }

  protected size(bytes: number): string {
    return bytes < 1_000_000
      ? `${Math.ceil(bytes / 1000)} kB`
      : `${showRate((bytes / 1_000_000).toFixed(1))} MB`;
  }
}

/** Why a file was not kept: what is wrong with it, where that is told. */
function whyOf(error: unknown): string {
  const faults = (error as { refusal?: { faults?: readonly { message: string }[] } }).refusal?.faults;
  return faults?.[0]?.message ?? messageOf(error);
}
