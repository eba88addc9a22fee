import type { Knex } from 'knex';
import { writtenSettingsOn } from '../company/settings.ts';
import { Refusal } from '../http/refusal.ts';
import type { Maker } from '../instruments/instrument-store.ts';

/** Whether a company asks for a second person to close a month. */
export async function asksForTwo(database: Knex, companyId: number): Promise<boolean> {
  // Decided for the day that it is decided on, never for one to come.
  return (await writtenSettingsOn(database, companyId, 'infinity')).closing === 'two-people';
}

/** Who may approve a month, and why others may not. */
export interface Approvers {
  /** By name. */
  readonly names: readonly string[];
  /** Why somebody may not, as a sentence; `undefined` where they may. */
  readonly why: (person: Maker) => string | undefined;
}

/** Who may approve a month: who reviews and had no hand in it, as the database sees it. */
export async function approversOf(database: Knex, companyId: number, endsOn: string): Promise<Approvers> {
  const hands = await database.raw<{ rows: Hand[] }>(
    `select person_id, did, instrument from who_prepared(?, ?) order by person_id, did`,
    [companyId, endsOn],
  );
  const by = new Map(hands.rows.map((hand) => [hand.person_id, hand]));
  const reviewers = await database('member')
    .join('person', 'person.id', 'member.person_id')
    .where({ company_id: companyId, suspended_at: null })
    .whereRaw(`'review' = any (member.role)`)
    .orderByRaw('lower(person.name)')
    .select<{ id: number; name: string }[]>('person.id', 'person.name');
  return {
    names: reviewers.filter(({ id }) => !by.has(id)).map(({ name }) => name),
    why: ({ id }) => {
      const hand = id === null ? undefined : by.get(id);
      if (hand) return did[hand.did](hand.instrument ?? '');
      return reviewers.some((each) => each.id === id) ? undefined : 'Your role does not review.';
    },
  };
}

/** Refuses who had a hand in a month. Throws {@link Refusal} 403, naming who may approve it. */
export function refuseOwnWork(approvers: Approvers, person: Maker): void {
  const why = approvers.why(person);
  if (why === undefined) return;
  throw new Refusal(403, 'own-work', `${why} ${whoMay(approvers)}`);
}

/** Who may approve, as a sentence. */
export function whoMay({ names }: Approvers): string {
  return names.length === 0
    ? 'Nobody else reviews here: an administrator invites somebody who does.'
    : `${names.join(' or ')} may approve it.`;
}

interface Hand {
  readonly person_id: number;
  readonly did: keyof typeof did;
  readonly instrument: string | null;
}

const did = {
  'handed-over': (): string => 'You handed this month over yourself.',
  accruals: (): string => 'You chose what becomes of the accruals of this month.',
  changed: (instrument: string): string => `You changed ${instrument} since the last close.`,
};
