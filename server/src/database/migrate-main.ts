import * as v from 'valibot';
import { connect } from './connect.ts';
import { isNewer, migrate, pendingFirst } from './migrate.ts';

// Brings a database to the newest form, under the role that owns it; the application itself never has that role. With
// --pending it only names the first migration that an installation with companies has still to go through.
const { COFFER_OWNER_DATABASE } = v.parse(
  v.object({ COFFER_OWNER_DATABASE: v.pipe(v.string(), v.url()) }),
  process.env,
);
const database = connect(COFFER_OWNER_DATABASE);
try {
  const newer = await isNewer(database);
  if (newer !== undefined) {
    process.stderr.write(`${newer}\n`);
    process.exitCode = 3;
  } else if (process.argv[2] === '--pending') {
    const pending = await pendingFirst(database);
    if (pending !== undefined) process.stdout.write(`${pending}\n`);
  } else await migrate(database);
} finally {
  await database.destroy();
}
