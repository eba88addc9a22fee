// Strict types of every part, one after another.
import { spawnSync } from 'node:child_process';
import { createRequire } from 'node:module';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));
const tsc = createRequire(import.meta.url).resolve('typescript/bin/tsc');
const ngc = `${root}node_modules/@angular/compiler-cli/bundles/src/bin/ngc.js`;
const parts = [
  // The contract alone: nothing of Node is there for it to lean on.
  [tsc, 'contract'],
  [tsc, 'tsconfig.node.json'],
  [tsc, 'e2e'],
  // With its tests, which lean on Node; that the application does not, its build sees.
  [ngc, 'web/tsconfig.types.json'],
  [tsc, 'web/tsconfig.worker.json'],
];
const failed = parts.filter(([compiler, part]) => {
  const done = spawnSync(process.execPath, [compiler, '-p', part, '--noEmit'], {
    cwd: root,
    stdio: 'inherit',
  });
  return done.status !== 0;
});
if (failed.length > 0) {
  console.error(`Types are wrong in ${failed.map(([, part]) => part).join(', ')}.`);
  process.exit(1);
}
