import type { CloseView, MonthStep } from '../api/close-views.ts';
import type { ConfirmCode } from '../api/confirm.ts';
import { accountName } from './account-names.ts';
import { toldCheck } from './close-checks.ts';
import { showAmount } from './show.ts';

/** A check of the month, as it is told. */
export interface CloseStep {
  readonly name: string;
  /** `agreed`: not so, and somebody has agreed to it by name. */
  readonly state: 'done' | 'wrong' | 'agreed';
  readonly text: string;
  /** Who agreed to it, and when. */
  readonly by?: MonthStep;
}

/** The list of the month: what was recorded and fixed, what must tie, what must balance. */
export function closeSteps(view: CloseView, digits: number): CloseStep[] {
  const { payments, attention } = view;
  const balanced = view.debits === view.credits;
  const agreedTo = (code: ConfirmCode): MonthStep | undefined =>
    view.review.steps.findLast(({ confirmed }) => confirmed.includes(code));
  const asked = (name: string, holds: boolean, code: ConfirmCode, text: string): CloseStep => {
    const by = holds ? undefined : agreedTo(code);
    return { name, state: holds ? 'done' : by ? 'agreed' : 'wrong', text, ...(by && { by }) };
  };
  const missing = attention.filter(({ kind }) => kind === 'fixing-due').length;
  return [
    ...(payments
      ? [
          asked(
            'Payments recorded',
            payments.recorded >= payments.due,
            'payments-unrecorded',
            payments.due === 0 ? 'none due' : `${payments.recorded} of ${payments.due}`,
          ),
          asked(
            'Rates fixed',
            missing === 0,
            'fixings-missing',
            missing === 0 ? 'none missing' : `${missing} missing`,
          ),
        ]
      : []),
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

/** What the chart of accounts lacks, or holds otherwise than the ledger; nothing where all is well. */
function accountSteps({ missingAccounts, untied }: CloseView): CloseStep[] {
  const missing = missingAccounts.map((role) => accountName(role)).join(', ');
  const off = untied.map(({ code }) => code).join(', ');
  return [
    ...(missing === '' ? [] : [{ name: 'Accounts', state: 'wrong' as const, text: `none for ${missing}` }]),
    ...(off === '' ? [] : [{ name: 'Brought in', state: 'wrong' as const, text: `${off} does not tie` }]),
  ];
}
