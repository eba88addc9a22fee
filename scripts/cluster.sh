# A PostgreSQL of Coffer's own: own data folder, own port, loopback only, never as root.

# Set where a command is about the installation with companies of one's own.
own=''

postgres_bin() {
  local newest
  newest=$(find /usr/lib/postgresql -mindepth 1 -maxdepth 1 2>/dev/null | sort -V | tail -n 1)
  [ -x "$newest/bin/initdb" ] || die "PostgreSQL's server is not installed."
  echo "$newest/bin"
}

# The account that the database runs under: the caller, or postgres when the caller is root.
as_database_owner() {
  if [ "$(id -u)" -eq 0 ]; then (cd / && runuser -u postgres -- "$@"); else (cd / && "$@"); fi
}

# Where data is kept. The database's owner must be able to reach it, so root's is not below the checkout.
data_home() {
  if [ -n "${COFFER_HOME:-}" ]; then
    echo "$COFFER_HOME"
  elif [ "$(id -u)" -eq 0 ]; then
    echo "/var/lib/coffer/$(basename "$root")-$(printf %s "$root" | sha256sum | cut -c1-8)${own:+-own}"
  else
    echo "$root/.coffer${own:+-own}"
  fi
}

# Companies of one's own are kept in the installation, and never the demo.
is_own() { [ -f "$1/own" ]; }

# secret HOME NAME: a secret of an installation, made where there is none yet.
secret() {
  [ -s "$1/secrets/$2" ] || keep_secret "$1" "$2" "$(random_text)"
  cat "$1/secrets/$2"
}

# keep_secret HOME NAME VALUE: whole or not at all; a disk that is full leaves no empty secret behind.
keep_secret() {
  local file="$1/secrets/$2"
  [ -n "$3" ] || die "No secret could be made for $file."
  (umask 077 && mkdir -p "$1/secrets" && printf '%s\n' "$3" >"$file.part" && sync "$file.part" && mv "$file.part" "$file") ||
    die "$file could not be written. Is the disk full?"
}

# Where the application finds its database, under a role that owns nothing in it.
database_url() {
  echo "postgres://coffer:$(secret "$1" database-password)@127.0.0.1:$(cat "$1/database-port")/coffer"
}

# The same under the role that owns it: for migrations, which the application never runs itself.
owner_url() {
  echo "postgres://coffer_owner:$(secret "$1" owner-password)@127.0.0.1:$(cat "$1/database-port")/coffer"
}

# Who may come to the database, and where to: the two roles of the application to its own, whoever keeps it to all.
host_rules() {
  local databases=coffer
  [ -n "${COFFER_THROWAWAY:-}" ] && databases=all
  cat <<RULES
host $databases coffer,coffer_owner 127.0.0.1/32 scram-sha-256
host all keeper 127.0.0.1/32 scram-sha-256
RULES
}

cluster_runs() { as_database_owner "$(postgres_bin)/pg_ctl" -D "$1/postgres" status >/dev/null 2>&1; }

# start_cluster HOME: makes the cluster if there is none, and starts it if it does not run.
start_cluster() {
  local home=$1 bin keeper
  bin=$(postgres_bin)
  mkdir -p "$home/log"
  keeper=$(secret "$home" keeper-password)
  if [ ! -f "$home/postgres/PG_VERSION" ]; then
    say "Making a private database…"
    rm -rf "$home/postgres"
    mkdir -p "$home/postgres"
    (umask 077 && printf '%s\n' "$keeper" >"$home/log/pwfile")
    if [ "$(id -u)" -eq 0 ]; then chown postgres: "$home/postgres" "$home/log/pwfile" "$home/log"; fi
    as_database_owner "$bin/initdb" -D "$home/postgres" -U keeper --auth=scram-sha-256 --encoding=UTF8 \
      --locale=C.UTF-8 --pwfile="$home/log/pwfile" >/dev/null
    rm -f "$home/log/pwfile"
  fi
  host_rules | as_database_owner tee "$home/postgres/pg_hba.conf" >/dev/null
  if ! cluster_runs "$home"; then
    # The port is looked for anew: another program may have taken the old one.
    free_port 54680 >"$home/database-port"
    local options
    options="-p $(cat "$home/database-port") -c listen_addresses=127.0.0.1 -c unix_socket_directories= -c jit=off"
    [ -n "${COFFER_THROWAWAY:-}" ] && options="$options -c fsync=off -c full_page_writes=off -c synchronous_commit=off"
    as_database_owner "$bin/pg_ctl" -D "$home/postgres" -l "$home/log/postgres.log" -w -o "$options" start >/dev/null ||
      die "The database did not start; see $home/log/postgres.log."
  fi
  ensure_database "$home"
}

# The database, the role that owns it, and the role that the application runs under, which owns nothing. Passwords go by
# standard input: what is on a command line, everybody on the machine can read.
ensure_database() {
  local home=$1 more='nocreatedb'
  [ -n "${COFFER_THROWAWAY:-}" ] && more='createdb'
  keeper_sql "$home" >/dev/null <<SQL
select 'create role coffer login' where not exists (select from pg_roles where rolname = 'coffer') \gexec
select 'create role coffer_owner login' where not exists (select from pg_roles where rolname = 'coffer_owner') \gexec
alter role coffer nosuperuser nocreatedb nocreaterole password '$(secret "$home" database-password)';
alter role coffer_owner nosuperuser nocreaterole $more password '$(secret "$home" owner-password)';
select 'create database coffer owner coffer_owner' where not exists (select from pg_database where datname = 'coffer') \gexec
alter database coffer owner to coffer_owner;
revoke all on database coffer from public;
grant connect, temporary on database coffer to coffer;
select pg_reload_conf();
\connect coffer
reassign owned by coffer to coffer_owner;
SQL
}

keeper_sql() {
  local home=$1
  shift
  PGPASSWORD=$(secret "$home" keeper-password) "$(postgres_bin)/psql" -X -q -v ON_ERROR_STOP=1 \
    -h 127.0.0.1 -p "$(cat "$home/database-port")" -U keeper -d postgres "$@"
}

drop_database() {
  keeper_sql "$1" -c 'drop database if exists coffer with (force)' >/dev/null
  ensure_database "$1"
}

stop_cluster() {
  [ -f "$1/postgres/PG_VERSION" ] && cluster_runs "$1" || return 0
  as_database_owner "$(postgres_bin)/pg_ctl" -D "$1/postgres" -m fast -w stop >/dev/null
}
