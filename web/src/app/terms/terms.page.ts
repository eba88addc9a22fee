import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatMenuModule } from '@angular/material/menu';
import { Router, RouterLink } from '@angular/router';
import { animationFrameScheduler, auditTime, debounceTime, map, startWith, switchMap, tap } from 'rxjs';
import { parseDay } from '@coffer/core';
import { ApiRefusal, newKey } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { AsOfService } from '../company/as-of.service';
import { CompanyService } from '../company/company.service';
import { InstrumentsService, type OpenInstrument } from '../instrument/instruments.service';
import { BondFields } from './fields/bond-fields';
import { EventFields } from './fields/event-fields';
import { LoanFields } from './fields/loan-fields';
import { StretchFields } from './fields/stretch-fields';
import { TypedField } from './fields/typed-field';
import * as choices from './form/choices';
import { DraftKeeper } from './form/draft-keeper';
import { eventForm, type EventType } from './form/event-form';
import type { KeptEvent } from './form/events-part';
import { fillForm } from './form/form-of-document';
import { seasonOf, stretchForm } from './form/stretch-form';
import { TermsReading } from './form/terms-reading';
import { putBack, termsForm, type TypedTerms } from './form/terms-form';
import { typedDocument } from './form/typed-document';
import { UndoHistory } from './form/undo-history';
import { solvedOfLoan, workedOutInRenewal, workedOutInStretch, workedOutOfBond } from './form/worked-out';
import { PreviewPanel } from './preview/preview-panel';
import type { PreviewAnswer } from './preview/schedule-preview';
import { SchedulePreviewService } from './preview/schedule-preview.service';
import { begunFrom, firstDayOfEvent, startingPoints, type StartingPoint } from './starting-points';
import { Timeline, type TimelineAct } from './timeline/timeline';
import { carryOut } from './timeline/carry-out';
import type { LifeSpans } from './timeline/stretch-spans';
import { viewKindOf } from '../kinds/view-kinds';

/** The stretches of a loan that has no schedule yet. */
const nowhere: LifeSpans = { spans: [], renewals: [] };

type Made = Extract<PreviewAnswer, { ok: true }>;

/** How long typing pauses before it is one step that can be taken back. */
const stepPause = 350;

/** Composing an instrument's terms: its life on a line, its figures on the left, the schedule they make on the right. */
@Component({
  selector: 'coffer-terms',
  imports: [
    BondFields,
    EventFields,
    LoanFields,
    MatButtonModule,
    MatButtonToggleModule,
    MatMenuModule,
    PreviewPanel,
    ReactiveFormsModule,
    RouterLink,
    StretchFields,
    Timeline,
    TypedField,
  ],
  providers: [SchedulePreviewService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './terms.page.html',
  styleUrls: ['./terms.page.scss', './parts.scss'],
  host: { '(keydown)': 'undoKey($event)' },
})
export class TermsPage {
  /** The instrument to change; none when a new one is entered. */
  readonly id = input<string>();
  private readonly company = inject(CompanyService);
  private readonly instruments = inject(InstrumentsService);
  private readonly previews = inject(SchedulePreviewService);
  private readonly router = inject(Router);
  private readonly draft = inject(DraftKeeper);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private key = newKey();
  /** Whether the schedule is still to follow what was typed last, and whether saving waits for it. */
  private following = false;
  private saveFollows = false;
  protected readonly choices = choices;
  protected readonly startingPoints = startingPoints;
  protected readonly form = termsForm();
  protected readonly reason = new FormControl('', { nonNullable: true });
  protected readonly digits = this.company.digits;
  private readonly asOf = inject(AsOfService);
  protected readonly on = computed(() => parseDay(this.asOf.date()));
  protected readonly currency = computed(() => this.company.company()?.currency ?? '');
  protected readonly changed = signal<OpenInstrument | undefined>(undefined);
  protected readonly kept = signal<readonly KeptEvent[]>([]);
  protected readonly made = signal<Made | undefined>(undefined);
  protected readonly busy = signal(false);
  protected readonly failed = signal('');
  protected readonly asked = signal(false);
  protected readonly chosen = signal('');
  /** The starting point that was begun from. */
  protected readonly begun = signal('');
  protected readonly history = new UndoHistory();
  protected readonly read = new TermsReading(this.form, this.currency, this.kept);
  protected readonly typed = this.read.typed;
  /** How many stretches a season has, the last of which can be repeated. */
  protected readonly season = computed(() => seasonOf(this.typed().loan.stretches.map(({ type }) => type)));
  /** How the kind that is chosen is typed. */
  protected readonly view = computed(() => viewKindOf(this.typed()));
  protected readonly pointsOfKind = computed(() =>
    startingPoints.filter(({ kind }) => this.view().form.offers.includes(kind)),
  );
  protected readonly life = computed(() =>
    this.view().form.timeline(this.typed(), this.made()?.life ?? nowhere),
  );

  constructor() {
    effect(() => {
      const id = this.id();
      if (id !== undefined) this.load(id);
      else {
        this.draft.restore(this.form);
        this.history.begin(this.form.getRawValue());
        this.focusName();
      }
    });
    this.form.valueChanges
      .pipe(debounceTime(stepPause), takeUntilDestroyed())
      .subscribe(() => this.history.note(this.form.getRawValue()));
    this.form.valueChanges
      .pipe(
        startWith(undefined),
        tap(() => {
          this.read.refused.set([]);
          this.following = true;
          this.saveFollows = false;
          if (this.id() === undefined && this.form.dirty) this.draft.keep(this.form);
        }),
        auditTime(0, animationFrameScheduler),
        map(() => typedDocument(this.form.getRawValue(), this.currency(), this.kept())),
        switchMap((reading) => {
          const complete = reading.missing.every((key) => key === 'name') && reading.faults.length === 0;
          return complete ? this.previews.read(reading.document) : [undefined];
        }),
        takeUntilDestroyed(),
      )
      .subscribe((answer) => {
        this.read.worked.set(answer?.ok === false ? answer.faults : []);
        if (answer?.ok) this.made.set(answer);
        this.following = false;
        if (!this.saveFollows) return;
        this.saveFollows = false;
        this.save();
      });
  }

  private load(id: string): void {
    this.instruments.open(id).subscribe({
      next: (opened) => {
        this.changed.set(opened);
        this.kept.set(fillForm(this.form, opened.read.document));
        this.form.updateValueAndValidity();
        this.history.begin(this.form.getRawValue());
      },
      error: (error: unknown) => this.failed.set(messageOf(error)),
    });
  }

  protected readonly fault = (key: string): string => this.read.fault(key, this.asked());

  /** What is known of the schedule while it follows what is typed. */
  private readonly current = computed(() => (this.read.stale() ? undefined : this.made()));
  protected readonly workedOut = (of: 'price' | 'yield'): string =>
    workedOutOfBond(of, this.typed().bond, this.current()?.schedule);
  protected readonly solved = (key: 'amount' | 'annual'): string =>
    solvedOfLoan(key, this.typed().loan, this.current()?.schedule, this.digits());
  protected readonly workedRenewal = (at: number): string =>
    workedOutInRenewal(this.typed().loan.events[at]?.on ?? '', this.current());
  protected readonly workedStretch = (at: number): string =>
    workedOutInStretch(at, this.typed().loan, this.current());

  /** Another stretch on the loan's life: after the one that is chosen, or after the last. */
  protected insertStretch(): void {
    const { length } = this.form.controls.loan.controls.stretches;
    const chosen = /^stretch-(\d+)$/.exec(this.chosen());
    this.addStretch(Math.min(chosen ? Number(chosen[1]) + 1 : length, length));
  }

  protected addStretch(at: number): void {
    const { stretches } = this.form.controls.loan.controls;
    this.step(() => stretches.insert(at, stretchForm()));
    this.choose(`stretch-${at}`);
  }

  /** Another season: the stretches of the last one once more. */
  protected repeatSeason(): void {
    const { stretches } = this.form.controls.loan.controls;
    const first = stretches.length;
    const season = stretches.getRawValue().slice(-this.season());
    this.step(() => {
      for (const stretch of season) stretches.push(stretchForm(stretch));
    });
    this.choose(`stretch-${first}`);
  }

  /** What is left at the end is paid with the last payment after all. */
  protected payAtEnd(): void {
    this.step(() => this.form.controls.loan.controls.atEnd.setValue('pay'));
  }

  protected addEvent(type: EventType): void {
    const { events } = this.form.controls.loan.controls;
    const day = firstDayOfEvent(type, this.typed().loan, this.made()?.life?.dues ?? [], this.on());
    this.step(() => events.push(eventForm({ type, on: day, from: day })));
    this.choose(`event-${events.length - 1}`);
  }

  protected moveStretch(at: number, by: number): void {
    const { stretches } = this.form.controls.loan.controls;
    const moved = stretches.at(at);
    this.step(() => {
      stretches.removeAt(at, { emitEvent: false });
      stretches.insert(at + by, moved);
    });
    this.chosen.set(`stretch-${at + by}`);
  }

  /** Marks a stretch or event, and puts the cursor in its first field. */
  protected choose(id: string): void {
    this.chosen.set(id);
    setTimeout(() => {
      const section = this.host.nativeElement.querySelector(`#${id}`);
      section?.scrollIntoView({ block: 'nearest' });
      section?.querySelector<HTMLElement>('mat-select, input, textarea')?.focus();
    });
  }

  protected act(act: TimelineAct): void {
    const { item } = act;
    const id = `${item.kind}-${item.at}`;
    if (act.act === 'choose') this.choose(id);
    else if (act.act === 'place' && act.dragged) {
      this.chosen.set(id);
      carryOut(act, this.form.controls.loan, this.made()?.life?.dues ?? []);
    } else if (act.act === 'reorder') {
      const to = item.at + act.by;
      if (to >= 0 && to < this.form.controls.loan.controls.stretches.length)
        this.moveStretch(item.at, act.by);
    } else {
      this.chosen.set(id);
      this.step(() => carryOut(act, this.form.controls.loan, this.made()?.life?.dues ?? []));
    }
  }

  /** What is done at once is a step of its own, and so is what was typed until then. */
  private step(work: () => void): void {
    this.history.note(this.form.getRawValue());
    work();
    this.history.note(this.form.getRawValue());
  }

  protected begin(point: StartingPoint): void {
    this.step(() => putBack(this.form, begunFrom(point, this.form.getRawValue())));
    this.begun.set(point.name);
    this.chosen.set('');
    this.focusFirstEmpty();
  }

  /** A new instrument begins with its name. */
  private focusName(): void {
    setTimeout(() => {
      const name = this.host.nativeElement.querySelector<HTMLInputElement>('form coffer-typed-field input');
      name?.focus({ preventScroll: true });
    });
  }

  /** What is begun goes on at the first field that is still to be typed. */
  private focusFirstEmpty(): void {
    setTimeout(() => {
      const fields = this.host.nativeElement.querySelectorAll<HTMLInputElement>(
        'form coffer-typed-field input',
      );
      [...fields].find(({ value }) => value === '')?.focus();
    });
  }

  /** What keeps terms from being saved is brought into view, wherever the form stands, with the cursor in it. */
  private focusFirstFault(): void {
    setTimeout(() => {
      const field = this.host.nativeElement.querySelector<HTMLElement>('form .faulty');
      field?.closest('details')?.setAttribute('open', '');
      field?.scrollIntoView({ block: 'center' });
      field?.querySelector<HTMLElement>('input, mat-select, textarea')?.focus({ preventScroll: true });
    });
  }

  protected undo(): void {
    this.restore(this.history.undo<TypedTerms>());
  }

  protected redo(): void {
    this.restore(this.history.redo<TypedTerms>());
  }

  private restore(typed: TypedTerms | undefined): void {
    this.begun.set('');
    if (typed) putBack(this.form, typed);
  }

  protected undoKey(event: KeyboardEvent): void {
    if (event.key.toLowerCase() !== 'z' || !(event.ctrlKey || event.metaKey)) return;
    event.preventDefault();
    this.history.note(this.form.getRawValue());
    if (event.shiftKey) this.redo();
    else this.undo();
  }

  protected clear(): void {
    this.draft.forget();
    putBack(this.form, termsForm().getRawValue());
    this.begun.set('');
    this.chosen.set('');
    this.made.set(undefined);
    this.asked.set(false);
    this.focusFirstEmpty();
  }

  protected save(): void {
    this.asked.set(true);
    this.failed.set('');
    // What was wrong before the last change may be right by now.
    this.saveFollows = this.following;
    if (this.saveFollows) return;
    const { document, faults, missing } = this.read.document();
    const changed = this.changed();
    const unsaid = changed !== undefined && this.reason.value.trim() === '';
    if (missing.length + faults.length + this.read.worked().length > 0 || unsaid) {
      this.focusFirstFault();
      return;
    }
    this.busy.set(true);
    const call = changed
      ? this.instruments.change(changed.id, changed.version, document, this.reason.value.trim())
      : this.instruments.create(document, this.key);
    call.subscribe({
      next: ({ id }) => {
        if (!changed) this.draft.forget();
        void this.router.navigate(['/instruments', id]);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.key = newKey();
        this.failed.set(messageOf(error));
        this.read.refused.set(error instanceof ApiRefusal ? (error.refusal.faults ?? []) : []);
      },
    });
  }
}
