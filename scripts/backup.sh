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

# What a backup has in it, each with its checksum; and the length of the line after it, which is of all of it.
backup_members=(format installation database.dump session-secret)
whole_line=80

# unpack_backup FILE FOLDER: takes a backup apart once every byte of it is as it was written.
unpack_backup() {
  local file=$1 work=$2 told found
  # Whoever reads the last line reads what may be anything.
  told=$(tail -c "$whole_line" "$file" | tr -d '\0')
  if [[ $told =~ ^[0-9a-f]{64}\ \ coffer\.backup$ ]]; then
    found=$(head -c "-$whole_line" "$file" | sha256sum | cut -d' ' -f1)
    [ "$found" = "${told%% *}" ] || die "$file was changed or is broken: its checksum does not fit. Nothing was restored."
  fi
  tar -C "$work" -xf "$file" "${backup_members[@]/#/backup/}" 2>/dev/null || die "$file is no backup of Coffer, or not whole."
  case "$(head -c 40 "$work/backup/format")" in
    coffer.backup/2)
      [ -n "${found:-}" ] || die "$file was changed or is not whole: the line with its checksum is gone. Nothing was restored."
      tar -C "$work" -xf "$file" backup/sums 2>/dev/null || die "$file is not whole: its checksums are gone. Nothing was restored."
      (cd "$work/backup" && sha256sum --check --strict --status sums) ||
        die "$file was changed or is broken: a checksum in it does not fit. Nothing was restored."
      [ "$(cut -c67- "$work/backup/sums")" = "$(printf '%s\n' "${backup_members[@]}")" ] ||
        die "$file has other members than a backup. Nothing was restored."
      ;;
    coffer.backup/1)
      [ "${COFFER_UNCHECKED:-}" = yes ] ||
        die "$file was made before backups had checksums: a change of it would not be seen. COFFER_UNCHECKED=yes restores it all the same."
      ;;
    *) die "$file is a backup of another form, $(head -c 40 "$work/backup/format")." ;;
  esac
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
  lock_home "$home"
  start_cluster "$home"
  work=$(umask 077 && mktemp -d "$(dirname "$file")/.coffer-backup.XXXXXX")
  # shellcheck disable=SC2064
  trap "rm -rf '$work'" EXIT
  mkdir "$work/backup"
  echo 'coffer.backup/2' >"$work/backup/format"
  is_own "$home" && echo own >"$work/backup/installation" || echo demo >"$work/backup/installation"
  dump "$home" "$work/backup/database.dump"
  secret "$home" session-secret >"$work/backup/session-secret"
  (cd "$work/backup" && sha256sum "${backup_members[@]}" >sums)
  (umask 077 && tar -C "$work" -cf "$work/whole" backup)
  # Of all of it, so that what lies between the members is held as well.
  printf '%s  coffer.backup\n' "$(sha256sum "$work/whole" | cut -d' ' -f1)" >>"$work/whole"
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
  unpack_backup "$file" "$work"
  installation=$(cat "$work/backup/installation")
  [ "$installation" = own ] && own=yes
  home=$(data_home)
  ensure_packages
  ensure_postgres
  node "$root/scripts/build.mjs" server
  lock_home "$home"
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
  COFFER_DATABASE=$(database_url "$home") COFFER_SECRET=$(secret "$home" session-secret) node "$root/dist/verify.mjs" ||
    die "What $file holds was restored into $home, but does not agree in itself; the lines above say where."
  say "$file is restored into $home. ./coffer start$([ "$installation" = own ] && echo ' --own') begins it."
}
