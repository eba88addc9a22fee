import type { Answer, Command, Given } from '../command.ts';
import { openDocument, type Opened } from '../documents.ts';

/** A question about one instrument document, which a batch can ask too. */
export interface DocumentCommand extends Command {
  /** Answers of a document that was read. Throws {@link UsageFault} for options that do not fit it. */
  answer(opened: Opened, given: Given): Answer;
}

/** A command that reads its document from the one file that it takes. */
export function ofDocument(asked: Omit<DocumentCommand, 'takes' | 'run'>): DocumentCommand {
  return {
    ...asked,
    takes: 'FILE',
    run: (given) => asked.answer(openDocument(given.file(asked.name)), given),
  };
}
