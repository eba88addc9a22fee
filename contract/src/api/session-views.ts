import * as v from 'valibot';
import { permissions } from './permissions.ts';

/** What a person may do in a company, beyond reading. */
export const role = v.array(v.picklist(permissions));

/** The name that somebody logs in with. */
export const logInName = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'expected a log-in name.'),
  v.maxLength(120, 'expected at most 120 characters.'),
  v.regex(/^[^\s\p{C}]+$/u, 'expected a log-in name without spaces.'),
);

/** A company that a person is of. */
export const membershipView = v.strictObject({ id: v.number(), name: v.string(), role });
export type MembershipView = v.InferOutput<typeof membershipView>;

/** Who is logged in. */
export const personView = v.strictObject({
  name: v.string(),
  logIn: v.string(),
  companies: v.array(membershipView),
});
export type PersonView = v.InferOutput<typeof personView>;

/** What a person who visits has before them. */
export const visitView = v.strictObject({
  person: v.nullable(personView),
  /** `demo` is the company that comes along; `empty` waits for its first company. */
  installation: v.picklist(['demo', 'own', 'empty']),
});
export type VisitView = v.InferOutput<typeof visitView>;

/** One log-in that has not ended. */
export const sessionView = v.strictObject({
  id: v.string(),
  /** Such as `Firefox on Linux`. */
  browser: v.string(),
  address: v.string(),
  startedAt: v.string(),
  lastUsedAt: v.string(),
  current: v.boolean(),
});
export type SessionView = v.InferOutput<typeof sessionView>;

/** A person's own account. */
export const accountView = v.strictObject({
  name: v.string(),
  logIn: v.string(),
  passwordSince: v.string(),
  secondFactorSince: v.nullable(v.string()),
  recoveryCodesLeft: v.number(),
  /** The companies that ask for a second factor. */
  requiredBy: v.array(v.string()),
  sessions: v.array(sessionView),
});
export type AccountView = v.InferOutput<typeof accountView>;
