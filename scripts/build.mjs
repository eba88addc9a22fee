// Builds what changed: `cli`, `server` and `web` into dist/; `all` builds all three. `bench` is measured as it is built.
import { createHash } from 'node:crypto';
import { spawnSync } from 'node:child_process';
import {
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));
const dist = join(root, 'dist');
const wanted = process.argv[2] ?? 'all';

function filesBelow(folder) {
  return readdirSync(join(root, folder), { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile())
    .map((entry) => relative(root, join(entry.parentPath, entry.name)))
    .filter((path) => !/node_modules|\.angular/.test(path) && !path.endsWith('.test.ts'))
    .sort();
}

/** A hash over the contents of folders, the lock file and this script: the same sources make the same id. */
function idOf(folders) {
  const hash = createHash('sha256');
  for (const path of ['package-lock.json', 'scripts/build.mjs']) hash.update(readFileSync(join(root, path)));
  for (const path of folders.flatMap(filesBelow)) hash.update(path).update(readFileSync(join(root, path)));
  return hash.digest('hex').slice(0, 16);
}

/** Runs a build unless its sources are those it was last built from. */
async function build(name, folders, result, run) {
  const stamp = join(dist, `${name}.id`);
  const id = idOf(folders);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === id && existsSync(join(dist, result))) return id;
  console.error(`Building ${name}…`);
  await run();
  writeFileSync(stamp, id);
  return id;
}

async function bundle(entry, outfile, external) {
  const { build: esbuild } = await import('esbuild');
  await esbuild({
    entryPoints: [join(root, entry)],
    outfile: join(dist, outfile),
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: true,
    logLevel: 'warning',
    ...(external
      ? {
          external: [
            '@node-rs/*',
            'express*',
            'pdfmake',
            'piscina',
            'knex',
            'pg',
            'pino*',
            'exceljs',
            'date-holidays',
            'fflate',
            'helmet',
            'compression',
            'connect-pg-simple',
          ],
        }
      : {}),
    banner: {
      js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);",
    },
  });
}

function buildWeb() {
  const bin = join(root, 'node_modules/@angular/cli/bin/ng.js');
  // Built beside what is being served and then put in its place, so that a build that fails breaks nothing.
  const beside = join(dist, 'web.new');
  const done = spawnSync(process.execPath, [bin, 'build', '--output-path', beside], {
    cwd: join(root, 'web'),
    stdio: ['ignore', 2, 2],
    env: { ...process.env, NG_CLI_ANALYTICS: 'false' },
  });
  if (done.status !== 0) process.exit(done.status ?? 1);
  // What the reader of PDFs fetches: letters of other scripts, fonts that a PDF leaves out, pictures packed unusually.
  for (const part of ['cmaps', 'standard_fonts', 'wasm']) {
    const from = join(root, 'node_modules/pdfjs-dist', part);
    cpSync(from, join(beside, 'browser/pdf', part), { recursive: true });
  }
  rmSync(join(dist, 'web'), { recursive: true, force: true });
  renameSync(beside, join(dist, 'web'));
}

mkdirSync(dist, { recursive: true });
const shared = ['core/src', 'contract/src'];
const ids = [];
if (wanted === 'cli' || wanted === 'all') {
  ids.push(
    await build('cli', [...shared, 'cli/src'], 'cli.mjs', () => bundle('cli/src/main.ts', 'cli.mjs', false)),
  );
}
if (wanted === 'server' || wanted === 'all') {
  const folders = [...shared, 'server/src', 'demo'];
  ids.push(
    await build('server', folders, 'server.mjs', async () => {
      await bundle('server/src/instruments/files/file-worker.ts', 'file-worker.mjs', true);
      await bundle('server/src/workers/figure-worker.ts', 'figure-worker.mjs', true);
      await bundle('server/src/workers/body-worker.ts', 'body-worker.mjs', true);
      await bundle('server/src/workers/unpack-worker.ts', 'unpack-worker.mjs', true);
      await bundle('server/src/database/migrate-main.ts', 'migrate.mjs', true);
      await bundle('server/src/verify/main.ts', 'verify.mjs', true);
      await bundle('server/src/people/new-password.ts', 'new-password.mjs', true);
      await bundle('server/src/stand-ins/rate-service/main.ts', 'rate-service.mjs', true);
      await bundle('server/src/main.ts', 'server.mjs', true);
    }),
  );
}
if (wanted === 'web' || wanted === 'all') {
  ids.push(await build('web', [...shared, 'web'], 'web/browser/index.html', buildWeb));
}
if (wanted === 'bench') {
  await build('bench', [...shared, 'bench/src'], 'bench.mjs', async () => {
    await bundle('bench/src/served.ts', 'bench-served.mjs', false);
    await bundle('bench/src/memory.ts', 'bench-memory.mjs', false);
    await bundle('bench/src/main.ts', 'bench.mjs', false);
  });
}
if (wanted === 'all') writeFileSync(join(dist, 'build-id'), ids.join('-'));
