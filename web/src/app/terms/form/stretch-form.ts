import { FormControl, FormGroup } from '@angular/forms';
import { choice, text, type Text } from '../../fields/controls';

/** What is paid in a stretch of the loan's life. */
export type StretchType =
  'level' | 'fixed' | 'equal-principal' | 'interest-only' | 'no-payment' | 'seasonal' | 'custom';

/** What becomes of interest in the months in which a seasonal stretch pays nothing else. */
export type OutOfSeason = 'interest-added' | 'interest-paid';

/** What becomes of interest while nothing is paid. */
export type UnpaidInterest = 'added-each-period' | 'kept-then-added' | 'kept-then-paid';

/** A stretch of payments as typed. */
export type StretchForm = FormGroup<{
  type: FormControl<StretchType>;
  count: Text;
  amortizeOver: Text;
  balloon: Text;
  /** The payment, or the principal of each payment. */
  payment: Text;
  /** By how much the payment rises each year. */
  rises: Text;
  unpaid: FormControl<UnpaidInterest>;
  /** The months of the year that are paid in. */
  months: Text;
  outside: FormControl<OutOfSeason>;
  /** Listed payments, a day and an amount a line. */
  listed: Text;
}>;

export type TypedStretch = ReturnType<StretchForm['getRawValue']>;

/** A stretch, level unless another is asked for. */
export function stretchForm(value: Partial<TypedStretch> = {}): StretchForm {
  return new FormGroup({
    type: choice<StretchType>(value.type ?? 'level'),
    count: text(value.count),
    amortizeOver: text(value.amortizeOver),
    balloon: text(value.balloon),
    payment: text(value.payment),
    rises: text(value.rises),
    unpaid: choice<UnpaidInterest>(value.unpaid ?? 'added-each-period'),
    months: text(value.months),
    outside: choice<OutOfSeason>(value.outside ?? 'interest-added'),
    listed: text(value.listed),
  });
}
