# Starting and stopping the application.

server_pid() {
  local pid
  pid=$(cat "$1/server.pid" 2>/dev/null) || return 1
  [ -r "/proc/$pid/cmdline" ] || return 1
  # The number may belong to another program by now; ours has the server's path on its command line.
  tr '\0' ' ' <"/proc/$pid/cmdline" 2>/dev/null | grep -q 'dist/server.mjs' || return 1
  echo "$pid"
}

stop_server() {
  local pid
  pid=$(server_pid "$1") || return 0
  kill "$pid"
  for _ in $(seq 100); do
    kill -0 "$pid" 2>/dev/null || break
    sleep 0.1
  done
  kill -0 "$pid" 2>/dev/null && kill -9 "$pid"
  rm -f "$1/server.pid"
}

healthy() { curl -fsS --max-time 2 "http://127.0.0.1:$1/api/health" >/dev/null 2>&1; }

start_application() {
  local fresh='' home port build
  for word in "$@"; do
    [ "$word" = --fresh ] && fresh=yes || die "start knows --fresh, not $word."
  done
  ensure_packages
  ensure_debian '/usr/lib/postgresql/*/bin/initdb' postgresql
  ensure_debian curl curl
  node "$root/scripts/build.mjs" all
  build=$(cat "$root/dist/build-id")
  home=$(data_home)
  mkdir -p "$home/log"
  start_cluster "$home"
  if [ -n "$fresh" ]; then
    stop_server "$home"
    drop_database "$home"
  fi
  if ! { server_pid "$home" >/dev/null && [ "$(cat "$home/running-build" 2>/dev/null)" = "$build" ] &&
    healthy "$(cat "$home/port")"; }; then
    stop_server "$home"
    port=${COFFER_PORT:-$(cat "$home/port" 2>/dev/null || echo 4680)}
    port=$(free_port "$port")
    echo "$port" >"$home/port"
    launch_server "$home" "$port"
    echo "$build" >"$home/running-build"
  fi
  greet "$(cat "$home/port")" "$home"
}

# The pages as they are in the sources, served anew at each change, with the application that runs behind them.
develop_pages() {
  local port
  start_application >&2
  port=$(free_port 4300)
  say "The pages are at http://127.0.0.1:$port as their sources change; Ctrl C ends it, and the application stays."
  cd "$root/web"
  COFFER_ADDRESS="http://127.0.0.1:$(cat "$(data_home)/port")" exec "$root/node_modules/.bin/ng" serve \
    --host 127.0.0.1 --port "$port"
}

# The demo company lives in its own time.
demo_day() { node -p 'JSON.parse(require("fs").readFileSync(process.argv[1], "utf8")).today' "$root/demo/company.json"; }

launch_server() {
  local home=$1 port=$2
  COFFER_DATABASE=$(database_url "$home") COFFER_PORT=$port COFFER_SECRET=$(secret "$home" session-secret) \
    COFFER_SITE="$root/dist/web/browser" COFFER_DEMO="$root/demo" \
    COFFER_TODAY="${COFFER_TODAY:-$(demo_day)}" NODE_ENV=production \
    setsid nohup node "$root/dist/server.mjs" >>"$home/log/server.log" 2>&1 </dev/null &
  echo $! >"$home/server.pid"
  for _ in $(seq 300); do
    healthy "$port" && return
    kill -0 "$(cat "$home/server.pid")" 2>/dev/null || break
    sleep 0.1
  done
  tail -n 20 "$home/log/server.log" >&2
  die "The application did not start; the lines above are the end of $home/log/server.log."
}

greet() {
  cat <<TEXT

Coffer is at http://127.0.0.1:$1

  demo company   Ostrel Glassworks, October 2026 open
$(node -e '
    const { people } = JSON.parse(require("fs").readFileSync(process.argv[1], "utf8"));
    for (const { logIn, password, role } of people) console.log(`  ${role.padEnd(13)}  ${logIn.padEnd(8)}  ${password}`);
  ' "$root/demo/company.json")

  log and data in $2; ./coffer stop ends it
TEXT
}

verify_installation() {
  local home
  home=$(data_home)
  [ -f "$home/postgres/PG_VERSION" ] || die "There is nothing to verify in $home; ./coffer start begins an installation."
  ensure_packages
  node "$root/scripts/build.mjs" server
  start_cluster "$home"
  COFFER_DATABASE=$(database_url "$home") node "$root/dist/verify.mjs"
}

stop_application() {
  local home
  home=$(data_home)
  stop_server "$home"
  stop_cluster "$home"
  say 'Coffer is stopped; its data is kept.'
}
