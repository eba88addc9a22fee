import { FormControl } from '@angular/forms';

/** A field that people type into freely. */
export type Text = FormControl<string>;

/** An empty or filled field. */
export const text = (value = ''): Text => new FormControl(value, { nonNullable: true });

/** A field with a few values to choose from. */
export const choice = <T extends string>(value: T): FormControl<T> =>
  new FormControl<T>(value, { nonNullable: true });

/** A field that is on or off. */
export const flag = (value = false): FormControl<boolean> => new FormControl(value, { nonNullable: true });
