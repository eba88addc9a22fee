import type { Knex } from 'knex';
import type { Question } from '@coffer/contract';
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
  /** What is named with the approval of somebody who may, because nobody reviews here who had no hand at all. */
  readonly named: (person: Maker) => readonly Question[];
}

/**
 * Who may approve a month: who reviews and had no hand in it, as the database sees it. Where nobody is left of those, who
 * had none in what is posted: what they did besides is named with the approval.
 */
export async function approversOf(database: Knex, companyId: number, endsOn: string): Promise<Approvers> {
  const found = await database.raw<{ rows: Hand[] }>(
    `select person_id, did, about, firm from hands_in(?, ?) order by person_id, firm desc, did desc, about`,
    [companyId, endsOn],
  );
  const handsOf = (id: number | null): Hand[] => found.rows.filter(({ person_id }) => person_id === id);
  const isFirm = ({ firm }: Hand): boolean => firm;
  const reviewers = await database('member')
    .join('person', 'person.id', 'member.person_id')
    .where({ company_id: companyId, suspended_at: null })
    .whereRaw(`'review' = any (member.role)`)
    .orderByRaw('lower(person.name), person.id')
    .select<{ id: number; name: string }[]>('person.id', 'person.name');
  const without = reviewers.filter(({ id }) => handsOf(id).length === 0);
  const left = without.length > 0 ? without : reviewers.filter(({ id }) => !handsOf(id).some(isFirm));
  return {
    names: left.map(({ name }) => name),
    why: ({ id }) => {
      if (left.some((each) => each.id === id)) return undefined;
      const [hand] = handsOf(id);
      return hand ? said(you, hand) : 'Your role does not review.';
    },
    named: ({ id }) => {
      const one = left.find((each) => each.id === id);
      return one ? handsOf(id).map((hand) => namedHand(one.name, hand)) : [];
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
  readonly about: string | null;
  readonly firm: boolean;
}

/** What somebody did, as a sentence: said to them, or of them by name. */
const did = {
  'handed-over': (who: string): string => `${who} handed this month over.`,
  accruals: (who: string): string => `${who} chose what becomes of the accruals of this month.`,
  changed: (who: string, instrument: string): string => `${who} changed ${instrument} since the last close.`,
  chart: (who: string): string => `${who} changed the chart of accounts since the last close.`,
  balances: (who: string): string => `${who} changed what the ledger held since the last close.`,
  fixings: (who: string, index: string): string => `${who} kept fixings of ${index} since the last close.`,
  settings: (who: string): string => `${who} changed settings that this month rests on since the last close.`,
  'sent-away': (who: string, whom: string): string =>
    `${who} suspended ${whom}, or took the review from them, since the last close.`,
  'let-in': (who: string, by: string): string =>
    `${who} ${who === you ? 'were' : 'was'} let in, given a role or a way in since the last close by ${by}, who had a hand in this month.`,
};
const you = 'You';

const said = (who: string, { did: what, about }: Hand): string => did[what](who, about ?? '');

/** A hand as it is asked about, and named where the month is told of. */
function namedHand(who: string, hand: Hand): Question {
  return hand.did === 'let-in'
    ? {
        code: 'one-person-behind-both',
        key: '',
        message: `The same person may stand behind both: ${said(who, hand)} Nobody else reviews here.`,
      }
    : {
        code: 'hand-in-settings',
        key: '',
        message: `${said(who, hand)} Nobody reviews here who had no hand in the month.`,
      };
}
