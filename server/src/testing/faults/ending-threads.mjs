// Loaded into a server before its own code (--import): upon SIGUSR2 all its worker threads end in the middle of what they do.
import { syncBuiltinESMExports } from 'node:module';
import { isMainThread } from 'node:worker_threads';
import threads from 'node:worker_threads';

if (isMainThread) {
  const living = new Set();
  const { Worker } = threads;
  threads.Worker = class extends Worker {
    constructor(...parameters) {
      super(...parameters);
      living.add(this);
      this.once('exit', () => living.delete(this));
    }
  };
  syncBuiltinESMExports();
  process.on('SIGUSR2', () => {
    for (const thread of living) void thread.terminate();
  });
}
