#!/usr/bin/env bash
# Everything a fresh machine needs, then every test, on a throw-away database and an application of its own.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
. "$root/scripts/machine.sh"
. "$root/scripts/cluster.sh"
. "$root/scripts/application.sh"
. "$root/scripts/backup.sh"

ensure_packages
ensure_debian chromium chromium
ensure_debian openssl openssl
COFFER_HOME=$(mktemp -d /tmp/coffer-test.XXXXXX)
chmod 755 "$COFFER_HOME"
export COFFER_HOME COFFER_THROWAWAY=yes
export COFFER_PORT
COFFER_PORT=$(free_port 4780)

finish() {
  for home in "$third" "$second" "$COFFER_HOME"; do
    stop_server "$home"
    stop_cluster "$home"
  done
  rm -rf "$COFFER_HOME"
}
second=$COFFER_HOME/second
third=$COFFER_HOME/third
trap finish EXIT

# The browser tests drive what the real command starts; those that close months have an installation to themselves, and
# one begins with nothing.
start_application >&2
COFFER_ADDRESS="http://127.0.0.1:$(cat "$COFFER_HOME/port")"
COFFER_TEST_DATABASE=$(database_url "$COFFER_HOME")
COFFER_TEST_OWNER=$(owner_url "$COFFER_HOME")
COFFER_TEST_KEEPER=$(keeper_url "$COFFER_HOME")
COFFER_HOME=$second COFFER_PORT=$(free_port 4880) start_application >&2
COFFER_BOOKS_ADDRESS="http://127.0.0.1:$(cat "$second/port")"
(COFFER_HOME=$third COFFER_PORT=$(free_port 4980) COFFER_TODAY=2026-05-04 start_application --own) >&2
COFFER_OWN_ADDRESS="http://127.0.0.1:$(cat "$third/port")"
COFFER_OWN_CODE=$(set_up_code "$third")
export COFFER_ADDRESS COFFER_BOOKS_ADDRESS COFFER_OWN_ADDRESS COFFER_OWN_CODE COFFER_TEST_DATABASE COFFER_TEST_OWNER \
  COFFER_TEST_KEEPER
if [ "${1:-}" != --days ]; then
  node "$root/scripts/test.mjs" "$@"
  exit
fi

# What an installation of one's own does, on a day of every month and the last of a leap February: one begun anew for each.
for day in 2026-05-31 2026-06-01 2026-07-31 2026-08-15 2026-09-30 2026-10-31 2026-11-29 2026-12-01 2027-01-31 2027-02-28 \
  2027-03-01 2027-04-30 2028-02-29; do
  say "On $day"
  stop_server "$third"
  stop_cluster "$third"
  rm -rf "$third"
  (COFFER_HOME=$third COFFER_PORT=$(free_port 4980) COFFER_TODAY=$day start_application --own) >&2
  COFFER_OWN_ADDRESS="http://127.0.0.1:$(cat "$third/port")"
  COFFER_OWN_CODE=$(set_up_code "$third")
  COFFER_OWN_DAY=$day "$root/node_modules/.bin/playwright" test --config "$root/e2e/playwright.config.ts" --project=own \
    first-month settings ||
    die "On $day something fails that does not on others."
done
say 'Nothing depends on the day.'
