import { pathToFileURL } from 'node:url';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { Logger } from 'pino';
import type { FileTask } from '../instruments/files/file-worker.ts';
import { practice } from '../instruments/files/practice.ts';

/** No file takes longer, unless its thread is broken. */
const longest = 120_000;

/** The thread in which files are made. */
export class FileThread {
  private readonly files: Piscina<FileTask, Uint8Array>;

  /**
   * @param folder where the built worker is
   * @param ready whether it is there before a file is asked for, and stays; else it comes and goes with what is asked
   */
  constructor(folder: string, logger: Logger, ready = false) {
    this.files = new Piscina<FileTask, Uint8Array>({
      filename: pathToFileURL(join(folder, 'file-worker.mjs')).href,
      minThreads: ready ? 1 : 0,
      maxThreads: 1,
      idleTimeout: 60_000,
      maxQueue: 20,
    });
    // A thread that fails is replaced; its task is refused, and other calls go on.
    this.files.on('error', (error) => logger.error(error, 'the thread of files failed'));
    if (ready)
      this.practise().catch((error: unknown) => logger.warn(error, 'the thread of files is not ready'));
  }

  private async practise(): Promise<void> {
    for (const task of practice()) await this.files.run(task);
  }

  /** Makes a file. */
  make(task: FileTask): Promise<Uint8Array> {
    return this.files.run(task, { signal: AbortSignal.timeout(longest) });
  }

  end(): Promise<void> {
    return this.files.destroy();
  }
}
