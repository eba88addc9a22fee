#!/usr/bin/env bash
# bench.sh: exact schedules against plain doubles, the dearest documents that are accepted, and what the application asks of who
# waits for it with twenty dear mortgages, and with the dearest documents besides. All ratios are of one run.
# bench.sh --memory [MINUTES]: whether a server's memory stands while mixed work goes on.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
. "$root/scripts/machine.sh"
. "$root/scripts/cluster.sh"
. "$root/scripts/application.sh"
. "$root/scripts/backup.sh"
ensure_packages
node "$root/scripts/build.mjs" bench
[ "${1:-}" = --memory ] || node "$root/dist/bench.mjs"

COFFER_HOME=$(mktemp -d /tmp/coffer-bench.XXXXXX)
chmod 755 "$COFFER_HOME"
COFFER_PORT=$(free_port 4780)
export COFFER_HOME COFFER_PORT COFFER_THROWAWAY=yes
finish() {
  stop_server "$COFFER_HOME"
  stop_cluster "$COFFER_HOME"
  rm -rf "$COFFER_HOME"
}
trap finish EXIT
served() { node "$root/dist/bench-served.mjs" "$1" "http://127.0.0.1:$COFFER_PORT"; }
begun_anew() {
  stop_server "$COFFER_HOME"
  start_application >/dev/null 2>&1
}
if [ "${1:-}" = --memory ]; then
  # Every thread of the server collects, and the first one tells.
  export COFFER_MEMORY_LOG="$COFFER_HOME/memory.log" NODE_OPTIONS="--import $root/bench/src/collect.mjs"
  : >"$COFFER_MEMORY_LOG"
  chmod 666 "$COFFER_MEMORY_LOG"
  start_application >&2
  node "$root/dist/bench-memory.mjs" "http://127.0.0.1:$COFFER_PORT" "$COFFER_MEMORY_LOG" "${2:-20}"
  exit
fi
start_application >/dev/null 2>&1
echo
echo 'The demo company and 20 mortgages, taken on; others: the longest that somebody else waited meanwhile'
served mortgages
begun_anew
echo 'after a start'
served ask
echo 'and the dearest documents'
served dearest
begun_anew
echo 'after a start'
served ask-dearest
