import type { InstrumentDocument } from '../document/instrument-document.ts';
import { documentKindOf } from '../kinds/document-kinds.ts';
import type { Fact } from './fact.ts';

/** The terms of an instrument as a list for people. */
export function termFacts(document: InstrumentDocument): Fact[] {
  return documentKindOf(document).facts(document);
}

/** The dated events of an instrument in words, in order of date: steps and fixings of a rate among them. */
export function eventFacts(document: InstrumentDocument): Fact[] {
  return documentKindOf(document).events(document);
}
