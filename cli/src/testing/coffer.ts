import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('../../..', import.meta.url));

/** What the command line answers: as it is shipped, built once before the tests (see `built.ts`). */
export function coffer(
  args: readonly string[],
  input?: unknown,
): { status: number | null; out: string; err: string } {
  const text = typeof input === 'string' ? input : JSON.stringify(input);
  const done = spawnSync(process.execPath, ['dist/cli.mjs', ...args], {
    cwd: root,
    encoding: 'utf8',
    ...(input !== undefined && { input: text }),
  });
  return { status: done.status, out: done.stdout, err: done.stderr };
}
