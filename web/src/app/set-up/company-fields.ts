import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { MatRadioModule } from '@angular/material/radio';
import { ChoiceField } from '../fields/choice-field';
import { TypedField } from '../fields/typed-field';
import { HabitChoice } from '../settings/habit-choice';
import { currencyChoices, monthNameChoices } from './company-choices';
import type { CompanyForm } from './company-form';

/** The rows of a company that is being made: name and currency, fiscal year, first day of the books. */
@Component({
  selector: 'coffer-company-fields',
  imports: [ChoiceField, HabitChoice, MatRadioModule, ReactiveFormsModule, TypedField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section>
      <h2>Company</h2>
      <div class="fields">
        <coffer-typed-field
          class="wide"
          label="Name, as on the reports"
          [control]="form().name"
          [fault]="form().faults()['name'] ?? ''"
        />
        <coffer-choice-field
          label="Currency of the books"
          [control]="form().currency"
          [choices]="currencies"
          [fault]="form().faults()['currency'] ?? ''"
        />
      </div>
    </section>
    <section>
      <h2>Numbers and dates</h2>
      <div>
        <coffer-habit-choice [controls]="form().habits" />
        <p class="dim said">{{ form().habitHint() }}</p>
      </div>
    </section>
    <section>
      <h2>Fiscal year</h2>
      <div class="fields">
        <coffer-choice-field label="Ends with the month of" [control]="form().yearEnd" [choices]="months" />
        <p class="dim note">{{ form().quarters() }}</p>
      </div>
    </section>
    <section>
      <h2>First day of the books</h2>
      <div class="fields">
        <coffer-typed-field
          label="Books begin on"
          [control]="form().booksFrom"
          [fault]="form().faults()['booksFrom'] ?? ''"
        />
        <p class="note">{{ form().fromHint() }}</p>
        <p class="dim line">
          Instruments come on with their balance at the close of the day before. That month is the first to
          close. This day and the currency stay once an instrument is kept.
        </p>
      </div>
    </section>
    <section>
      <h2>Closing a month</h2>
      <div>
        <mat-radio-group aria-label="Who closes a month" [formControl]="form().closing">
          <mat-radio-button value="one-person"
            >I close it, alone for now; every paper says so</mat-radio-button
          >
          <mat-radio-button value="two-people">One hands it over, somebody else approves it</mat-radio-button>
        </mat-radio-group>
      </div>
    </section>
  `,
  styleUrl: './rows.scss',
})
export class CompanyFields {
  readonly form = input.required<CompanyForm>();
  protected readonly currencies = currencyChoices;
  protected readonly months = monthNameChoices;
}
