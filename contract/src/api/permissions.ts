/** What a person may be allowed in a company beyond reading it, which everybody of it may. A role is a set of these. */
export const permissions = ['prepare', 'review', 'administer'] as const;
export type Permission = (typeof permissions)[number];

/** Who keeps the books. */
export const preparing: readonly Permission[] = ['prepare'];
/** Who approves what others prepared. */
export const reviewing: readonly Permission[] = ['review'];
/** Who works out what might be: what is kept as a scenario is no part of the books. */
export const proposing: readonly Permission[] = ['prepare', 'review'];
/** Who keeps the chart of accounts. */
export const charting: readonly Permission[] = ['prepare', 'administer'];
/** Who decides about people and rules. */
export const administering: readonly Permission[] = ['administer'];

const does: Readonly<Record<Permission, string>> = {
  prepare: 'prepares',
  review: 'reviews',
  administer: 'administers',
};

/** A role in a word or more, such as `prepares and reviews`; `reads` where nothing else is allowed. */
export function roleWords(role: readonly Permission[]): string {
  const words = permissions.filter((each) => role.includes(each)).map((each) => does[each]);
  const last = words.pop() ?? 'reads';
  return words.length === 0 ? last : `${words.join(', ')} and ${last}`;
}
