import {
  showDay,
  showMonth,
  showText,
  settingInWords,
  settingKeys,
  settingNames,
  type TrailEvent,
} from '@coffer/contract';
import { peopleSentences, type Detail } from '../people/people-events.ts';

/** What an event tells beside its subject, as it was written. */
type Told = Readonly<Record<string, unknown>>;
type Changes = TrailEvent['changes'];

const text = (value: unknown): string =>
  typeof value === 'string' ? value : typeof value === 'number' ? String(value) : '';
/** Why, with days and amounts as the company writes them. */
const reason = (told: Told): string => showText(text(told['reason']));
const month = (endsOn: string): string => showMonth(endsOn);

/** How a month was closed, in words. */
const closedAs: Readonly<Record<string, string>> = {
  reviewed: 'approved and locked',
  alone: 'locked by one person',
};

/** What happened to the books of a company, by what the audit trail calls it. */
const sentences: Readonly<Record<string, (subject: string, told: Told, name: string) => string>> = {
  'instrument-created': (_, told, name) => `${name || text(told['name'])} was taken on`,
  'instrument-changed': (_, told, name) =>
    `${name} was changed to version ${text(told['version'])}: ${reason(told)}`,
  'instrument-withdrawn': (_, told, name) => `${name} was withdrawn: ${reason(told)}`,
  'own-accounts-changed': (subject) => `${subject} was given accounts or a cost centre of its own`,
  'paper-kept': (_, told, name) => `The paper ${text(told['name'])} was kept at ${name}`,
  'paper-taken-away': (_, told, name) =>
    `The paper ${text(told['name'])} was taken away from ${name}: ${reason(told)}`,
  'accounts-changed': () => 'The chart of accounts was changed',
  'ledger-balances': (subject) => `What the ledger held before ${showDay(subject)} was typed`,
  'fixings-kept': (subject, told) => `Fixings of ${subject} were kept: ${reason(told)}`,
  'settings-changed': (_, told) => `Settings were changed: ${reason(told)}`,
  'scenario-kept': (_, told) => `The scenario ${text(told['name'])} was kept`,
  'scenario-taken-away': (_, told) => `The scenario ${text(told['name'])} was taken away`,
  'scenario-adopted': (_, told) => `The scenario ${text(told['name'])} became the terms`,
  'accruals-chosen': (subject, told) =>
    `${month(subject)}: its accruals are ${told['accruals'] === 'standing' ? 'left standing' : 'reversed'}`,
  'month-handed-over': (subject) => `${month(subject)} was handed over`,
  'month-returned': (subject, told) => `${month(subject)} was returned: ${text(told['comment'])}`,
  'month-commented': (subject, told, name) =>
    `${month(subject)}${name === '' ? '' : `, ${name}`}: ${text(told['text'])}`,
  'period-locked': (subject, told) =>
    `${month(subject)} was ${closedAs[text(told['as'])] ?? 'locked'}: ${text(told['entries'])} entries${named(told['named'])}`,
  'company-brought': (subject, told) => `${subject} was brought in from a file of ${text(told['from'])}`,
};

/** What was named with an approval, because nobody reviewed who had no hand in the month. */
function named(sentences: unknown): string {
  return Array.isArray(sentences) ? `. ${sentences.map(text).join(' ')}` : '';
}

/** An event as a sentence; by its own word where there is none for it. */
export function trailSentence(action: string, subject: string, told: Told, name: string): string {
  return (
    sentences[action]?.(subject, told, name) ??
    peopleSentences[action]?.(subject, told as Detail) ??
    `${action}: ${subject}`
  );
}

/** What an event changed that it tells itself, in the words of the screen. */
export function toldChanges(action: string, told: Told, digits: number): Changes {
  if (action === 'settings-changed') return settingChanges(told['settings'], digits);
  if (action === 'own-accounts-changed') {
    const before = (told['before'] ?? {}) as Told;
    return [
      { name: 'Accounts', before: accounts(before['accounts']), after: accounts(told['accounts']) },
      { name: 'Cost centre', before: text(before['costCentre']), after: text(told['costCentre']) },
    ].filter((change) => change.before !== change.after);
  }
  return [];
}

function settingChanges(told: unknown, digits: number): Changes {
  const settings = (told ?? {}) as Readonly<
    Record<string, { readonly was?: unknown; readonly is?: unknown }>
  >;
  return settingKeys.flatMap((key) => {
    const change = settings[key];
    return change === undefined
      ? []
      : [
          {
            name: settingNames[key],
            before: settingInWords(key, change.was, digits),
            after: settingInWords(key, change.is, digits),
          },
        ];
  });
}

function accounts(told: unknown): string {
  const listed = (told ?? []) as readonly { readonly role?: string; readonly code?: string }[];
  return listed.map(({ role, code }) => `${role ?? ''} ${code ?? ''}`).join(', ');
}
