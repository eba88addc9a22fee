import { accountKinds, type AccountKind } from '@coffer/core';
import { accountName, suggestedRoles, type AccountOfRole, type ConfirmCode } from '@coffer/contract';
import { askFirst } from '../http/refusal.ts';

const kindWords: Readonly<Record<AccountKind, string>> = {
  asset: 'an asset account',
  liability: 'a liability account',
  income: 'an account of the income statement',
  opening: 'an account for opening balances',
};

/**
 * An account of another kind than its role asks for, such as an expense on cash, is given only where it is meant: each is
 * named. What kind it is says its name, or the other role that it stands for. Throws {@link Refusal} 409.
 *
 * @param given roles that get another account than they had
 * @param others what stands for roles besides
 * @param names of the accounts by their codes
 */
export function askAboutKinds(
  given: readonly AccountOfRole[],
  others: readonly AccountOfRole[],
  names: ReadonlyMap<string, string>,
  confirm: readonly ConfirmCode[],
): void {
  const questions = given.flatMap(({ role, code }) => {
    const name = names.get(code) ?? '';
    const wanted = accountKinds[role];
    const suggested = suggestedRoles(name);
    const [likeliest] = suggested;
    const other = others.find((each) => each.code === code && accountKinds[each.role] !== wanted);
    const told = (why: string): { code: 'other-kind'; key: string; message: string }[] => [
      {
        code: 'other-kind',
        key: role,
        message: `${accountName(role)} would stand in ${code} ${name}, ${why}; it is expected in ${kindWords[wanted]}.`,
      },
    ];
    if (likeliest !== undefined && !suggested.some((each) => accountKinds[each] === wanted))
      return told(`which by its name is ${kindWords[accountKinds[likeliest]]}`);
    return other ? told(`which stands for ${accountName(other.role)} too`) : [];
  });
  askFirst(questions, confirm);
}
