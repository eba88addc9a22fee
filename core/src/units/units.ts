declare const unit: unique symbol;

/** A number of a unit: any plain number may stand for it, a number of another unit may not. */
export type NumberOf<Unit extends string> = number & { readonly [unit]?: Unit };

/** An amount of money in a currency's minor units (ISO 4217): cents where it has two decimals. */
export type MinorUnits = NumberOf<'minor unit'>;

/** How many of something, or the place of one among them: payments, rows, days, months, decimals. */
export type Count = NumberOf<'count'>;
