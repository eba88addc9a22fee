import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import {
  belowZeroHabits,
  dateHabits,
  inHabits,
  numberHabits,
  showDecimal,
  usualHabits,
  type BelowZeroHabit,
  type DateHabit,
  type Habits,
  type NumberHabit,
} from '@coffer/contract';

/** How numbers and days are written, as controls of a form. */
export type HabitControls = { [Key in keyof Habits]: FormControl<Habits[Key]> };

const control = <Of>(value: Of): FormControl<Of> => new FormControl(value, { nonNullable: true });

/** Controls that begin with the habits given. */
export function habitControls(habits: Habits = usualHabits): HabitControls {
  return {
    numbers: control(habits.numbers),
    belowZero: control(habits.belowZero),
    dates: control(habits.dates),
  };
}

const numbers = Object.keys(numberHabits) as NumberHabit[];
const dates = Object.keys(dateHabits) as DateHabit[];

/** Habits chosen from examples: each is shown as it writes. */
@Component({
  selector: 'coffer-habit-choice',
  imports: [MatButtonToggleModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span id="habit-numbers" class="dim">Numbers</span>
    <mat-button-toggle-group
      hideSingleSelectionIndicator
      aria-labelledby="habit-numbers"
      [formControl]="controls().numbers"
    >
      @for (each of numbers; track each) {
        <mat-button-toggle [value]="each">{{ shown[each].shown }}</mat-button-toggle>
      }
    </mat-button-toggle-group>
    <span id="habit-below" class="dim">Below zero</span>
    <mat-button-toggle-group
      hideSingleSelectionIndicator
      aria-labelledby="habit-below"
      [formControl]="controls().belowZero"
    >
      @for (each of belowZero; track each) {
        <mat-button-toggle [value]="each">{{ below(each) }}</mat-button-toggle>
      }
    </mat-button-toggle-group>
    <span id="habit-dates" class="dim">Dates</span>
    <mat-button-toggle-group
      hideSingleSelectionIndicator
      aria-labelledby="habit-dates"
      [formControl]="controls().dates"
    >
      @for (each of dates; track each) {
        <mat-button-toggle [value]="each">{{ days[each] }}</mat-button-toggle>
      }
    </mat-button-toggle-group>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 76px minmax(0, max-content);
      align-items: center;
      gap: var(--space-4) 0;
      font-variant-numeric: tabular-nums;
    }
    mat-button-toggle-group {
      justify-self: start;
      flex-wrap: wrap;
    }
  `,
})
export class HabitChoice {
  readonly controls = input.required<HabitControls>();
  protected readonly numbers = numbers;
  protected readonly belowZero = belowZeroHabits;
  protected readonly dates = dates;
  protected readonly shown = numberHabits;
  protected readonly days = dateHabits;

  protected below(belowZero: BelowZeroHabit): string {
    return inHabits({ ...usualHabits, numbers: this.controls().numbers.value, belowZero }, () =>
      showDecimal('-1250.00'),
    );
  }
}
