import { type TermsChange, riseWords, showDay, showDecimal } from '@coffer/contract';
import { compoundingChoices } from '../terms/form/choices';

/** What becomes of interest while no principal is repaid, in words. */
export const meanwhileChoices: readonly (readonly [string, string])[] = [
  ['', 'as agreed'],
  ['paid', 'interest is paid'],
  ['added', 'interest is added each time'],
  ['apart-then-added', 'kept apart, then added'],
  ['apart-then-paid', 'kept apart, then paid'],
];

/** What a grid can take off each cell: the same terms with interest dealt with another way while nothing is repaid. */
export const againstChoices: readonly (readonly [string, string])[] = [
  ['', 'nothing is taken off'],
  ...meanwhileChoices.filter(([key]) => key !== ''),
];

/** Ways of compounding, or as it is. */
export const compoundingOrAsAgreed: readonly (readonly [string, string])[] = [
  ['', 'as agreed'],
  ...compoundingChoices,
];

const nameOf = (choices: readonly (readonly [string, string])[], value: string): string =>
  choices.find(([key]) => key === value)?.[1] ?? value;

/** A change in a line of words: `5.2%, 120 payments from 1 Jan 2027; 500.00 extra with each payment`. */
export function changeInWords(change: TermsChange): string {
  const { from, annual, payments, payment, amount, compounding, meanwhile } = change;
  const terms = [
    ...(amount === undefined ? [] : [`amount ${showDecimal(amount)}`]),
    ...(annual === undefined ? [] : [annual]),
    ...(payments === undefined ? [] : [`${payments} payments`]),
    ...(payment === undefined
      ? []
      : [`payments of ${showDecimal(payment)}${riseWords(change.paymentRises)}`]),
    ...(compounding === undefined ? [] : [`compounded ${nameOf(compoundingOrAsAgreed, compounding)}`]),
    ...(meanwhile === undefined ? [] : [nameOf(meanwhileChoices, meanwhile)]),
  ].join(', ');
  const since = from === undefined ? '' : ` from ${showDay(from)}`;
  const parts = [
    ...(terms === '' ? [] : [`${terms}${since}`]),
    ...(change.extraEach === undefined
      ? []
      : [
          `${showDecimal(change.extraEach)} extra with each payment${riseWords(change.extraRises)}${change.extraFrom === undefined ? '' : ` from ${showDay(change.extraFrom)}`}`,
        ]),
    ...(change.extraOnce === undefined || change.extraOn === undefined
      ? []
      : [`${showDecimal(change.extraOnce)} extra on ${showDay(change.extraOn)}`]),
  ];
  return parts.join('; ');
}
