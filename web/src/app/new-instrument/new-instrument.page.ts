import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { Router, RouterLink } from '@angular/router';
import { animationFrameScheduler, auditTime, map, startWith, switchMap, tap } from 'rxjs';
import type { Fault } from '@coffer/contract';
import { ApiRefusal, newKey } from '../api/api-client';
import { messageOf } from '../api/message-of';
import { CompanyService } from '../company/company.service';
import { showDay, showDecimal } from '../figures/show';
import { InstrumentsService, type OpenInstrument } from '../instrument/instruments.service';
import { readDay } from '../typed/typed-day';
import { readNumber, readPercent } from '../typed/typed-number';
import { ChoiceField } from './choice-field';
import * as choices from './choices';
import { DraftKeeper } from './draft-keeper';
import { fillForm } from './form-of-document';
import { PreviewPanel } from './preview-panel';
import type { PreviewAnswer } from './schedule-preview';
import { SchedulePreviewService } from './schedule-preview.service';
import { extraForm, stretchForm, termsForm } from './terms-form';
import { TypedField } from './typed-field';
import { typedDocument, type KeptEvent } from './typed-document';

type Made = Extract<PreviewAnswer, { ok: true }>;

/** Entering an instrument, or changing one: terms on the left, the schedule they make forming on the right. */
@Component({
  selector: 'coffer-new-instrument',
  imports: [
    ChoiceField,
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    PreviewPanel,
    ReactiveFormsModule,
    RouterLink,
    TypedField,
  ],
  providers: [SchedulePreviewService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './new-instrument.page.html',
  styleUrl: './new-instrument.page.scss',
})
export class NewInstrumentPage {
  /** The instrument to change; none when a new one is entered. */
  readonly id = input<string>();
  private readonly company = inject(CompanyService);
  private readonly instruments = inject(InstrumentsService);
  private readonly previews = inject(SchedulePreviewService);
  private readonly router = inject(Router);
  private readonly draft = inject(DraftKeeper);
  private key = newKey();
  protected readonly choices = choices;
  protected readonly form = termsForm();
  protected readonly reason = new FormControl('', { nonNullable: true });
  protected readonly digits = this.company.digits;
  protected readonly currency = computed(() => this.company.company()?.currency ?? '');
  protected readonly changed = signal<OpenInstrument | undefined>(undefined);
  protected readonly kept = signal<readonly KeptEvent[]>([]);
  protected readonly made = signal<Made | undefined>(undefined);
  protected readonly busy = signal(false);
  protected readonly failed = signal('');
  protected readonly asked = signal(false);
  private readonly worked = signal<readonly Fault[]>([]);
  private readonly refused = signal<readonly Fault[]>([]);
  protected readonly typed = toSignal(this.form.valueChanges.pipe(map(() => this.form.getRawValue())), {
    initialValue: this.form.getRawValue(),
  });
  private readonly reading = computed(() => typedDocument(this.typed(), this.currency(), this.kept()));
  private readonly faults = computed(() => [...this.reading().faults, ...this.worked(), ...this.refused()]);
  protected readonly missing = computed(() => [
    ...new Set(
      this.reading().missing.map((key) => choices.fieldNames[key] ?? 'a field of a stretch or extra payment'),
    ),
  ]);
  protected readonly stale = computed(() => this.faults().length > 0);
  /** Faults of no field on the page. */
  protected readonly elsewhere = computed(() =>
    this.faults().filter(({ key }) => key === '' || key === 'currency'),
  );

  constructor() {
    effect(() => {
      const id = this.id();
      if (id === undefined) this.draft.restore(this.form);
      else this.load(id);
    });
    this.form.valueChanges
      .pipe(
        startWith(undefined),
        tap(() => {
          this.refused.set([]);
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
        this.worked.set(answer?.ok === false ? answer.faults : []);
        if (answer?.ok) this.made.set(answer);
      });
  }

  private load(id: string): void {
    this.instruments.open(id).subscribe({
      next: (opened) => {
        this.changed.set(opened);
        this.kept.set(fillForm(this.form, opened.read.document));
        this.form.updateValueAndValidity();
      },
      error: (error: unknown) => this.failed.set(messageOf(error)),
    });
  }

  /** What is wrong with the field of a key; fields still empty are only spoken of once saving was tried. */
  protected fault(key: string): string {
    const fault = this.faults().find(
      (candidate) => candidate.key === key || candidate.key.startsWith(`${key}#`),
    );
    if (fault) return fault.message;
    return this.asked() && this.reading().missing.includes(key) ? 'Needed.' : '';
  }

  protected amountHint(typed: string): string {
    const plain = readNumber(typed);
    return plain === undefined || showDecimal(plain) === typed.trim() ? '' : showDecimal(plain);
  }

  protected dayHint(typed: string): string {
    const day = readDay(typed);
    return day === undefined || showDay(day) === typed.trim() ? '' : showDay(day);
  }

  protected rateHint(typed: string): string {
    const percent = readPercent(typed);
    return percent === undefined ? '' : `${percent}% a year`;
  }

  /** The price that a yield makes, or the yield that a price makes. */
  protected workedOut(of: 'price' | 'yield'): string {
    const made = this.made()?.schedule;
    if (made?.kind !== 'bond' || this.stale() || this.typed().bond[of].trim() !== '') return '';
    const text = of === 'price' ? made.price : made.effectiveRate?.replace('%', '');
    return text === undefined ? '' : `worked out: ${Number(text).toFixed(6)}${of === 'yield' ? '%' : ''}`;
  }

  protected addStretch(): void {
    this.form.controls.loan.controls.stretches.push(stretchForm());
  }

  protected addExtra(): void {
    this.form.controls.loan.controls.extras.push(extraForm());
  }

  protected clear(): void {
    this.draft.forget();
    this.form.reset();
    const { stretches, extras } = this.form.controls.loan.controls;
    stretches.clear({ emitEvent: false });
    extras.clear({ emitEvent: false });
    stretches.push(stretchForm());
    this.made.set(undefined);
    this.asked.set(false);
  }

  protected save(): void {
    this.asked.set(true);
    this.failed.set('');
    const { document, faults, missing } = this.reading();
    if (missing.length > 0 || faults.length > 0 || this.worked().length > 0) return;
    const changed = this.changed();
    if (changed && this.reason.value.trim() === '') return;
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
        this.refused.set(error instanceof ApiRefusal ? (error.refusal.faults ?? []) : []);
      },
    });
  }
}
