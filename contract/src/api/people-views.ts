import * as v from 'valibot';
import { shortText } from '../document/scalars.ts';
import { logInName, role } from './session-views.ts';

/** Hours that an invitation, or a link to choose a new password, holds. */
export const linkHours = 72;

/** Somebody of the company, as its administrators see them. */
export const memberView = v.strictObject({
  id: v.number(),
  name: v.string(),
  logIn: v.string(),
  role,
  suspended: v.boolean(),
  secondFactor: v.boolean(),
  lastLogIn: v.nullable(v.string()),
});
export type MemberView = v.InferOutput<typeof memberView>;

/** An invitation that was not taken up yet. */
export const invitationView = v.strictObject({
  id: v.number(),
  name: v.string(),
  logIn: v.string(),
  role,
  /** To come to the company, or to choose a new password. */
  kind: v.picklist(['invitation', 'new-password']),
  by: v.string(),
  expiresAt: v.string(),
  expired: v.boolean(),
});
export type InvitationView = v.InferOutput<typeof invitationView>;

/** What happened to people and rights, newest first. */
export const peopleEvent = v.strictObject({
  at: v.string(),
  by: v.nullable(v.string()),
  sentence: v.string(),
  /** A failure, which is worth a second look. */
  failed: v.boolean(),
});
export type PeopleEvent = v.InferOutput<typeof peopleEvent>;

/** The people of a company. */
export const peopleView = v.strictObject({
  people: v.array(memberView),
  invitations: v.array(invitationView),
  secondFactorRequired: v.boolean(),
  events: v.array(peopleEvent),
});
export type PeopleView = v.InferOutput<typeof peopleView>;

/** Somebody who is invited. */
export const invited = v.strictObject({ name: shortText, logIn: logInName, role });

/** A one-time link, told once: the token stands in it after `#`. */
export const linkView = v.strictObject({ token: v.string(), expiresAt: v.string() });
export type LinkView = v.InferOutput<typeof linkView>;

/** What a one-time link leads to. */
export const linkTarget = v.strictObject({
  kind: v.picklist(['invitation', 'new-password']),
  company: v.string(),
  name: v.string(),
  logIn: v.string(),
  role,
  /** Whether the person is in the installation already, so that they log in instead of choosing a password. */
  known: v.boolean(),
});
export type LinkTarget = v.InferOutput<typeof linkTarget>;
