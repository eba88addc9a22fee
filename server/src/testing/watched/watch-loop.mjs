// Loaded into a server before its own program: tells whoever started it how long its event loop was held up.
import { monitorEventLoopDelay } from 'node:perf_hooks';

const resolution = 5;
const delay = monitorEventLoopDelay({ resolution });
delay.enable();
process.on('message', (message) => {
  if (message !== 'looked') return;
  process.send({ longest: Math.max(0, delay.max / 1e6 - resolution), memory: process.memoryUsage().rss });
  delay.reset();
});
