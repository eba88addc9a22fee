import * as v from 'valibot';
import { connect } from './connect.ts';
import { isNewer, migrate } from './migrate.ts';

// Brings a database to the newest form, under the role that owns it; the application itself never has that role.
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
  } else await migrate(database);
} finally {
  await database.destroy();
}
