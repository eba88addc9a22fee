import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import type { ClosedDay, HolidayCountries } from '@coffer/contract';
import { startWith } from 'rxjs';
import { messageOf } from '../api/message-of';
import { ChoiceField } from '../fields/choice-field';
import { TypedField } from '../fields/typed-field';
import { SettingsService } from './settings.service';

const control = (value: string): FormControl<string> => new FormControl(value, { nonNullable: true });
const thisYear = new Date().getFullYear();

/** Published holidays of a country, proposed as closed days. */
@Component({
  selector: 'coffer-holidays',
  imports: [ChoiceField, MatButtonModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (countries().length === 0) {
      <button matButton type="button" [disabled]="busy()" (click)="open()">
        Propose published holidays…
      </button>
    } @else {
      <div class="asked">
        <coffer-choice-field label="Country" [control]="country" [choices]="countryChoices()" />
        @if (regionChoices().length > 1) {
          <coffer-choice-field label="Region" [control]="region" [choices]="regionChoices()" />
        }
        <coffer-typed-field label="From year" [control]="from" />
        <coffer-typed-field label="To year" [control]="to" />
        <button matButton="outlined" type="button" [disabled]="busy()" (click)="propose()">Add them</button>
      </div>
    }
    @if (said(); as text) {
      <p class="dim" role="status">{{ text }}</p>
    }
    @if (failed(); as message) {
      <p class="wrong" role="alert">{{ message }}</p>
    }
  `,
  styles: `
    .asked {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(130px, 1fr));
      gap: var(--space-4);
      align-items: start;
    }
    p {
      margin: 0;
    }
  `,
})
export class HolidaysPart {
  readonly proposed = output<readonly ClosedDay[]>();
  private readonly service = inject(SettingsService);
  protected readonly countries = signal<HolidayCountries>([]);
  protected readonly busy = signal(false);
  protected readonly failed = signal('');
  protected readonly said = signal('');
  protected readonly country = control('DE');
  protected readonly region = control('');
  protected readonly from = control(String(thisYear));
  protected readonly to = control(String(thisYear + 4));
  private readonly chosen = toSignal(this.country.valueChanges.pipe(startWith('DE')), { requireSync: true });
  protected readonly countryChoices = computed(() =>
    this.countries().map(({ code, name }) => [code, name] as const),
  );
  protected readonly regionChoices = computed(() => [
    ['', 'all of it'] as const,
    ...(this.countries().find(({ code }) => code === this.chosen())?.regions ?? []).map(
      ({ code, name }) => [code, name] as const,
    ),
  ]);

  protected open(): void {
    this.busy.set(true);
    this.service.countries().subscribe({
      next: (countries) => {
        this.busy.set(false);
        this.countries.set(countries);
      },
      error: (error: unknown) => this.fail(error),
    });
  }

  protected propose(): void {
    this.busy.set(true);
    this.failed.set('');
    const [country, region] = [this.country.value, this.region.value];
    const known = this.regionChoices().some(([code]) => code === region);
    this.service
      .holidays({
        country,
        ...(region !== '' && known && { region }),
        from: this.from.value.trim(),
        to: this.to.value.trim(),
      })
      .subscribe({
        next: (days) => {
          this.busy.set(false);
          this.said.set(
            `${days.length} days are added above; take out what does not hold for your banks. Nothing is kept yet.`,
          );
          this.proposed.emit(days);
        },
        error: (error: unknown) => this.fail(error),
      });
  }

  private fail(error: unknown): void {
    this.busy.set(false);
    this.failed.set(messageOf(error));
  }
}
