#!/usr/bin/env bash
# Everything a fresh machine needs, then every test, on a throw-away database and an application of its own.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
. "$root/scripts/machine.sh"
. "$root/scripts/cluster.sh"
. "$root/scripts/application.sh"

ensure_packages
ensure_debian chromium chromium
COFFER_HOME=$(mktemp -d /tmp/coffer-test.XXXXXX)
chmod 755 "$COFFER_HOME"
export COFFER_HOME COFFER_THROWAWAY=yes
export COFFER_PORT
COFFER_PORT=$(free_port 4780)

finish() {
  stop_server "$COFFER_HOME"
  stop_cluster "$COFFER_HOME"
  rm -rf "$COFFER_HOME"
}
trap finish EXIT

# The browser tests drive what the real command starts.
start_application >&2
COFFER_ADDRESS="http://127.0.0.1:$(cat "$COFFER_HOME/port")"
COFFER_TEST_DATABASE=$(database_url "$COFFER_HOME")
export COFFER_ADDRESS COFFER_TEST_DATABASE
node "$root/scripts/test.mjs" "$@"
