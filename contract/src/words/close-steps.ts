import type { BroughtIn } from '../api/account-views.ts';
import type { CloseView, MonthStep } from '../api/close-views.ts';
import type { ConfirmCode } from '../api/confirm.ts';
import type { Attention, UnrecordedPayment } from '../api/views.ts';
import { accountName } from './account-names.ts';
import { notRecorded } from './agreed-words.ts';
import { toldCheck } from './close-checks.ts';
import { showAmount, showDay } from './show.ts';

/** A check of the month, as it is told. */
export interface CloseStep {
  readonly name: string;
  /** `agreed`: not so, and somebody has agreed to it by name. */
  readonly state: 'done' | 'wrong' | 'agreed';
  readonly text: string;
  /** What it is about, by name, and how that was treated. */
  readonly evidence?: string;
  /** Who agreed to it, and when. */
  readonly by?: MonthStep;
}

/** The list of the month: what was recorded and fixed, what must tie, what must balance. */
export function closeSteps(view: CloseView, digits: number): CloseStep[] {
  const { payments, unrecorded } = view;
  const balanced = view.debits === view.credits;
  const agreedTo = (code: ConfirmCode): MonthStep | undefined =>
    view.review.steps.findLast(({ confirmed }) => confirmed.includes(code));
  const asked = (name: string, holds: boolean, code: ConfirmCode, text: string, evidence = ''): CloseStep => {
    const by = holds ? undefined : agreedTo(code);
    const state = holds ? 'done' : by ? 'agreed' : 'wrong';
    return { name, state, text, ...(evidence !== '' && { evidence }), ...(by && { by }) };
  };
  // Of months that were closed before the list was kept it is known that somebody agreed, not to what.
  const agreedOnly = (name: string, code: ConfirmCode, text: string): CloseStep[] =>
    agreedTo(code) ? [asked(name, false, code, text)] : [];
  const missing = missingFixings(view);
  return [
    ...(payments
      ? [
          asked(
            'Payments recorded',
            payments.recorded >= payments.due,
            'payments-unrecorded',
            payments.due === 0 ? 'none due' : `${payments.recorded} of ${payments.due}`,
            assumed(unrecorded, digits),
          ),
          asked(
            'Rates fixed',
            missing.length === 0,
            'fixings-missing',
            missing.length === 0 ? 'none missing' : `${missing.length} missing`,
            notFixed(missing),
          ),
        ]
      : [
          ...agreedOnly('Payments recorded', 'payments-unrecorded', 'not all; which was not kept yet'),
          ...agreedOnly('Rates fixed', 'fixings-missing', 'not all; which was not kept yet'),
        ]),
    ...handSteps(agreedTo),
    ...view.checks.map((check): CloseStep => {
      const { name, holds, text } = toldCheck(check, digits);
      return { name, state: holds ? 'done' : 'wrong', text };
    }),
    ...(view.materiality.each > 0 || view.leftOut.length > 0 ? [leftOutStep(view, digits)] : []),
    ...accountSteps(view),
    {
      name: 'Entries balance',
      state: balanced ? 'done' : 'wrong',
      text: `${view.entryCount} entries, ${showAmount(view.debits, digits)}`,
    },
  ];
}

/** What the approval was named with: who approved had a hand in what the month rests on, or may be one person with who did. */
function handSteps(agreedTo: (code: ConfirmCode) => MonthStep | undefined): CloseStep[] {
  return Object.entries(hands).flatMap(([code, text]) => {
    const by = agreedTo(code as keyof typeof hands);
    return by ? [{ name: 'Two people', state: 'agreed' as const, text, by }] : [];
  });
}

const hands = {
  'hand-in-settings':
    'who approved had a hand in what the month rests on, or in who reviews; nobody else does',
  'one-person-behind-both': 'the same person may stand behind both; nobody else reviews',
} as const;

/** What is too small to be booked: named by its sum, and nothing that is wrong. */
function leftOutStep({ leftOut }: CloseView, digits: number): CloseStep {
  const sum = leftOut.reduce((total, { amount }) => total + amount, 0);
  const text = leftOut.length === 0 ? 'none' : `${leftOut.length}, ${showAmount(sum, digits)} left out`;
  return { name: 'Too small to accrue', state: 'done', text };
}

/** What the chart of accounts lacks, and whether what was brought in is what the ledger held. */
function accountSteps({ missingAccounts, brought }: CloseView): CloseStep[] {
  const missing = missingAccounts.map((role) => accountName(role)).join(', ');
  const off = brought.filter(isOffTheLedger).map(({ code }) => code);
  const tied = brought.length === 1 ? 'one account ties' : `${brought.length} accounts tie`;
  return [
    ...(missing === '' ? [] : [{ name: 'Accounts', state: 'wrong' as const, text: `none for ${missing}` }]),
    ...(brought.length === 0
      ? []
      : [
          {
            name: 'Opening balances',
            state: off.length === 0 ? ('done' as const) : ('wrong' as const),
            text: off.length === 0 ? `${tied} to the ledger` : `${off.join(', ')} does not tie`,
          },
        ]),
  ];
}

/** A check with what it is about, in words. */
export function stepInWords({ text, evidence }: CloseStep): string {
  return evidence === undefined ? text : `${text}; ${evidence}`;
}

/** Whether what is brought into an account is not what the ledger is known to have held. */
export function isOffTheLedger({ brought, ledger }: BroughtIn): boolean {
  return ledger !== null && ledger !== brought;
}

/** Instruments named in a line before the others are counted. */
const named = 3;

/** Which payments were not recorded, and how they were treated; nothing where all were. */
export function assumed(unrecorded: readonly UnrecordedPayment[], digits: number): string {
  if (unrecorded.length === 0) return '';
  return `${notRecorded}: ${listed(
    unrecorded.map(({ name, due, amount }) => `${name}, ${showAmount(amount, digits)} due ${showDay(due)}`),
  )}`;
}

/** Which rates were not fixed, and how they were treated; nothing where all were. */
export function notFixed(missing: readonly Attention[]): string {
  if (missing.length === 0) return '';
  return `not fixed, left at the rate before: ${listed(missing.map(({ name, on }) => `${name}, due ${showDay(on)}`))}`;
}

/** Rates that were to be fixed by the month's end and were not. */
export function missingFixings({ attention }: CloseView): CloseView['attention'] {
  return attention.filter(({ kind }) => kind === 'fixing-due');
}

function listed(all: readonly string[]): string {
  const more = all.length - named;
  return `${all.slice(0, named).join('; ')}${more > 0 ? `; and ${more} more` : ''}`;
}
