import type { Part } from '../../fields/described-part';

/** A recorded payment or another event that the form does not show and keeps as it is. */
export type KeptEvent = Readonly<Record<string, unknown>>;

/** What the fields of a kind make of a document. */
export interface PartOfForm {
  readonly part: Part;
  /** The document's key of each typed event, in the order of the form. */
  readonly eventKeys: readonly string[];
  /** Of which typed stretch each phase of the document is: a seasonal one makes several. */
  readonly stretchOf?: readonly number[];
}
