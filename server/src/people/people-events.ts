import type { Knex } from 'knex';
import { roleWords, type PeopleEvent, type Permission } from '@coffer/contract';
import type { AuditRow, PersonRow } from '../database/tables.ts';

/** Events shown at most. */
const shown = 200;

/** What the trail tells of an event beside its subject. */
export interface Detail {
  readonly browser?: string;
  readonly address?: string;
  readonly why?: string;
  readonly role?: readonly Permission[];
  readonly before?: readonly Permission[];
  readonly ended?: number;
  readonly name?: string;
  readonly required?: boolean;
}

const failures: Readonly<Record<string, string>> = {
  'wrong-log-in': 'the password does not fit',
  'wrong-code': 'the code of the second factor does not fit',
  'wait-for-code': 'wrong codes one after another are waited for',
  'too-many-failures': 'it had failed too often before',
  suspended: 'access is suspended',
};

/** What happened to people and their rights, by what the audit trail calls it. */
export const peopleSentences: Readonly<Record<string, (subject: string, detail: Detail) => string>> = {
  'log-in': (who, { browser, address }) => `${who} logged in from ${address} by ${browser}`,
  'log-in-failed': (who, { why = '', address }) =>
    `Logging in as ${who} failed from ${address}: ${failures[why] ?? why}`,
  'log-out': (who) => `${who} logged out`,
  'recovery-code-used': (who) => `${who} used a recovery code`,
  'password-changed': (who) => `${who} changed the password`,
  'password-chosen-anew': (who) => `${who} chose a new password by a link`,
  'second-factor-on': (who) => `${who} turned a second factor on`,
  'second-factor-off': (who) => `${who} turned the second factor off`,
  'sessions-ended': (who, { ended = 0 }) => `${who} ended ${ended === 1 ? 'a session' : `${ended} sessions`}`,
  'sessions-ended-for': (who, { ended = 0 }) =>
    `${ended === 1 ? 'A session' : `${ended} sessions`} of ${who} ended`,
  invited: (who, { role = [] }) => `${who} was invited as one who ${roleWords(role)}`,
  'invitation-taken-back': (who) => `The link of ${who} was taken back`,
  'new-password-link': (who) => `${who} was given a link to choose a new password`,
  joined: (who, { role = [] }) => `${who} came to the company and ${roleWords(role)}`,
  'role-changed': (who, { role = [], before = [] }) =>
    `${who} ${roleWords(role)} now, before ${roleWords(before)}`,
  suspended: (who) => `${who} was suspended`,
  readmitted: (who) => `${who} was readmitted`,
  'second-factor-required': (_who, { required }) =>
    required ? 'A second factor is asked of everybody' : 'A second factor is no longer asked for',
  'company-made': (name) => `${name} was set up`,
};

/** What happened to the people of a company and their rights, newest first: in it, and where they logged in. */
export async function peopleEvents(database: Knex, companyId: number): Promise<PeopleEvent[]> {
  const people = await database('member')
    .join('person', 'person.id', 'member.person_id')
    .where({ company_id: companyId })
    .select<Pick<PersonRow, 'id' | 'log_in'>[]>('person.id', 'person.log_in');
  const ids = people.map(({ id }) => id);
  const names = people.map(({ log_in }) => log_in.toLowerCase());
  const rows = await database('audit_event')
    .leftJoin('person', 'person.id', 'audit_event.person_id')
    .whereIn('action', Object.keys(peopleSentences))
    .whereRaw(
      `(audit_event.company_id = ? or (audit_event.company_id is null and
        (person_id = any(?) or (person_id is null and lower(subject) = any(?)))))`,
      [companyId, ids, names],
    )
    .orderBy('audit_event.id', 'desc')
    .limit(shown)
    .select<
      (Pick<AuditRow, 'at' | 'action' | 'subject' | 'detail'> & {
        readonly name: string | null;
        readonly log_in: string | null;
      })[]
    >(
      'audit_event.at',
      'audit_event.action',
      'audit_event.subject',
      'audit_event.detail',
      'person.name',
      'person.log_in',
    );
  return rows.map(({ at, action, subject, detail, name, log_in: logIn }) => ({
    at: at.toISOString(),
    // Of what people do for themselves the sentence says all.
    by: logIn === subject ? null : name,
    sentence: peopleSentences[action]?.(subject, detail as Detail) ?? action,
    failed: action === 'log-in-failed',
  }));
}
