import {
  documentVersion,
  hasRateAtStart,
  withFixings,
  type Fault,
  type PublishedIndexes,
} from '@coffer/contract';
import { viewKindOf } from '../../kinds/view-kinds';
import type { KeptEvent } from './part-of-form';
import { FieldReader, present } from '../../fields/field-reader';
import type { TypedTerms } from './terms-form';

/** What was typed as an instrument document, with what could not be read, by the document's keys. */
export interface TypedDocument {
  readonly document: object;
  readonly faults: readonly Fault[];
  /** Keys of fields that are needed and still empty. */
  readonly missing: readonly string[];
  /** The document's key of each typed event. */
  readonly eventKeys: readonly string[];
  /** Of which typed stretch each phase of the document is. */
  readonly stretchOf: readonly number[];
}

/** Makes a document of what was typed, with the fixings that the company's indexes have for it. */
export function typedDocument(
  typed: TypedTerms,
  currency: string,
  kept: readonly KeptEvent[],
  published: PublishedIndexes = {},
): TypedDocument {
  const read = new FieldReader();
  if (typed.name.trim() === '') read.missing.push('name');
  const head = {
    document: documentVersion,
    kind: typed.kind,
    name: typed.name.trim() || 'Unnamed',
    lender: typed.lender.trim() || undefined,
    agreement: typed.agreement.trim() || undefined,
    currency,
  };
  const rest = viewKindOf(typed).form.part(typed, currency, read, kept);
  const document = withFixings(present({ ...head, ...rest.part }), published);
  const mayLackRate = startsWithFixing(typed) || hasRateAtStart(document);
  const missing = read.missing.filter((key) => !(key === 'rate.annual' && mayLackRate));
  return {
    document,
    faults: read.faults,
    missing,
    eventKeys: rest.eventKeys,
    stretchOf: rest.stretchOf ?? [],
  };
}

/** A rate that follows an index from the start needs no agreed rate before its first fixing. */
function startsWithFixing({ loan }: TypedTerms): boolean {
  return loan.floating && loan.events.some(({ type }) => type === 'fixing');
}
