# Taking an installation out into one file and bringing it in again: the database as it stood at one moment, and the
# secret that second factors are sealed with. Whoever has the file has everything; it is kept as such.

# dump HOME FILE: the database, whole, while the application works on.
dump() {
  local home=$1 file=$2
  as_owner "$home" "$(postgres_program pg_dump)" --format=custom --no-owner --file="$file"
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

restore_dump() {
  as_owner "$1" "$(postgres_program pg_restore)" --no-owner --single-transaction --exit-on-error "$2"
}

owner_sql() { as_owner "$1" "$(postgres_program psql)" -X -q -At -v ON_ERROR_STOP=1 -c "$2"; }

# What is restored comes into a database with nothing in it; one that is kept elsewhere has to be so already.
empty_database() {
  if ! external; then
    drop_database "$1"
  else
    [ "$(owner_sql "$1" "select count(*) from pg_tables where schemaname = 'public'")" = 0 ] ||
      die 'The database that COFFER_DATABASE names has tables in it. Make it anew, empty, and try again.'
  fi
}

make_backup() {
  local home file='' folder='' keep='' work
  while [ $# -gt 0 ]; do
    case "$1" in
      --own) own=yes ;;
      --into | --keep)
        [ -n "${2:-}" ] || die "Say which after $1."
        if [ "$1" = --into ]; then folder=$2; else keep=$2; fi
        shift
        ;;
      -*) die "backup knows --into, --keep and --own, not $1." ;;
      *) file=$1 ;;
    esac
    shift
  done
  [ -z "$folder" ] || file=$folder/$(date -u +%Y-%m-%dT%H%M%SZ).backup
  [ -n "$file" ] || die 'Name the file to write: ./coffer backup FILE [--own]'
  [[ $keep =~ ^([1-9][0-9]{0,3})?$ ]] || die "--keep says how many backups stay in the folder, not $keep."
  home=$(data_home)
  installed "$home" || die "There is no installation in $home."
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
  [ -z "$folder" ] || [ -z "$keep" ] ||
    find "$folder" -maxdepth 1 -name '*Z.backup' | sort | head -n "-$keep" | xargs -r rm -f
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
  ensure_postgres
  node "$root/scripts/build.mjs" server
  mkdir -p "$home"
  process_pid "$home" server >/dev/null && die "Coffer runs in $home; a backup comes into an installation that is stopped and empty."
  start_cluster "$home"
  held=$(owner_sql "$home" "select case when to_regclass('public.company') is null then 0 else 1 end")
  [ "$held" = 0 ] || held=$(owner_sql "$home" 'select count(*) from company')
  [ "$held" = 0 ] || die "$home holds companies already, and nothing was changed. Name an empty folder by COFFER_HOME."
  # The database comes last and at once: with a company in it, the installation is whole.
  keep_secret "$home" session-secret "$(cat "$work/backup/session-secret")"
  [ "$installation" != own ] || touch "$home/own"
  empty_database "$home"
  if ! restore_dump "$home" "$work/backup/database.dump"; then
    empty_database "$home"
    die "$file could not be restored, and nothing was kept of it."
  fi
  bring_up_to_date "$home"
  COFFER_DATABASE=$(database_url "$home") node "$root/dist/verify.mjs" ||
    die "What $file holds was restored into $home, but does not agree in itself; the lines above say where."
  say "$file is restored into $home. ./coffer start$([ "$installation" = own ] && echo ' --own') begins it."
}
