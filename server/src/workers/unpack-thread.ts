import { pathToFileURL } from 'node:url';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { Logger } from 'pino';
import type { Unpacked } from './unpack-worker.ts';

/** No archive takes longer, unless its thread is broken. */
const longest = 300_000;

/** The thread in which archives are unpacked, so that everybody is served meanwhile. It comes and goes with what is asked. */
export class UnpackThread {
  private readonly thread: Piscina<Uint8Array, Unpacked>;

  /** @param folder where the built worker is */
  constructor(folder: string, logger: Logger) {
    this.thread = new Piscina<Uint8Array, Unpacked>({
      filename: pathToFileURL(join(folder, 'unpack-worker.mjs')).href,
      minThreads: 0,
      maxThreads: 1,
      idleTimeout: 1000,
      maxQueue: 2,
    });
    this.thread.on('error', (error) => logger.error(error, 'the thread of archives failed'));
  }

  /** Unpacks an archive. Its bytes go to the thread, and are gone here. */
  unpack(bytes: Uint8Array): Promise<Unpacked> {
    const own = bytes.byteLength === bytes.buffer.byteLength ? bytes : bytes.slice();
    return this.thread.run(own, {
      transferList: [own.buffer as ArrayBuffer],
      signal: AbortSignal.timeout(longest),
    });
  }

  end(): Promise<void> {
    return this.thread.destroy();
  }
}
