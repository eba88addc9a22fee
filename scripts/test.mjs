// Runs every check and test and closes with one line: N passed, N failed. With --server or --browser, and perhaps a
// part of a file's name, just those tests.
import { Buffer } from 'node:buffer';
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));
const reports = join(root, 'test-results');
const bin = (name) => join(root, 'node_modules/.bin', name);
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });

let passed = 0;
let failed = 0;

async function run(command, args, options = {}) {
  console.log(`\n— ${[command.replace(root, ''), ...args].join(' ')}`);
  const done = spawn(command, args, { cwd: root, stdio: 'inherit', ...options });
  return (await new Promise((resolve) => done.once('close', resolve))) === 0;
}

/** A check that counts as one test; what it says is told once it has ended. */
async function check([command, ...args]) {
  const said = [];
  const done = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
  for (const stream of [done.stdout, done.stderr]) stream.on('data', (part) => said.push(part));
  const status = await new Promise((resolve) => done.once('close', resolve));
  console.log(`\n— ${[command.replace(root, ''), ...args].join(' ')}\n${Buffer.concat(said).toString()}`);
  if (status === 0) passed += 1;
  else failed += 1;
}

/** Checks one after another, beside other lanes of them. */
async function lane(...checks) {
  for (const each of checks) await check(each);
}

/** Counts from a report; a run that failed without one failing test still fails. */
function count(ok, good, bad) {
  passed += good;
  failed += bad === 0 && !ok ? 1 : bad;
}

async function vitest(project, ...filter) {
  const file = join(reports, `${project}.json`);
  const reporters = ['--reporter=default', '--reporter=json', `--outputFile.json=${file}`];
  const ok = await run(bin('vitest'), ['run', '--project', project, ...reporters, ...filter]);
  if (!existsSync(file)) return count(false, 0, 0);
  const report = JSON.parse(readFileSync(file, 'utf8'));
  if (report.numTotalTests === 0) return count(false, 0, 0);
  return count(ok, report.numPassedTests, report.numFailedTests);
}

/** Components drawn without a browser, by the builder that compiles them. */
async function components() {
  const file = join(reports, 'components.json');
  const args = ['test', '--reporters', 'json', '--reporters', 'default', '--output-file', file];
  const ok = await run(bin('ng'), args, { cwd: join(root, 'web') });
  if (!existsSync(file)) return count(false, 0, 0);
  const report = JSON.parse(readFileSync(file, 'utf8'));
  return count(ok && report.numTotalTests > 0, report.numPassedTests, report.numFailedTests);
}

async function browser(...filter) {
  const file = join(reports, 'e2e.json');
  const env = { ...process.env, COFFER_E2E_REPORT: file };
  const ok = await run(bin('playwright'), ['test', '--config', 'e2e/playwright.config.ts', ...filter], {
    env,
  });
  if (!existsSync(file)) return count(false, 0, 0);
  const { stats } = JSON.parse(readFileSync(file, 'utf8'));
  return count(ok, stats.expected, stats.unexpected + stats.flaky + stats.skipped);
}

const [which, ...filter] = process.argv.slice(2);
if (which === '--server') await vitest('server', '--project', 'alone', ...filter);
else if (which === '--browser') await browser(...filter);
else if (which !== undefined) {
  console.error(`test knows --server and --browser, not ${which}.`);
  process.exit(2);
} else {
  await Promise.all([
    lane([bin('eslint'), '.']),
    lane(
      [bin('prettier'), '--check', '--log-level', 'warn', '.'],
      [process.execPath, 'scripts/types.mjs'],
      [process.execPath, 'scripts/document-schema.mjs', '--check'],
    ),
  ]);
  await vitest('unit');
  await components();
  await vitest('server');
  await vitest('alone');
  // The one waits for processes to begin and end, the other seldom waits.
  await Promise.all([browser(), check(['bash', 'scripts/place.test.sh'])]);
  // What the browser left is rich, and nobody writes any more.
  await check(['bash', 'scripts/backup.test.sh']);
}

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
