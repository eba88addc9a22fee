/** Who a person is to the books. */
export const roles = ['preparer', 'reviewer', 'administrator', 'auditor'] as const;
export type Role = (typeof roles)[number];

/** What a person may do beyond reading. */
export const permissions = [
  'instruments.change',
  'payments.record',
  'periods.lock',
  'scenarios.keep',
] as const;
export type Permission = (typeof permissions)[number];

const granted: Readonly<Record<Role, readonly Permission[]>> = {
  preparer: permissions,
  // What is kept as a scenario is no part of the books.
  reviewer: ['scenarios.keep'],
  administrator: permissions,
  auditor: [],
};

/** Whether a role may do something. */
export function mayDo(role: Role, permission: Permission): boolean {
  return granted[role].includes(permission);
}
