import { randomUUID } from 'node:crypto';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { connect } from '../../../database/connect.ts';
import { notOfForm } from '../../../database/migrate.ts';
import { freePort } from '../../free-port.ts';
import type { Place } from '../place.ts';
import { said, type Kind, type Work } from './work.ts';

/** A command of the scripts, which may be killed. */
function command(place: Place, commands: string, home = place.home): Work['act'] {
  return async () => ((await place.command(commands, home)) === 0 ? said : 'nothing');
}

/** Whether a command of the scripts succeeds where everything has to agree. */
function agrees(place: Place, home: string, database: string, commands = ':'): boolean {
  const { status, said: told } = place.script(
    `${commands}; COFFER_DATABASE=${database} node "$root/dist/verify.mjs" >&2`,
    home,
  );
  if (status !== 0) throw new Error(`Done by half: ${told}`);
  return true;
}

export const backingUp: Kind = (_, place) => {
  const file = join(place.home, `${randomUUID()}.backup`);
  return Promise.resolve({
    name: 'backing up',
    of: 'command',
    lasts: 900,
    act: command(place, `make_backup '${file}'`),
    isDone: () => {
      if (!existsSync(file)) return Promise.resolve(false);
      // It is there under its name: then all of it is.
      const listed = place.script(
        `tar -xOf '${file}' backup/database.dump >'${file}.dump' && "$(postgres_program pg_restore)" -f /dev/null '${file}.dump'`,
      );
      if (listed.status !== 0) throw new Error(`Half a backup: ${listed.said}`);
      return Promise.resolve(true);
    },
    clean: () => {
      for (const made of [file, `${file}.dump`]) rmSync(made, { force: true });
    },
  });
};

export const restoring: Kind = (_, place) => {
  const file = join(place.home, 'to-restore.backup');
  const home = join(place.home, 'restored');
  if (!existsSync(file)) {
    const made = place.script(`make_backup '${file}'`);
    if (made.status !== 0) throw new Error(made.said);
  }
  return Promise.resolve({
    name: 'restoring',
    of: 'command',
    lasts: 3500,
    act: command(place, `restore_backup '${file}'`, home),
    isDone: () => {
      if (!existsSync(join(home, 'postgres/PG_VERSION'))) return Promise.resolve(false);
      place.startCluster(home);
      const there = place.script(
        `test "$(owner_sql '${home}' "select to_regclass('public.company') is not null")" = t`,
        home,
      );
      if (there.status !== 0) return Promise.resolve(false);
      // With a company in it, it is the whole installation: its secret, and everything agrees.
      const secrets = `cmp '${home}/secrets/session-secret' '${place.home}/secrets/session-secret'`;
      return Promise.resolve(agrees(place, home, `$(database_url '${home}')`, secrets));
    },
    clean: () => {
      if (existsSync(join(home, 'postgres/PG_VERSION'))) place.script(`stop_cluster '${home}'`, home);
      rmSync(home, { recursive: true, force: true });
    },
  });
};

/** What an earlier release left is brought to the form of this one. */
export const migrating: Kind = async (_, place) => {
  place.older();
  const rows = (): Promise<object> =>
    place.asked(
      `select (select count(*) from entry_line) as lines, (select count(*) from instrument_version) as versions,
        (select count(*) from audit_event where action <> 'sealed') as events`,
      'older',
    );
  const before = await rows();
  const url = place.url('coffer', 'older');
  return {
    name: 'migrating',
    of: 'command',
    lasts: 600,
    act: command(
      place,
      `COFFER_OWNER_DATABASE='${place.url('coffer_owner', 'older')}' node "$root/dist/migrate.mjs"`,
    ),
    async isDone() {
      // However far it has come, everything that was there is.
      const now = await rows();
      if (JSON.stringify(now) !== JSON.stringify(before)) throw new Error('Migrating has lost something.');
      const database = connect(url);
      const unfit = await notOfForm(database).finally(() => database.destroy());
      return unfit === undefined && agrees(place, place.home, `'${url}'`);
    },
  };
};

/** An installation is begun for the first time, by two who do not know of each other. */
export const startingTwice: Kind = async (_, place) => {
  const home = join(place.home, 'begun');
  // The port that it takes where none is named may be another installation's.
  const start = command(place, `COFFER_PORT=${await freePort()} start_application --own`, home);
  return {
    name: 'starting twice',
    of: 'command',
    lasts: 8000,
    async act() {
      const came = await Promise.all([start(), start()]);
      return came.includes(said) ? said : 'nothing';
    },
    async isDone() {
      if (!existsSync(join(home, 'port'))) return false;
      // A database that was killed once it was begun is begun again, as by the next start; the server finds it by itself.
      if (existsSync(join(home, 'postgres/PG_VERSION'))) place.startCluster(home);
      const port = readFileSync(join(home, 'port'), 'utf8').trim();
      const answer = await fetch(`http://127.0.0.1:${port}/api/session`).catch(() => undefined);
      if (answer?.status !== 200) return false;
      const { installation } = (await answer.json()) as { installation: string };
      return installation === 'empty' && agrees(place, home, `$(database_url '${home}')`);
    },
    clean() {
      place.script(`stop_server '${home}'; stop_cluster '${home}'`, home);
      rmSync(home, { recursive: true, force: true });
    },
  };
};
