import { createServer } from 'node:http';
import { listening } from './test-server.ts';

/** A port that nobody listens on. */
export async function freePort(): Promise<number> {
  const probe = createServer();
  const address = await listening(probe);
  await new Promise((resolve) => probe.close(resolve));
  return Number(new URL(address).port);
}
