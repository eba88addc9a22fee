import { pathToFileURL } from 'node:url';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { Logger } from 'pino';
import type { Endpoint } from '@coffer/contract';
import { Refusal, tooBusy } from '../http/refusal.ts';
import type { BodyMade, BodyTask } from './body-worker.ts';

/** No body takes longer, unless its thread is broken. */
const longest = 30_000;
/** Bodies that wait; each may have four megabytes. */
const mostWaiting = 16;

/** The thread in which large bodies are read, so that everybody else is served meanwhile. */
export class BodyThread {
  private readonly bodies: Piscina<BodyTask, BodyMade>;

  /**
   * @param folder where the built worker is
   * @param within milliseconds that a body may take to arrive
   */
  constructor(
    folder: string,
    logger: Logger,
    readonly within = 60_000,
  ) {
    this.bodies = new Piscina<BodyTask, BodyMade>({
      filename: pathToFileURL(join(folder, 'body-worker.mjs')).href,
      minThreads: 0,
      maxThreads: 1,
      idleTimeout: 60_000,
      maxQueue: mostWaiting,
      resourceLimits: { maxOldGenerationSizeMb: 256 },
    });
    this.bodies.on('error', (error) => logger.error(error, 'the thread of bodies failed'));
  }

  /** The value of a body. Throws {@link Refusal} 400, 413 or 422, and 429 where too many wait. */
  async read({ method, path }: Pick<Endpoint, 'method' | 'path'>, bytes: Uint8Array): Promise<unknown> {
    if (this.bodies.queueSize >= mostWaiting)
      throw tooBusy('Many large calls are being read at this moment. Try again in a few seconds.');
    const made = await this.bodies.run({ method, path, bytes }, { signal: AbortSignal.timeout(longest) });
    if ('value' in made) return made.value;
    const { status, code, message, faults } = made.refused;
    throw new Refusal(status, code, message, faults);
  }

  end(): Promise<void> {
    return this.bodies.destroy();
  }
}
