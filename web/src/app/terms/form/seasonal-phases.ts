import { partOf, type Part } from '../../fields/described-part';
import type { FieldReader } from '../../fields/field-reader';
import { readMonths } from '../../typed/typed-months';
import { fieldsOfStretch } from '../described/stretch-fields';
import { firstPayment } from './first-payment';
import type { TypedLoan } from './loan-form';
import { seasonsOf } from './seasons';
import type { StretchInPayments } from './stretch-terms';

/** As many payments as a phase of a document has at most. */
const mostSeasonal = 1200;

/** The phases of a stretch that pays in some months: the same payment in each season, interest alone between them. */
export function seasonalPhases(
  loan: TypedLoan,
  stretch: StretchInPayments,
  { key, last }: { readonly key: string; readonly last: boolean },
  reader: FieldReader,
): Part[] {
  const { before } = stretch;
  const { count, payment, months: typed } = partOf(fieldsOfStretch('seasonal'), stretch, reader, key);
  const level = { type: 'level', payment: payment ?? '?' };
  const months = typeof typed === 'string' ? readMonths(typed) : undefined;
  if (typeof typed === 'string' && !months)
    reader.fault(`${key}.months`, `“${typed}” is not understood; type months such as may to sep.`);
  if (before === undefined)
    reader.fault(
      `${key}.months`,
      'What comes before it has no number of payments; say it, or put this first.',
    );
  if (typeof count !== 'number' || count > mostSeasonal || !months || before === undefined) {
    if (typeof count === 'number' && count > mostSeasonal)
      reader.fault(`${key}.count`, `A stretch has at most ${mostSeasonal} payments; found ${count}.`);
    return [{ ...level, count }];
  }
  const seasons = seasonsOf(loan, before, count, months, last);
  if (!seasons.some(({ paid }) => paid)) {
    if (firstPayment(loan) !== undefined)
      reader.fault(`${key}.months`, 'No payment of this stretch falls in these months.');
    return [{ ...level, count }];
  }
  return seasons.map((season): Part => {
    if (season.paid) return { ...level, count: season.count };
    if (stretch.outside === 'interest-paid') return { type: 'interest-only', count: season.count };
    const [interest, then] = ['added-each-period', 'add-to-balance'];
    return { type: 'no-payment', count: season.count, interest, then };
  });
}
