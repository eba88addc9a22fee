import { FormArray, FormControl, FormGroup } from '@angular/forms';
import type { BusinessCalendar, BusinessDayRule, Compounding, DayCountName, Frequency } from '@coffer/core';
import { choice, flag, text, type Text } from '../../fields/controls';
import type { EventForm } from './event-form';
import { stretchForm, type StretchForm } from './stretch-form';

/** Everything that is asked for a loan or a credit line. */
export type LoanForm = FormGroup<{
  class: FormControl<'term-loan' | 'note'>;
  financed: FormControl<'amount' | 'purchase' | 'taken-on'>;
  amount: Text;
  price: Text;
  downPayment: Text;
  accrued: Text;
  costs: Text;
  costsMethod: FormControl<'effective' | 'straight-line'>;
  start: Text;
  rate: Text;
  compounding: FormControl<Compounding>;
  dayCount: FormControl<DayCountName>;
  floating: FormControl<boolean>;
  indexName: Text;
  margin: Text;
  floor: Text;
  cap: Text;
  resetEvery: FormControl<Frequency | 'none'>;
  indexPayment: FormControl<'re-level' | 'keep'>;
  every: FormControl<Frequency>;
  first: Text;
  last: Text;
  due: FormControl<'end' | 'start'>;
  monthEnd: FormControl<boolean>;
  moving: FormControl<BusinessDayRule | 'none'>;
  calendar: FormControl<BusinessCalendar>;
  accrual: FormControl<'moved' | 'unmoved'>;
  closed: Text;
  stretches: FormArray<StretchForm>;
  atEnd: FormControl<'pay' | 'leave'>;
  events: FormArray<EventForm>;
  interestRounding: FormControl<'cent' | 'unit' | 'none'>;
  paymentRounding: FormControl<'cent' | 'cent-up' | 'unit' | 'none'>;
  ties: FormControl<'away-from-zero' | 'even'>;
  limit: Text;
  unusedFee: Text;
  firstBill: Text;
  matures: Text;
}>;

export type TypedLoan = ReturnType<LoanForm['getRawValue']>;

/** An empty form, as an agreement is most often: a level monthly loan. */
export function loanForm(): LoanForm {
  return new FormGroup({
    class: choice<'term-loan' | 'note'>('term-loan'),
    financed: choice<'amount' | 'purchase' | 'taken-on'>('amount'),
    amount: text(),
    price: text(),
    downPayment: text(),
    accrued: text(),
    costs: text(),
    costsMethod: choice<'effective' | 'straight-line'>('effective'),
    start: text(),
    rate: text(),
    compounding: choice<Compounding>('each-payment'),
    dayCount: choice<DayCountName>('even-periods'),
    floating: flag(),
    indexName: text(),
    margin: text(),
    floor: text(),
    cap: text(),
    resetEvery: choice<Frequency | 'none'>('none'),
    indexPayment: choice<'re-level' | 'keep'>('re-level'),
    every: choice<Frequency>('month'),
    first: text(),
    last: text(),
    due: choice<'end' | 'start'>('end'),
    monthEnd: flag(),
    moving: choice<BusinessDayRule | 'none'>('none'),
    calendar: choice<BusinessCalendar>('TARGET'),
    accrual: choice<'moved' | 'unmoved'>('unmoved'),
    closed: text(),
    stretches: new FormArray<StretchForm>([stretchForm()]),
    atEnd: choice<'pay' | 'leave'>('pay'),
    events: new FormArray<EventForm>([]),
    interestRounding: choice<'cent' | 'unit' | 'none'>('cent'),
    paymentRounding: choice<'cent' | 'cent-up' | 'unit' | 'none'>('cent'),
    ties: choice<'away-from-zero' | 'even'>('away-from-zero'),
    limit: text(),
    unusedFee: text(),
    firstBill: text(),
    matures: text(),
  });
}
