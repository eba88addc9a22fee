import { computed, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup } from '@angular/forms';
import { addMonths, calendarFields, formatDay, monthEnd, parseDay, type CalendarDay } from '@coffer/core';
import {
  adoptHabits,
  inHabits,
  monthName,
  showDay,
  showDecimal,
  usualClassNames,
  usualHabits,
  type ClosingWay,
  type CompanyView,
  type Habits,
  type NewCompany,
} from '@coffer/contract';
import { map } from 'rxjs';
import { FieldReader } from '../fields/field-reader';
import { habitControls } from '../settings/habit-choice';
import { readDay } from '../typed/typed-day';

const text = (value = ''): FormControl<string> => new FormControl(value, { nonNullable: true });

/** The first day of the month that a day lies in. */
function firstOfMonth(day: CalendarDay): CalendarDay {
  return (monthEnd(addMonths(day, -1, false)) + 1) as CalendarDay;
}

/** A day that no habit makes ambiguous. */
const showDayInWords = (day: CalendarDay): string => inHabits(usualHabits, () => showDay(day));

/** A company that is being typed in, and what it would look like. Made while a component is made. */
export class CompanyForm {
  readonly name = text();
  readonly currency = text('EUR');
  readonly yearEnd = text('12');
  readonly booksFrom: FormControl<string>;
  readonly closing = new FormControl<ClosingWay>('one-person', { nonNullable: true });
  readonly habits = habitControls();
  private readonly chosenHabits = new FormGroup(this.habits);
  readonly faults = signal<Readonly<Record<string, string>>>({});
  private readonly typedName = toSignal(this.name.valueChanges, { initialValue: '' });
  private readonly typedCurrency = toSignal(this.currency.valueChanges, { initialValue: 'EUR' });
  private readonly typedEnd = toSignal(this.yearEnd.valueChanges, { initialValue: '12' });
  private readonly typedFrom;
  /** The habits that are chosen so far. */
  readonly writes = toSignal(this.chosenHabits.valueChanges.pipe(map(() => this.adopt())), {
    initialValue: usualHabits,
  });

  constructor() {
    adoptHabits(usualHabits);
    const today = parseDay(new Date().toISOString().slice(0, 10)) as CalendarDay;
    this.booksFrom = text(showDay(firstOfMonth(today)));
    this.typedFrom = toSignal(this.booksFrom.valueChanges, { initialValue: this.booksFrom.value });
  }

  /** Writes by what is chosen from here on: what stands typed is written anew. */
  private adopt(): Habits {
    const first = this.first();
    const chosen = this.chosenHabits.getRawValue();
    adoptHabits(chosen);
    if (first !== undefined) this.booksFrom.setValue(showDay(first));
    return chosen;
  }

  /** What the habits make of what is typed. */
  readonly habitHint = computed(() => {
    this.writes();
    const day = readDay('3/4/26');
    return `A day typed 3/4/26 is then ${day === undefined ? '' : showDayInWords(day)}; an amount typed ${showDecimal('1.2')}m is ${showDecimal('1200000.00')}.`;
  });

  /** The first day of the books, where it is understood and begins a month. */
  readonly first = computed(() => {
    const day = readDay(this.typedFrom());
    return day !== undefined && calendarFields(day).day === 1 ? day : undefined;
  });
  readonly shownName = computed(() => this.typedName().trim());
  readonly shownCurrency = computed(() => this.typedCurrency());
  readonly endMonth = computed(() => Number(this.typedEnd()));

  /** The fiscal year that a day lies in, named by the calendar year that it ends in. */
  readonly fiscalYear = computed(() => {
    const first = this.first();
    if (first === undefined) return undefined;
    const { year, month } = calendarFields(first);
    return month > this.endMonth() ? year + 1 : year;
  });

  /** What is understood of the first day of the books, or what is wrong with it. */
  readonly fromHint = computed(() => {
    this.writes();
    const day = readDay(this.typedFrom());
    if (day === undefined) return '';
    if (calendarFields(day).day !== 1)
      return `Books begin on the first of a month, such as ${showDay(firstOfMonth(day))}.`;
    return `${showDay(day)}, in Fiscal ${this.fiscalYear()}`;
  });

  /** What the year looks like in words. */
  readonly quarters = computed(() => {
    const end = this.endMonth();
    const name = (month: number): string => monthName(((month + 11) % 12) + 1);
    const ends = [3, 6, 9, 12].map((after) => name(end + after));
    return `Twelve periods, ${name(end + 1)} to ${name(end)}; quarters end in ${ends.slice(0, 3).join(', ')} and ${ends[3]}.`;
  });

  /** The company as the rail of months draws it. */
  readonly preview = computed<CompanyView | undefined>(() => {
    const first = this.first();
    if (first === undefined) return undefined;
    return {
      id: 0,
      name: this.shownName(),
      currency: this.shownCurrency(),
      digits: 2,
      fiscalYearEndMonth: this.endMonth(),
      booksFrom: formatDay(first),
      periods: [
        { endsOn: formatDay(monthEnd(first)), state: 'open', closedAt: null, closedBy: null, closedAs: null },
      ],
      accounts: [],
      habits: this.writes(),
      classNames: usualClassNames,
    };
  });

  /** What is typed, where all of it is there. Notes what is missing at its field. */
  read(): NewCompany | undefined {
    const reader = new FieldReader();
    const name = reader.text('name', this.name.value);
    const booksFrom = reader.day('booksFrom', this.booksFrom.value);
    const day = booksFrom === undefined ? undefined : parseDay(booksFrom);
    if (day !== undefined && calendarFields(day).day !== 1) {
      reader.fault(
        'booksFrom',
        `Books begin on the first of a month, such as ${showDay(firstOfMonth(day))}.`,
      );
    }
    this.tell(reader.byKey());
    if (name === undefined || booksFrom === undefined || reader.faults.length > 0) return undefined;
    return {
      name,
      currency: this.currency.value,
      fiscalYearEndMonth: this.endMonth(),
      booksFrom,
      habits: this.chosenHabits.getRawValue(),
      closing: this.closing.value,
    };
  }

  /** Shows faults at their fields. */
  tell(faults: Readonly<Record<string, string>>): void {
    this.faults.set(faults);
  }
}
