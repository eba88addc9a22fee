import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  signal,
} from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatRadioModule } from '@angular/material/radio';
import { currencyDigits } from '@coffer/core';
import {
  accrualWords,
  changeInWords,
  closingWords,
  downloads,
  settingNames,
  settingsOfMonths,
  instrumentClasses,
  showText,
  usualClassNames,
  type ClosedDay,
  type InstrumentClass,
  type SettingChanged,
} from '@coffer/contract';
import { of, startWith, switchMap } from 'rxjs';
import { loaded } from '../api/loaded';
import { refusedAt } from '../api/refused-at';
import { ChoiceField } from '../fields/choice-field';
import { TypedField } from '../fields/typed-field';
import { DayPipe } from '../figures/amount.pipe';
import { MomentPipe } from '../figures/moment.pipe';
import { CompanyChoice } from '../session/company-choice';
import { SessionService } from '../session/session.service';
import { currencyChoices, monthNameChoices } from '../set-up/company-choices';
import { HabitChoice } from './habit-choice';
import { HolidaysPart } from './holidays-part';
import { LackingClosedDays } from './lacking-closed-days';
import { readClosedDays, typedClosedDays } from './typed-closed-days';
import { monthChoices, readSettings, settingsForm } from './settings-form';
import { SettingsService } from './settings.service';

/** What the company decides about how it is shown and kept, and everything that was decided so far. */
@Component({
  selector: 'coffer-settings',
  imports: [
    ChoiceField,
    DayPipe,
    HabitChoice,
    HolidaysPart,
    LackingClosedDays,
    MatButtonModule,
    MatRadioModule,
    MomentPipe,
    ReactiveFormsModule,
    TypedField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './settings.page.html',
  styleUrl: './settings.page.scss',
})
export class SettingsPage {
  private readonly service = inject(SettingsService);
  private readonly choice = inject(CompanyChoice);
  protected readonly session = inject(SessionService);
  protected readonly loaded = loaded(
    computed(() => this.session.company()?.id),
    () => this.service.settings(),
  );
  protected readonly view = computed(() => this.loaded.value());
  protected readonly form = computed(() => {
    const view = this.view();
    return view && settingsForm(view);
  });
  private readonly typed = toSignal(
    toObservable(this.form).pipe(switchMap((form) => (form ? form.valueChanges.pipe(startWith(0)) : of(0)))),
  );
  /** What is typed that differs from what holds. */
  private readonly reading = computed(() => {
    this.typed();
    const [form, view] = [this.form(), this.view()];
    return form && view ? readSettings(form.getRawValue(), view) : undefined;
  });
  protected readonly changed = computed(() => Object.keys(this.reading()?.settings ?? {}).length > 0);
  private readonly refused = signal<Readonly<Record<string, string>>>({});
  protected readonly failed = signal('');
  protected readonly busy = signal(false);
  protected readonly months = computed(() => monthChoices(this.view()?.openFrom ?? '2000-01-01'));
  protected readonly classes = instrumentClasses;
  protected readonly usual = usualClassNames;
  protected readonly facts = ['currency', 'fiscalYearEndMonth', 'booksFrom'] as const;
  protected readonly accrualWords = accrualWords;
  protected readonly closingWords = closingWords;
  protected readonly currencies = currencyChoices;
  protected readonly monthNames = monthNameChoices;
  protected readonly names = settingNames;
  protected readonly words = (change: SettingChanged): string => changeInWords(change, this.digits());
  private readonly digits = computed(() => currencyDigits(this.view()?.settings.currency ?? '') ?? 2);
  /** Whether something is changed that is decided from a month on. */
  protected readonly ofMonth = computed(() =>
    settingsOfMonths.some((key) => this.reading()?.settings[key] !== undefined),
  );
  /** Where all that the company has is fetched. */
  protected readonly everything = computed(() => this.choice.file(downloads.bundle, {}, {}));

  constructor() {
    effect(() => {
      if (!this.session.mayAdminister()) this.form()?.disable();
    });
  }

  protected fault(key: string): string {
    const told = this.refused()[key];
    return told === undefined ? (this.reading()?.faults[key] ?? '') : showText(told);
  }

  protected className(of: InstrumentClass): FormControl<string> {
    const control = this.form()?.controls.classNames.controls[of];
    if (!control) throw new Error(`There is no class ${of}.`);
    return control;
  }

  @HostListener('document:keydown.control.enter')
  protected keep(): void {
    const [form, reading] = [this.form(), this.reading()];
    if (!form || !reading || !this.changed() || this.busy()) return;
    if (Object.keys(reading.faults).length > 0) return;
    const reason = form.controls.reason.value.trim();
    if (reason === '') {
      this.refused.set({ reason: 'Say why; it stands with the change.' });
      return;
    }
    this.busy.set(true);
    this.refused.set({});
    this.failed.set('');
    const { settings } = reading;
    const from = this.ofMonth() ? { from: form.controls.from.value } : {};
    this.service.change({ settings, reason, ...from }).subscribe({
      // Everything that is shown is shown anew: it may be written otherwise from here on.
      next: () => location.reload(),
      error: (error: unknown) => {
        this.busy.set(false);
        const { fields, whole } = refusedAt(error);
        this.refused.set(fields);
        this.failed.set(whole);
      },
    });
  }

  /** Adds proposed days to those that are typed; what is typed of a day stays. */
  protected add(days: readonly ClosedDay[]): void {
    const control = this.form()?.controls.closedDays;
    if (!control) return;
    const typed = readClosedDays(control.value);
    if (typed.fault !== '') return;
    const all = new Map([...days, ...typed.days].map((day) => [day.on, day]));
    control.setValue(typedClosedDays([...all.values()].sort((a, b) => a.on.localeCompare(b.on))));
  }

  protected undo(): void {
    this.refused.set({});
    this.failed.set('');
    this.loaded.again();
  }
}
