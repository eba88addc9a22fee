import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import * as v from 'valibot';
import { connect } from '../database/connect.ts';
import { notOfForm } from '../database/migrate.ts';
import { FigureThreads } from '../workers/figure-threads.ts';
import { verifyBooks } from './verify-books.ts';

const { COFFER_DATABASE } = v.parse(v.object({ COFFER_DATABASE: v.pipe(v.string(), v.url()) }), process.env);
const database = connect(COFFER_DATABASE);
const figures = new FigureThreads(fileURLToPath(new URL('.', import.meta.url)), pino({ level: 'silent' }));
try {
  const unfit = await notOfForm(database);
  if (unfit !== undefined) throw new Error(unfit);
  const found = await verifyBooks(database, figures);
  for (const { company, message } of found) process.stdout.write(`${company}: ${message}\n`);
  process.stdout.write(
    found.length === 0
      ? 'Ledger, reports and documents agree, every proof holds, and the audit trail is whole.\n'
      : `${found.length} do not agree.\n`,
  );
  process.exitCode = found.length === 0 ? 0 : 1;
} finally {
  await figures.end();
  await database.destroy();
}
