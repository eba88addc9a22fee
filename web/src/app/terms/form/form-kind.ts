import type { InstrumentDocument } from '@coffer/contract';
import type { FieldReader } from '../../fields/field-reader';
import type { StartingPoint } from '../starting-points';
import type { LifeSpans } from '../timeline/stretch-spans';
import type { TimelineModel } from '../timeline/timeline-model';
import type { KeptEvent, PartOfForm } from './part-of-form';
import type { EnteredKind, TermsForm, TypedTerms } from './terms-form';

/** How a kind of instrument is typed. */
export interface FormKind<Document extends InstrumentDocument> {
  /** Which fields it is typed in. */
  readonly fields: 'agreement' | 'issue';
  /** Whether its payments are composed of stretches. */
  readonly stretches: boolean;
  /** Whether it is drawn and billed. */
  readonly billed: boolean;
  /** Kinds of agreements that are offered to begin from. */
  readonly offers: readonly EnteredKind[];
  /** What was typed as the part of the document that is its own. */
  part(typed: TypedTerms, currency: string, read: FieldReader, kept: readonly KeptEvent[]): PartOfForm;
  /** Fills the form from a document; gives back the events that the form does not show. */
  fill(form: TermsForm, document: Document): KeptEvent[];
  /** What a form holds once it begins from an agreement; amounts, rates and dates stay as typed. */
  begun(point: StartingPoint, typed: TypedTerms): TypedTerms;
  /** What was typed drawn on its life. */
  timeline(typed: TypedTerms, life: LifeSpans): TimelineModel | undefined;
}
