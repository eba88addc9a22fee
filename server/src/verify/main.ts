import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import * as v from 'valibot';
import { connect } from '../database/connect.ts';
import { wrongHead } from '../audit/trail.ts';
import { notOfForm } from '../database/migrate.ts';
import { FigureThreads } from '../workers/figure-threads.ts';
import { wrongSecret } from '../session/second-factor.ts';
import { verifyBooks } from './verify-books.ts';
import { sealedAsFoundOn } from './wrong-seals.ts';

const environment = v.object({
  COFFER_DATABASE: v.pipe(v.string(), v.url()),
  /** With it second factors can be opened. */
  COFFER_SECRET: v.optional(v.string()),
  /** Where the trail was known to stand, such as a close told. */
  COFFER_HEAD: v.optional(
    v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/, 'expected a hash of the trail, 64 digits.')),
  ),
});
const { COFFER_DATABASE, COFFER_SECRET, COFFER_HEAD } = v.parse(environment, process.env);
const database = connect(COFFER_DATABASE);
const figures = new FigureThreads(fileURLToPath(new URL('.', import.meta.url)), pino({ level: 'silent' }));
try {
  const unfit = await notOfForm(database);
  if (unfit !== undefined) throw new Error(unfit);
  const found = [
    ...(await verifyBooks(database, figures)),
    ...[
      ...(COFFER_SECRET === undefined ? [] : await wrongSecret(database, COFFER_SECRET)),
      ...(COFFER_HEAD === undefined ? [] : await wrongHead(database, COFFER_HEAD)),
    ].map((message) => ({ company: 'Installation', message })),
  ];
  for (const { company, message } of found) process.stdout.write(`${company}: ${message}\n`);
  process.stdout.write(
    found.length === 0
      ? 'Ledger, reports and documents agree, every proof holds, every row is as it was sealed, and the audit trail is whole.\n'
      : `${found.length} do not agree.\n`,
  );
  const asFound = await sealedAsFoundOn(database);
  if (asFound !== undefined)
    process.stdout.write(`What was kept before ${asFound} is held as it was found on that day.\n`);
  process.exitCode = found.length === 0 ? 0 : 1;
} finally {
  await figures.end();
  await database.destroy();
}
