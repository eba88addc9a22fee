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
import { NgTemplateOutlet } from '@angular/common';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatMenuModule } from '@angular/material/menu';
import { Router, RouterLink } from '@angular/router';
import { debounceTime } from 'rxjs';
import { parseDay } from '@coffer/core';
import { showDay, showDecimal, type KeptIndex } from '@coffer/contract';
import { ApiRefusal, newKey } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { AsOfService } from '../company/as-of.service';
import { CompanyService } from '../company/company.service';
import { DescribedFields } from '../fields/described-fields';
import type { Section, Told } from '../fields/field';
import { TypedField } from '../fields/typed-field';
import { InstrumentsService, type OpenInstrument } from '../instrument/instruments.service';
import { viewKindOf } from '../kinds/view-kinds';
import { RatesService } from '../rates/rates.service';
import { publishedIn, toldOfIndexes } from '../rates/told-of-indexes';
import { eventFieldsOf, lineEventFields } from './described/event-fields';
import { SettingsService } from '../settings/settings.service';
import { lineFields } from './described/line-sections';
import { loanFields, unknowns } from './described/loan-sections';
import { BondFields } from './fields/bond-fields';
import { EventFields } from './fields/event-fields';
import { StretchFields } from './fields/stretch-fields';
import * as choices from './form/choices';
import { DraftKeeper } from './form/draft-keeper';
import type { EventType } from './form/event-form';
import { FormFocus } from './form/form-focus';
import { fillForm } from './form/form-of-document';
import type { KeptEvent } from './form/part-of-form';
import type { TypedLoan } from './form/loan-form';
import { TermsEditor } from './form/terms-editor';
import { TermsReading } from './form/terms-reading';
import { solvedOfLoan, workedOutInRenewal, workedOutInStretch, workedOutOfBond } from './form/worked-out';
import { faultsByStretch } from './preview/by-stretch';
import { FollowedSchedule } from './preview/followed-schedule';
import { PreviewPanel } from './preview/preview-panel';
import { SchedulePreviewService } from './preview/schedule-preview.service';
import { startingPoints, type StartingPoint } from './starting-points';
import { Timeline, type TimelineAct } from './timeline/timeline';
import type { LifeSpans } from './timeline/stretch-spans';

/** The stretches of a loan that has no schedule yet. */
const nowhere: LifeSpans = { spans: [], renewals: [] };

/** Fields of the whole: before the payments, of them, and after them. */
type Asked = Readonly<Record<'agreed' | 'paid' | 'details', readonly Section<TypedLoan>[]>>;

/** How long typing pauses before it is one step that can be taken back. */
const stepPause = 350;

/** Composing an instrument's terms: its life on a line, its figures on the left, the schedule they make on the right. */
@Component({
  selector: 'coffer-terms',
  imports: [
    BondFields,
    DescribedFields,
    EventFields,
    MatButtonModule,
    MatButtonToggleModule,
    MatMenuModule,
    NgTemplateOutlet,
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
  host: { '(keydown)': 'onKey($event)' },
})
export class TermsPage {
  /** The instrument to change; none when a new one is entered. */
  readonly id = input<string>();
  private readonly company = inject(CompanyService);
  private readonly instruments = inject(InstrumentsService);
  private readonly router = inject(Router);
  private readonly rates = inject(RatesService);
  private readonly settings = inject(SettingsService);
  private readonly draft = inject(DraftKeeper);
  private readonly asOf = inject(AsOfService);
  private readonly focus = new FormFocus(inject<ElementRef<HTMLElement>>(ElementRef));
  private key = newKey();
  protected readonly choices = choices;
  protected readonly showDecimal = showDecimal;
  protected readonly startingPoints = startingPoints;
  protected readonly editor = new TermsEditor();
  protected readonly form = this.editor.form;
  protected readonly history = this.editor.history;
  protected readonly reason = new FormControl('', { nonNullable: true });
  protected readonly digits = this.company.digits;
  protected readonly on = computed(() => parseDay(this.asOf.date()));
  protected readonly currency = computed(() => this.company.company()?.currency ?? '');
  protected readonly changed = signal<OpenInstrument | undefined>(undefined);
  /** What is typed before the terms to change are there would be lost among them. */
  protected readonly ready = computed(() => this.id() === undefined || this.changed() !== undefined);
  protected readonly kept = signal<readonly KeptEvent[]>([]);
  protected readonly busy = signal(false);
  protected readonly failed = signal('');
  protected readonly asked = signal(false);
  protected readonly chosen = signal('');
  /** The starting point that was begun from. */
  protected readonly begun = signal('');
  /** The reference rates of the company. */
  private readonly indexes = signal<readonly KeptIndex[]>([]);
  /** The closed days of the company, as they are typed. */
  private readonly closedDays = signal('');
  /** Filled in where an instrument is taken on; one that is there takes fixings on the page of rates, where it is seen what they do. */
  private readonly published = computed(() => (this.id() === undefined ? publishedIn(this.indexes()) : {}));
  protected readonly read = new TermsReading(this.form, this.currency, this.kept, this.published);
  protected readonly typed = this.read.typed;
  private readonly schedule = new FollowedSchedule(this.form, this.read);
  protected readonly made = this.schedule.made;
  /** How the kind that is chosen is typed. */
  protected readonly view = computed(() => viewKindOf(this.typed()));
  /** What is asked of the whole, in the order in which agreements say it. */
  protected readonly asks = computed((): Asked => (this.view().form.billed ? lineFields : loanFields));
  protected readonly unknowns = [unknowns];
  protected readonly events = computed(() =>
    this.view().form.billed ? lineEventFields : eventFieldsOf(this.typed().loan),
  );
  protected readonly happenings = computed(() =>
    this.view().form.billed ? choices.lineEvents : choices.loanEvents,
  );
  protected readonly offered = computed(() =>
    this.happenings().map((type) => [type, choices.eventNames[type]] as const),
  );
  protected readonly pointsOfKind = computed(() =>
    startingPoints.filter(({ kind }) => this.view().form.offers.includes(kind)),
  );
  protected readonly life = computed(() =>
    this.view().form.timeline(this.typed(), this.made()?.life ?? nowhere),
  );
  /** What is worked out for the fields of the whole, of each stretch and of each event. */
  protected readonly told = computed(() => {
    const [typed, made, digits] = [this.typed(), this.schedule.current(), this.digits()];
    const [currency, indexes] = [this.currency(), toldOfIndexes(this.indexes())];
    const closedDays = this.closedDays();
    const telling = (worked: Told['worked']): Told => ({ currency, worked, indexes, closedDays });
    return {
      loan: telling((of) => solvedOfLoan(of, typed.loan, made?.schedule, digits)),
      bond: telling((of) => workedOutOfBond(of, typed.bond, made?.schedule)),
      stretches: typed.loan.stretches.map((_, at) =>
        telling((of) => workedOutInStretch(of, at, typed.loan, made)),
      ),
      events: typed.loan.events.map(({ on }) => telling((of) => workedOutInRenewal(of, on, made))),
    };
  });

  constructor() {
    effect(() => {
      const id = this.id();
      if (id !== undefined) this.load(id);
      else {
        this.draft.restore(this.form);
        this.history.begin(this.form.getRawValue());
        this.focus.name();
      }
    });
    this.rates.rates().subscribe({
      next: ({ indexes }) => {
        this.indexes.set(indexes);
        this.form.updateValueAndValidity();
      },
      error: (error: unknown) => this.failed.set(messageOf(error)),
    });
    this.settings.settings().subscribe({
      next: ({ settings }) =>
        this.closedDays.set(settings.closedDays.map(({ on }) => showDay(on)).join(', ')),
      error: (error: unknown) => this.failed.set(messageOf(error)),
    });
    this.form.valueChanges.pipe(takeUntilDestroyed()).subscribe(() => {
      if (this.id() === undefined && this.form.dirty) this.draft.keep(this.form);
    });
    this.form.valueChanges
      .pipe(debounceTime(stepPause), takeUntilDestroyed())
      .subscribe(() => this.editor.note());
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

  /** Another stretch on the loan's life: after the one that is chosen, or after the last. */
  protected insertStretch(): void {
    const { length } = this.form.controls.loan.controls.stretches;
    const chosen = /^stretch-(\d+)$/.exec(this.chosen());
    this.addStretch(Math.min(chosen ? Number(chosen[1]) + 1 : length, length));
  }

  protected addStretch(at: number): void {
    this.editor.addStretch(at);
    this.choose(`stretch-${at}`);
  }

  protected addEvent(type: EventType): void {
    const at = this.editor.addEvent(type, this.made()?.life?.dues ?? [], this.on());
    this.choose(`event-${at}`);
  }

  protected moveStretch(at: number, by: number): void {
    if (this.editor.moveStretch(at, by)) this.chosen.set(`stretch-${at + by}`);
  }

  /** Marks a stretch or event, and puts the cursor in its first field. */
  protected choose(id: string): void {
    this.chosen.set(id);
    this.focus.first(id);
  }

  protected act(act: TimelineAct): void {
    const { item } = act;
    const id = `${item.kind}-${item.at}`;
    if (act.act === 'choose') this.choose(id);
    else if (act.act === 'reorder') this.moveStretch(item.at, act.by);
    else {
      this.chosen.set(id);
      this.editor.act(act, this.made()?.life?.dues ?? []);
    }
  }

  protected begin(point: StartingPoint): void {
    this.editor.begin(point);
    this.begun.set(point.name);
    this.chosen.set('');
    this.focus.firstEmpty();
  }

  protected undo(): void {
    this.begun.set('');
    this.editor.undo();
  }

  protected redo(): void {
    this.begun.set('');
    this.editor.redo();
  }

  protected onKey(event: KeyboardEvent): void {
    if (!(event.ctrlKey || event.metaKey)) return;
    const key = event.key.toLowerCase();
    if (key === 'enter' && !this.busy() && this.ready()) this.save();
    else if (key === 'z') {
      this.editor.note();
      if (event.shiftKey) this.redo();
      else this.undo();
    } else return;
    event.preventDefault();
  }

  protected clear(): void {
    this.draft.forget();
    this.editor.clear();
    this.begun.set('');
    this.chosen.set('');
    this.schedule.forget();
    this.asked.set(false);
    this.focus.firstEmpty();
  }

  /** Saves what is typed, once it is known what it makes: what was wrong before the last change may be right by now. */
  protected save(): void {
    this.asked.set(true);
    this.failed.set('');
    this.schedule.once(() => this.send());
  }

  private send(): void {
    const { document, faults, missing, stretchOf } = this.read.document();
    const changed = this.changed();
    const unsaid = changed !== undefined && this.reason.value.trim() === '';
    if (missing.length + faults.length + this.read.worked().length > 0 || unsaid) {
      this.focus.firstFault();
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
        const refused = error instanceof ApiRefusal ? (error.refusal.faults ?? []) : [];
        this.read.refused.set(faultsByStretch(refused, stretchOf));
        this.focus.firstFault();
      },
    });
  }
}
