import * as v from 'valibot';
import { shortText } from '../document/scalars.ts';
import { reasonText } from './views.ts';

/** The kinds of files that are kept as papers, as media types. */
export const paperTypes = ['application/pdf', 'image/png', 'image/jpeg'] as const;
export type PaperType = (typeof paperTypes)[number];

/** The most that a paper may be, bytes. */
export const mostPaperBytes = 25_000_000;

/** The id of a paper. */
export const paperId = v.pipe(v.string(), v.uuid('expected the id of a paper.'));

/** What a paper is called: the name of the file that was brought. */
export const paperName = shortText;

/** A file that is kept at an instrument, such as its agreement. */
export const paperView = v.strictObject({
  id: paperId,
  name: v.string(),
  /** As its bytes tell, whatever it is called. */
  type: v.picklist(paperTypes),
  bytes: v.number(),
  /** SHA-256 of its bytes, hexadecimal. */
  sha256: v.string(),
  /** Who brought it; nobody where it came with the company. */
  by: v.nullable(v.string()),
  at: v.string(),
});
export type PaperView = v.InferOutput<typeof paperView>;

/** The papers of an instrument, the newest first. */
export const papersView = v.strictObject({ papers: v.array(paperView) });
export type PapersView = v.InferOutput<typeof papersView>;

/** Why a paper is taken away. */
export const takeAwayBody = v.strictObject({ reason: reasonText });
