import { pathToFileURL } from 'node:url';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { Logger } from 'pino';
import type { PaperTask } from '../instruments/files/paper-worker.ts';

/** No piece of work takes longer, unless its thread is broken. */
const longest = 120_000;

/** Threads for work that would keep other calls waiting. */
export class Workers {
  private readonly papers: Piscina<PaperTask, Uint8Array>;

  /** @param folder where the built files of the workers are */
  constructor(folder: string, logger: Logger) {
    this.papers = new Piscina<PaperTask, Uint8Array>({
      filename: pathToFileURL(join(folder, 'paper-worker.mjs')).href,
      minThreads: 0,
      maxThreads: 1,
      idleTimeout: 60_000,
      maxQueue: 20,
    });
    // A thread that fails is replaced; its task is refused, and other calls go on.
    this.papers.on('error', (error) => logger.error(error, 'a worker failed'));
  }

  /** Makes the PDF of a working paper. */
  paper(task: PaperTask): Promise<Uint8Array> {
    return this.papers.run(task, { signal: AbortSignal.timeout(longest) });
  }

  end(): Promise<void> {
    return this.papers.destroy();
  }
}
