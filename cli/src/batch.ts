import { open } from 'node:fs/promises';
import { createInterface } from 'node:readline';
import { once } from 'node:events';
import type { Writable } from 'node:stream';
import * as v from 'valibot';
import { faultsOf, parseJson, readDocument, type Fault } from '@coffer/contract';
import { Given } from './command.ts';
import { documentCommandOf } from './commands/commands.ts';
import { DocumentFault, unreadable, usable } from './documents.ts';
import { isCallFault, UsageFault } from './usage-fault.ts';

/** What was found, or everything that is wrong. */
type Answered = { readonly ok: unknown } | { readonly faults: readonly Fault[] };

const question = v.strictObject({
  id: v.optional(v.union([v.string(), v.number()])),
  document: v.unknown(),
  calls: v.pipe(
    v.array(v.pipe(v.array(v.string()), v.minLength(1, 'expected the name of a command and its options.'))),
    v.minLength(1, 'expected at least one call.'),
  ),
});

/**
 * Answers many questions in one process: each line of JSON holds a document and what is asked of it, and is answered in
 * order by a line with what `--json` gives. A line that cannot be read is answered with its fault, and the rest goes on.
 *
 * @param file of the questions, or `-` for standard input
 */
export async function answerBatch(file: string, out: Writable): Promise<void> {
  for await (const line of file === '-' ? createInterface(process.stdin) : await linesOf(file)) {
    if (line.trim() === '') continue;
    if (!out.write(`${JSON.stringify(answerLine(line))}\n`)) await once(out, 'drain');
  }
}

async function linesOf(file: string): Promise<AsyncIterable<string>> {
  try {
    const opened = await open(file);
    if ((await opened.stat()).isFile()) return opened.readLines();
    await opened.close();
  } catch (error) {
    throw unreadable(file, error);
  }
  throw new UsageFault(`${file} is not a file.`);
}

/** The answer of one line. */
export function answerLine(line: string): {
  readonly id: string | number | null;
  readonly answers: readonly Answered[];
} {
  const { value, fault } = parseJson(line);
  if (fault) return { id: null, answers: [{ faults: [fault] }] };
  const parsed = v.safeParse(question, value);
  if (!parsed.success) return { id: idOf(value), answers: [{ faults: faultsOf(parsed.issues) }] };
  const { id = null, document, calls } = parsed.output;
  const reading = readDocument(document);
  const answers = calls.map(([name = '', ...args]): Answered => {
    try {
      const command = documentCommandOf(name);
      const given = Given.of(command, args);
      if (given.files.length > 0)
        throw new UsageFault('In a batch the document stands beside the calls; give no FILE.');
      return { ok: command.answer(usable(reading), given).json };
    } catch (error) {
      if (error instanceof DocumentFault) return { faults: error.faults };
      if (isCallFault(error)) return { faults: [{ key: '', message: error.message }] };
      throw error;
    }
  });
  return { id, answers };
}

function idOf(value: unknown): string | number | null {
  const parsed = v.safeParse(v.object({ id: v.union([v.string(), v.number()]) }), value);
  return parsed.success ? parsed.output.id : null;
}
