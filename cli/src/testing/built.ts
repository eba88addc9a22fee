import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** Builds the command line where its sources have changed: its tests run it as it is shipped. */
export default function built(): void {
  const build = fileURLToPath(new URL('../../../scripts/build.mjs', import.meta.url));
  execFileSync(process.execPath, [build, 'cli'], { stdio: ['ignore', 'ignore', 'inherit'] });
}
