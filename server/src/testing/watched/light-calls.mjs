// A thread that makes a light call again and again, until it is told to stop: what it tells is how long they took.
import { performance } from 'node:perf_hooks';
import { setTimeout } from 'node:timers/promises';
import { parentPort, workerData } from 'node:worker_threads';

const { address, headers } = workerData;
const between = 10;
const took = [];
let refused = 0;
let stopped = false;
parentPort.once('message', () => (stopped = true));
while (!stopped) {
  const begun = performance.now();
  const answer = await fetch(address, { headers });
  await answer.arrayBuffer();
  if (answer.status !== 200) refused += 1;
  took.push(performance.now() - begun);
  await setTimeout(between);
}
took.sort((one, other) => one - other);
parentPort.postMessage({ p99: took[Math.ceil(0.99 * took.length) - 1], calls: took.length, refused });
