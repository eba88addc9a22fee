import type { InstrumentDocument } from '../document/instrument-document.ts';
import type { Fact } from './fact.ts';
import { eventFacts, termFacts } from './term-facts.ts';

/** One thing that a version changed: what it is called, and how it read before and after; empty where there is none. */
export interface VersionChange {
  readonly name: string;
  readonly before: string;
  readonly after: string;
}

/** What one version of an instrument changed of another, in the words in which its terms and events are shown. */
export function versionChanges(before: InstrumentDocument, after: InstrumentDocument): VersionChange[] {
  const named = factsChanged(
    [...described(before), ...termFacts(before)],
    [...described(after), ...termFacts(after)],
  );
  return [...named, ...eventsChanged(eventFacts(before), eventFacts(after))];
}

function described({ name, lender, agreement }: InstrumentDocument): Fact[] {
  return [
    ['Name', name],
    ['Lender', lender ?? ''],
    ['Agreement', agreement ?? ''],
  ];
}

function factsChanged(before: readonly Fact[], after: readonly Fact[]): VersionChange[] {
  const [was, is] = [new Map(before), new Map(after)];
  return [...new Set([...was.keys(), ...is.keys()])].flatMap((name) => {
    const [old, now] = [was.get(name) ?? '', is.get(name) ?? ''];
    return old === now ? [] : [{ name, before: old, after: now }];
  });
}

/** Events have no names: those that are only before were taken out, those that are only after are new. */
function eventsChanged(before: readonly Fact[], after: readonly Fact[]): VersionChange[] {
  const key = (fact: Fact): string => fact.join('\n');
  const left = after.map(key);
  const gone = before.filter((fact) => {
    const at = left.indexOf(key(fact));
    if (at >= 0) left.splice(at, 1);
    return at < 0;
  });
  const added = [...after];
  for (const fact of before) {
    const at = added.findIndex((each) => key(each) === key(fact));
    if (at >= 0) added.splice(at, 1);
  }
  return [
    ...gone.map(([name, text]) => ({ name, before: text, after: '' })),
    ...added.map(([name, text]) => ({ name, before: '', after: text })),
  ];
}
