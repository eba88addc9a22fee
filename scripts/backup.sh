# Taking an installation out into one file and bringing it in again: the database as it stood at one moment, and the
# secret that second factors are sealed with. Whoever has the file has everything; it is kept as such.

# dump HOME FILE: the database, whole, while the application works on.
dump() {
  local home=$1 file=$2
  PGPASSWORD=$(secret "$home" owner-password) "$(postgres_bin)/pg_dump" --format=custom --no-owner \
    -h 127.0.0.1 -p "$(cat "$home/database-port")" -U coffer_owner --file="$file" coffer
}

# A dump is kept before the database is brought to another form; the last five of them.
dump_before_migration() {
  local home=$1 pending folder
  pending=$(COFFER_OWNER_DATABASE=$(owner_url "$home") node "$root/dist/migrate.mjs" --pending)
  [ -n "$pending" ] || return 0
  folder=$home/before-migrations
  (umask 077 && mkdir -p "$folder" && dump "$home" "$folder/part")
  mv "$folder/part" "$folder/$(date -u +%Y-%m-%dT%H%M%SZ)-before-$pending.dump"
  find "$folder" -name '*.dump' | sort | head -n -5 | xargs -r rm -f
  say "The database as it was is kept in $folder."
}

make_backup() {
  local home file=${1:-} work
  [ -n "$file" ] || die 'Name the file to write: ./coffer backup FILE [--own]'
  choose_installation "${2:-}"
  home=$(data_home)
  [ -f "$home/postgres/PG_VERSION" ] || die "There is no installation in $home."
  [ ! -e "$file" ] || die "$file is there already; name another file, so that no backup is written over."
  [ -d "$(dirname "$file")" ] || die "There is no folder $(dirname "$file")."
  start_cluster "$home"
  work=$(umask 077 && mktemp -d "$(dirname "$file")/.coffer-backup.XXXXXX")
  # shellcheck disable=SC2064
  trap "rm -rf '$work'" EXIT
  mkdir "$work/backup"
  echo 'coffer.backup/1' >"$work/backup/format"
  is_own "$home" && echo own >"$work/backup/installation" || echo demo >"$work/backup/installation"
  dump "$home" "$work/backup/database.dump"
  secret "$home" session-secret >"$work/backup/session-secret"
  (umask 077 && tar -C "$work" -cf "$work/whole" backup)
  # Whole or not at all, and on the disk before it is said to be.
  sync "$work/whole"
  mv -n "$work/whole" "$file"
  [ ! -e "$work/whole" ] || die "$file came to be meanwhile; nothing was written over it."
  say "$file holds the installation in $home as it stood when the command began. It holds its secrets too: keep it so."
}

restore_backup() {
  local home file=${1:-} work installation held
  [ -n "$file" ] || die 'Name the file to restore: ./coffer restore FILE'
  [ -f "$file" ] || die "There is no file $file."
  work=$(umask 077 && mktemp -d)
  # shellcheck disable=SC2064
  trap "rm -rf '$work'" EXIT
  tar -C "$work" -xf "$file" backup/format backup/installation backup/database.dump backup/session-secret 2>/dev/null ||
    die "$file is no backup of Coffer, or not whole."
  [ "$(cat "$work/backup/format")" = coffer.backup/1 ] ||
    die "$file is a backup of another form, $(head -c 40 "$work/backup/format")."
  installation=$(cat "$work/backup/installation")
  [ "$installation" = own ] && own=yes
  home=$(data_home)
  ensure_packages
  ensure_debian '/usr/lib/postgresql/*/bin/initdb' postgresql
  node "$root/scripts/build.mjs" server
  mkdir -p "$home/log"
  process_pid "$home" server >/dev/null && die "Coffer runs in $home; a backup comes into an installation that is stopped and empty."
  start_cluster "$home"
  held=$(keeper_sql "$home" -d coffer -At <<<"select case when to_regclass('public.company') is null then 0 else 1 end")
  [ "$held" = 0 ] || held=$(keeper_sql "$home" -d coffer -At <<<'select count(*) from company')
  [ "$held" = 0 ] || die "$home holds companies already, and nothing was changed. Name an empty folder by COFFER_HOME."
  drop_database "$home"
  if ! PGPASSWORD=$(secret "$home" owner-password) "$(postgres_bin)/pg_restore" --no-owner --single-transaction \
    --exit-on-error -h 127.0.0.1 -p "$(cat "$home/database-port")" -U coffer_owner -d coffer "$work/backup/database.dump"; then
    drop_database "$home"
    die "$file could not be restored, and nothing was kept of it."
  fi
  keep_secret "$home" session-secret "$(cat "$work/backup/session-secret")"
  [ "$installation" = own ] && touch "$home/own"
  bring_up_to_date "$home"
  COFFER_DATABASE=$(database_url "$home") node "$root/dist/verify.mjs" ||
    die "What $file holds was restored into $home, but does not agree in itself; the lines above say where."
  say "$file is restored into $home. ./coffer start$([ "$installation" = own ] && echo ' --own') begins it."
}
