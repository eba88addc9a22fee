import { execFileSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

/** The database of a release that went before, as it was dumped: the demo company, lived on for a while. */
export const releases: readonly string[] = readdirSync(new URL('.', import.meta.url)).filter((name) =>
  name.endsWith('.dump'),
);

/** Brings a release's dump into an empty database, by the programs of PostgreSQL. */
export function restoreRelease(url: string, dump: string): void {
  const { hostname, port, username, password, pathname } = new URL(url);
  const [newest] = readdirSync('/usr/lib/postgresql').sort((one, other) => Number(other) - Number(one));
  const file = fileURLToPath(new URL(dump, import.meta.url));
  execFileSync(
    `/usr/lib/postgresql/${newest ?? ''}/bin/pg_restore`,
    ['--no-owner', '--exit-on-error', '--single-transaction', '-d', pathname.slice(1), file],
    { env: { PGHOST: hostname, PGPORT: port, PGUSER: username, PGPASSWORD: password } },
  );
}
