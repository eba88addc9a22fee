#!/usr/bin/env bash
# An installation of its own in a place that fails it, or that is kept otherwise: who runs it, what becomes of it when it is
# killed, where its log is, a database that is there already, and what keeps services running.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
. "$root/scripts/machine.sh"
. "$root/scripts/cluster.sh"
. "$root/scripts/application.sh"

place=$COFFER_HOME/place
elsewhere=$COFFER_HOME/elsewhere
brought=$COFFER_HOME/brought
units=$COFFER_HOME/units
unset COFFER_PORT
finish() {
  for home in "$place" "$elsewhere" "$brought"; do stop_server "$home" || true; done
  stop_cluster "$place"
  umount "$COFFER_HOME/shut" 2>/dev/null || true
  rm -rf "$place" "$elsewhere" "$brought" "$units" "$COFFER_HOME/elsewhere.backup"
}
trap finish EXIT

port=$(free_port 5080)
child_of() { pgrep -P "$(cat "$1/server.pid")"; }
# until_true WHAT COMMAND…: waits half a minute for something to become so.
until_true() {
  local what=$1
  shift
  for _ in $(seq 300); do
    "$@" && return
    sleep 0.1
  done
  die "Not so after half a minute: $what"
}
start_own() { COFFER_HOME=$1 COFFER_PORT=$port "$root/coffer" start --own >"$COFFER_HOME/said" 2>&1 || die "$(cat "$COFFER_HOME/said")"; }

# Two first starts at once: one begins it, and the other finds it begun.
(COFFER_HOME=$place COFFER_PORT=$port "$root/coffer" start --own >"$COFFER_HOME/said2" 2>&1 || echo failed >>"$COFFER_HOME/said2") &
twin=$!
start_own "$place"
wait "$twin"
! grep -q '^failed' "$COFFER_HOME/said2" || die "Of two first starts at once one failed: $(cat "$COFFER_HOME/said2")"
[ "$(pgrep -fc "postgres.* -D $place/postgres")" = 1 ] || die 'Two first starts at once made two databases.'
flock -n "$place/lock" true || die 'What was left running holds the lock of the home.'
grep -q "^  http://127.0.0.1:$port/set-up#" "$COFFER_HOME/said" || die "The first start is told otherwise: $(cat "$COFFER_HOME/said")"
first=$(child_of "$place")
if [ "$(id -u)" -eq 0 ] && runuser -u coffer -- test -r "$root/dist/server.mjs"; then
  [ "$(ps -o user= -p "$first")" = coffer ] || die 'Under root the application has no account of its own.'
fi

# Its log is its starter's alone, and nobody leads it elsewhere.
[ "$(stat -c '%a %u' "$place/log")" = "700 $(id -u)" ] || die "The log's folder is $(stat -c '%a of %U' "$place/log")."
[ "$(stat -c %a "$place/log/server.log")" = 600 ] || die 'Others may read the log.'
[ -z "$(find "$place/log" -user postgres)" ] || die "The database writes into the application's log."
# It comes back after a crash.
kill -9 "$first"
until_true 'it comes back after a crash' healthy "$port"
until_true 'another process answers' test "$(child_of "$place" || echo "$first")" != "$first"
grep -q 'ended by SIGKILL; it is begun again' "$place/log/server.log" || die 'The log does not tell of the crash.'
# Without who keeps it running it ends, and a start begins it anew.
second=$(child_of "$place")
kill -9 "$(cat "$place/server.pid")"
until_true 'it ends with who keeps it running' bash -c "! kill -0 $second 2>/dev/null"
ln -sf "$COFFER_HOME/victim" "$place/log/verify.log"
start_own "$place"
healthy "$port" || die 'It was not begun anew.'
[ ! -e "$COFFER_HOME/victim" ] || die 'A log was led elsewhere by a link.'
COFFER_HOME=$place "$root/coffer" stop --own 2>/dev/null
! healthy "$port" || die 'It was not stopped.'

# A home that cannot be written, as on a disk that was mounted read-only: each command says so in one line, and nothing is begun.
mkdir "$COFFER_HOME/shut"
if mount -t tmpfs -o size=1m,ro tmpfs "$COFFER_HOME/shut" 2>/dev/null; then
  shut() { # HOME WORDS EXPECTED
    local told
    # shellcheck disable=SC2086
    told=$(COFFER_HOME=$1 "$root/coffer" $2 2>&1 >/dev/null) && die "coffer $2 works where nothing can be written."
    [ "$told" = "$3" ] || die "coffer $2 says: $told"
  }
  for words in 'start --own' 'serve --own'; do
    shut "$COFFER_HOME/shut/home" "$words" "$COFFER_HOME/shut/home cannot be made. Name another folder by COFFER_HOME."
    shut "$COFFER_HOME/shut" "$words" "$COFFER_HOME/shut cannot be written. Name another folder by COFFER_HOME."
  done
  umount "$COFFER_HOME/shut"
fi

# A log is turned over, and five that were full are kept.
cat >"$place/much.mjs" <<'JS'
const line = `${'x'.repeat(999)}\n`;
for (let many = 0; many < 75_000; many += 1) if (!process.stdout.write(line)) await new Promise((go) => process.stdout.once('drain', go));
JS
node "$root/scripts/keep-running.mjs" "$place/much.mjs" "$place/log/much.log"
[ "$(find "$place/log" -name 'much.log*' | wc -l)" = 6 ] || die "$(ls "$place/log") are logs of 75 MB."
[ -z "$(find "$place/log" -name 'much.log*' -size +10000000c)" ] || die 'A log is larger than it may be.'

# A database whose removal was broken off, as on a full disk, is made anew.
start_cluster "$place"
keeper_sql "$place" -c "update pg_database set datconnlimit = -2 where datname = 'coffer'"
! keeper_sql "$place" -d coffer -c 'select 1' >/dev/null 2>&1 || die 'PostgreSQL lets people into what it holds for removed by half.'
stop_cluster "$place"
# Nor does a port that a full disk did not take down.
: >"$place/database-port"
start_own "$place"
healthy "$port" || die 'It does not begin where a removal was broken off.'
COFFER_HOME=$place "$root/coffer" stop --own 2>/dev/null

# A port that another program only calls from is not seen by who looks whether anybody listens; the next is taken.
called=$(free_port 24680)
echo "$called" | tee "$place/database-port" >"$place/calls"
perl -MIO::Socket::INET -e '
  my $called = IO::Socket::INET->new(Listen => 1, LocalAddr => "127.0.0.1") or die;
  my $calls = IO::Socket::INET->new(PeerAddr => "127.0.0.1", PeerPort => $called->sockport, LocalPort => $ARGV[0]) or die;
  $| = 1; print "calls\n"; sleep 60;' "$called" >"$place/calls" &
caller=$!
until_true 'the port is called from' grep -q calls "$place/calls"
start_cluster "$place"
[ "$(cat "$place/database-port")" != "$called" ] || die 'It runs on a port that another program calls from.'
stop_cluster "$place"
kill "$caller"

# A PostgreSQL that is there already: its databases are made by who keeps it, as docs/operating.md says.
start_cluster "$place"
at=127.0.0.1:$(cat "$place/database-port")
in_database() {
  COFFER_HOME=$1 COFFER_DATABASE=postgres://coffer:$(secret "$place" database-password)@$at/$(basename "$1") \
    COFFER_OWNER_DATABASE=postgres://coffer_owner:$(secret "$place" owner-password)@$at/$(basename "$1") "${@:2}"
}
for name in elsewhere brought; do
  keeper_sql "$place" -c "create database $name owner coffer_owner" -c "grant connect on database $name to coffer"
done
COFFER_PORT=$port in_database "$elsewhere" "$root/coffer" start --own >/dev/null 2>"$COFFER_HOME/said" || die "$(cat "$COFFER_HOME/said")"
healthy "$port" || die 'It does not run on a database that is there already.'
[ ! -d "$elsewhere/postgres" ] || die 'A cluster was made beside the database that was named.'
in_database "$elsewhere" "$root/coffer" backup --own --into "$COFFER_HOME" --keep 1 2>/dev/null
in_database "$elsewhere" "$root/coffer" stop --own 2>/dev/null
mv "$COFFER_HOME"/20*.backup "$COFFER_HOME/elsewhere.backup"
in_database "$brought" "$root/coffer" restore "$COFFER_HOME/elsewhere.backup" >/dev/null 2>"$COFFER_HOME/said" || die "$(cat "$COFFER_HOME/said")"
if in_database "$elsewhere" "$root/coffer" restore "$COFFER_HOME/elsewhere.backup" >/dev/null 2>&1; then
  die 'A backup came into a database that has tables.'
fi

if COFFER_DATABASE=postgres://coffer@$at/elsewhere "$root/coffer" start >"$COFFER_HOME/said" 2>&1; then die 'The demo came into a database that was named.'; fi
grep -q 'companies of your own' "$COFFER_HOME/said" || die "Refused otherwise: $(cat "$COFFER_HOME/said")"

# Behind a proxy: whoever starts it is told the address that people have, and calls for another are refused.
export COFFER_PUBLIC_URL=https://books.example.com/
COFFER_PORT=$port in_database "$brought" "$root/coffer" start --own >"$COFFER_HOME/said" 2>&1 || die "$(cat "$COFFER_HOME/said")"
grep -q '^  https://books.example.com/set-up#' "$COFFER_HOME/said" || die "The address is told otherwise: $(cat "$COFFER_HOME/said")"
[ "$(curl -s -o /dev/null -w '%{http_code}' "http://127.0.0.1:$port/api/session")" = 421 ] || die 'It answers what did not come by the proxy.'
in_database "$brought" "$root/coffer" stop --own 2>/dev/null
unset COFFER_PUBLIC_URL

# In the foreground, as what keeps services running runs it: it prints its log, and a stop ends it.
(
  COFFER_PORT=$port in_database "$brought" "$root/coffer" serve --own >"$COFFER_HOME/said" 2>&1 && ended=well
  echo "${ended:-badly}" >"$COFFER_HOME/ended"
) &
until_true 'it answers in the foreground' healthy "$port"
in_database "$brought" "$root/coffer" stop --own 2>/dev/null
wait
[ "$(cat "$COFFER_HOME/ended")" = well ] || die "It did not end well: $(tail -n 3 "$COFFER_HOME/said")"
grep -q '"msg":"listening"' "$COFFER_HOME/said" || die 'Its log is not on standard output.'

# As a service it is given what it needs, and sees neither the passwords of the owner nor of the keeper.
COFFER_HOME=$place "$root/coffer" keep --own 2>/dev/null
given=$(mktemp -d "$COFFER_HOME/given.XXXX")
for name in session-secret database-password set-up-code; do cp "$place/secrets/$name" "$given/$name"; done
account=()
if [ "$(id -u)" -eq 0 ] && getent passwd coffer >/dev/null && runuser -u coffer -- test -r "$root/dist/server.mjs"; then
  account=(runuser -u coffer --)
  chown -R coffer: "$given"
  ! runuser -u coffer -- cat "$place/secrets/owner-password" >/dev/null 2>&1 || die 'The server may read the password of the owner.'
fi
"${account[@]}" env CREDENTIALS_DIRECTORY="$given" COFFER_HOME="$place" COFFER_PORT="$port" "$root/coffer" serve --own >"$COFFER_HOME/said" 2>&1 &
service=$!
until_true 'it answers as a service' healthy "$port"
! tr '\0' '\n' <"/proc/$(pgrep -f "$root/dist/server.mjs" | tail -n 1)/environ" | grep -q "$(cat "$place/secrets/owner-password")" || die 'The server was told the password of the owner.'
pkill -TERM -P "$service" 2>/dev/null || kill "$service"
wait "$service" 2>/dev/null || true
if CREDENTIALS_DIRECTORY=$given COFFER_HOME=$place "$root/coffer" verify --own >"$COFFER_HOME/said" 2>&1; then die 'It verified with the credentials of a server.'; fi
COFFER_HOME=$place "$root/coffer" stop --own 2>/dev/null
rm -rf "$given"

# Who may not write the checkout is told so, before anything is begun.
if [ "$(id -u)" -eq 0 ] && runuser -u postgres -- test -r "$root/coffer" && ! runuser -u postgres -- test -w "$root"; then
  if runuser -u postgres -- env COFFER_HOME="$elsewhere/none" "$root/coffer" start --own >"$COFFER_HOME/said" 2>&1; then die 'It was built by who may not.'; fi
  grep -q 'You may not write' "$COFFER_HOME/said" || die "Refused otherwise: $(cat "$COFFER_HOME/said")"
fi

# What systemd is given, read by systemd itself, at the place that this checkout has.
ensure_debian systemd-analyze systemd
mkdir -p "$units"
for unit in "$root"/deploy/systemd/*; do sed "s|/opt/coffer|$root|" "$unit" >"$units/$(basename "$unit")"; done
getent passwd coffer-keeper >/dev/null || sed -i 's/^\(User\|Group\)=coffer-keeper/\1=coffer/' "$units"/*
getent passwd coffer >/dev/null || sed -i 's/^\(User\|Group\)=coffer/\1=nobody/; s/^Group=nobody/Group=nogroup/' "$units"/*
said=$(systemd-analyze verify --man=no "$units"/coffer* 2>&1) || die "systemd refuses the units: $said"
[ -z "$said" ] || die "systemd says of the units: $said"
say 'It comes back, its log is its own, other databases do, and its units are read.'
