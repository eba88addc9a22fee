import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { currencyCodes, currencyDigits } from '@coffer/core';
import { ChoiceField } from '../fields/choice-field';
import { TypedField } from '../fields/typed-field';
import type { CompanyForm } from './company-form';

const names = new Intl.DisplayNames('en', { type: 'currency' });
const decimals = (code: string): string => {
  const digits = currencyDigits(code) ?? 2;
  return digits === 0 ? 'no decimals' : `${digits} decimals`;
};
const currencies = currencyCodes.map(
  (code) => [code, `${code} · ${decimals(code)}: ${names.of(code) ?? ''}`] as const,
);
const monthNames = new Intl.DateTimeFormat('en', { month: 'long', timeZone: 'UTC' });
const months = Array.from(
  { length: 12 },
  (_, at) => [String(at + 1), monthNames.format(new Date(Date.UTC(2000, at, 1)))] as const,
);

/** The rows of a company that is being made: name and currency, fiscal year, first day of the books. */
@Component({
  selector: 'coffer-company-fields',
  imports: [ChoiceField, TypedField],
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
          close. This day and the currency stay once a month is closed.
        </p>
      </div>
    </section>
  `,
  styleUrl: './rows.scss',
})
export class CompanyFields {
  readonly form = input.required<CompanyForm>();
  protected readonly currencies = currencies;
  protected readonly months = months;
}
