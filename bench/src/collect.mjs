// Loaded into every thread of a server before its own program: each collects what is of no more use every few seconds, and
// the first one writes down how much memory they hold together after that.
import { appendFileSync } from 'node:fs';
import { env, argv, memoryUsage } from 'node:process';
import { setInterval } from 'node:timers';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { isMainThread } from 'node:worker_threads';

const every = 5000;
if (/dist\/(server|[a-z]+-worker)\.mjs$/.test(argv[1] ?? '')) {
  setFlagsFromString('--expose-gc');
  const collect = runInNewContext('gc');
  setInterval(() => {
    collect();
    if (isMainThread) appendFileSync(env.COFFER_MEMORY_LOG, `${memoryUsage().rss}\n`);
  }, every).unref();
}
