# Starting and stopping the application.

# process_pid HOME NAME: the number of an installation's `server` or `rate-service` that runs.
process_pid() {
  local pid
  pid=$(cat "$1/$2.pid" 2>/dev/null) || return 1
  [ -r "/proc/$pid/cmdline" ] || return 1
  # The number may belong to another program by now; ours has its path on its command line.
  tr '\0' ' ' <"/proc/$pid/cmdline" 2>/dev/null | grep -q "dist/$2.mjs" || return 1
  echo "$pid"
}

stop_process() {
  local pid
  pid=$(process_pid "$1" "$2") || return 0
  kill "$pid"
  # A call that is under way may take its time to end; see the server's main.ts.
  for _ in $(seq 300); do
    kill -0 "$pid" 2>/dev/null || break
    sleep 0.1
  done
  kill -0 "$pid" 2>/dev/null && kill -9 "$pid"
  rm -f "$1/$2.pid"
}

# The server of an installation, and the rate service beside it.
stop_server() {
  stop_process "$1" server
  stop_process "$1" rate-service
}

# answers HOME: whether the application of an installation answers within half a minute.
answers() {
  local port
  port=$(cat "$1/port")
  for _ in $(seq 15); do
    healthy "$port" && return
    sleep 0.5
  done
  return 1
}

healthy() { curl -fsS --max-time 2 "http://127.0.0.1:$1/api/health" >/dev/null 2>&1; }

# Which installation a command is about: --own chooses the one with companies of one's own.
choose_installation() {
  if [ "${1:-}" = --own ]; then own=yes; elif [ -n "${1:-}" ]; then die "This command knows --own, not $1."; fi
}

# What is built lies in the checkout, and so do packages: who may not write there says so before anything is begun.
may_build() {
  [ -w "$root" ] && { [ ! -e "$root/dist" ] || [ -w "$root/dist" ]; } && return
  die "You may not write $root, where Coffer is built. Let who owns it run ./coffer build, and ./coffer serve what was built."
}

start_application() {
  local fresh='' home port build
  for word in "$@"; do
    case "$word" in
      --fresh) fresh=yes ;;
      --own) own=yes ;;
      *) die "start knows --own and --fresh, not $word." ;;
    esac
  done
  if external && [ -z "$own" ]; then
    die 'A database that is there already is for companies of your own: ./coffer start --own'
  fi
  may_build
  ensure_packages
  ensure_postgres
  ensure_debian curl curl
  node "$root/scripts/build.mjs" all
  # Told otherwise where it is reached, it is begun anew as after a build.
  build="$(cat "$root/dist/build-id") ${COFFER_PUBLIC_URL:-}"
  home=$(data_home)
  lock_home "$home"
  if [ -n "$fresh" ] && is_own "$home"; then
    die "The companies of your own in $home are not removed by --fresh. Remove the folder yourself if you mean to."
  fi
  if [ -n "$own" ] && [ -d "$home/postgres" ] && ! is_own "$home"; then
    die "$home holds the demo company. Name another folder by COFFER_HOME for companies of your own."
  fi
  [ -n "$own" ] && touch "$home/own"
  start_cluster "$home"
  if [ -n "$fresh" ]; then
    stop_server "$home"
    drop_database "$home"
  fi
  if process_pid "$home" server >/dev/null && [ "$(cat "$home/running-build" 2>/dev/null)" = "$build" ]; then
    # It runs: one that is slow, or busy, is waited for and never taken for a dead one.
    answers "$home" || die "Coffer runs in $home and does not answer; $home/log/server.log may say why. ./coffer stop ends it."
    # The server knows the rate service by its port, which is free again.
    process_pid "$home" rate-service >/dev/null || launch_rate_service "$home"
  else
    stop_server "$home"
    port=${COFFER_PORT:-$(kept_port "$home/port" 4680)}
    port_is_free "$port" || die "Port $port is taken by another program. Name another by COFFER_PORT."
    echo "$port" >"$home/port"
    launch_server "$home" "$port"
    echo "$build" >"$home/running-build"
    verify_behind "$home"
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

demo_day() { node -p 'JSON.parse(require("fs").readFileSync(process.argv[1], "utf8")).today' "$root/demo/company.json"; }

# The stand-in for a service that publishes rates; none is started where another is named by COFFER_RATE_SERVICE.
launch_rate_service() {
  local home=$1 port
  [ -z "${COFFER_RATE_SERVICE:-}" ] || return 0
  port=$(free_port "$(kept_port "$home/rate-service.port" 4690)")
  echo "$port" >"$home/rate-service.port"
  (
    export COFFER_RATE_PORT="$port"
    keep_running "$home" rate-service
  )
}

# Brings the database to the form that this Coffer needs, under the role that owns it.
bring_up_to_date() {
  dump_before_migration "$1"
  COFFER_OWNER_DATABASE=$(owner_url "$1") node "$root/dist/migrate.mjs"
}

# The account that the application runs under: who starts it, and under root one that owns nothing and can log in nowhere.
run_as() {
  [ "$(id -u)" -eq 0 ] || return 0
  getent passwd coffer >/dev/null ||
    useradd --system --user-group --no-create-home --home-dir /nonexistent --shell /usr/sbin/nologin coffer
  if ! runuser -u coffer -- test -r "$root/dist/server.mjs" -a -r "$root/node_modules"; then
    # What is thrown away after its tests may lie where nobody else can read.
    [ -z "${COFFER_THROWAWAY:-}" ] || return 0
    die "The account coffer, under which the application runs, cannot read $root. Put Coffer where everybody may, such as /opt."
  fi
  echo "$(id -u coffer):$(id -g coffer)"
}

# keep_running HOME NAME: runs dist/NAME.mjs with the environment as it is, and again after it has failed.
keep_running() {
  local account
  account=$(run_as)
  COFFER_RUN_AS="$account" setsid nohup node "$root/scripts/keep-running.mjs" "$root/dist/$2.mjs" "$1/log/$2.log" \
    >/dev/null 2>&1 </dev/null 9>&- &
  echo $! >"$1/$2.pid"
}

# What the server is told by its environment; the port is given apart.
server_environment() {
  local home=$1
  installation=(COFFER_DATABASE="$(database_url "$home")" COFFER_SITE="$root/dist/web/browser"
    COFFER_SECRET="$(secret "$home" session-secret)" NODE_ENV=production)
  if is_own "$home"; then
    installation+=(COFFER_SET_UP_CODE="$(set_up_code "$home")")
    [ -z "${COFFER_TODAY:-}" ] || installation+=(COFFER_TODAY="$COFFER_TODAY")
  else
    # The demo company lives in its own time.
    installation+=(COFFER_DEMO="$root/demo" COFFER_TODAY="${COFFER_TODAY:-$(demo_day)}")
  fi
}

launch_server() {
  local home=$1 port=$2
  local -a installation
  server_environment "$home"
  launch_rate_service "$home"
  installation+=(COFFER_PORT="$port")
  installation+=(COFFER_RATE_SERVICE="${COFFER_RATE_SERVICE:-http://127.0.0.1:$(cat "$home/rate-service.port")}")
  bring_up_to_date "$home"
  # Exported, not given to a command: what stands on a command line, everybody on the machine can read.
  (
    export "${installation[@]}"
    keep_running "$home" server
  )
  for _ in $(seq 300); do
    healthy "$port" && return
    kill -0 "$(cat "$home/server.pid")" 2>/dev/null || break
    sleep 0.1
  done
  tail -n 20 "$home/log/server.log" >&2
  stop_server "$home"
  die "The application did not start; the lines above are the end of $home/log/server.log."
}

# The application in the foreground, its log on standard output: for what keeps services running by itself. A service that is given
# its credentials finds the database kept and brought up to date by another one, ./coffer keep, which alone has the others.
serve_application() {
  local home
  local -a installation
  choose_installation "$@"
  home=$(data_home)
  [ -f "$root/dist/build-id" ] || die "Build it first: ./coffer build"
  if [ -n "${CREDENTIALS_DIRECTORY:-}" ]; then
    [ -r "$home/database-port" ] || external || die "No database is kept in $home: ./coffer keep has to run first."
    server_environment "$home"
  else
    prepare_to_serve "$home"
  fi
  COFFER_PORT=${COFFER_PORT:-4680}
  installation+=(COFFER_PORT="$COFFER_PORT")
  export "${installation[@]}"
  exec node "$root/dist/server.mjs" 9>&-
}

# prepare_to_serve HOME: all that comes before, where one account has everything.
prepare_to_serve() {
  local home=$1
  lock_home "$home"
  [ -z "$own" ] || touch "$home/own"
  start_cluster "$home"
  ! process_pid "$home" server >/dev/null || die "Coffer runs in $home already."
  server_environment "$home"
  bring_up_to_date "$home"
  echo "${COFFER_PORT:-4680}" >"$home/port"
  # ./coffer stop finds it by its number, which the server takes over.
  echo $$ >"$home/server.pid"
}

# The database alone: begun, and brought to the form that this Coffer needs, for a server that runs under another account.
keep_installation() {
  local home
  choose_installation "$@"
  home=$(data_home)
  [ -f "$root/dist/build-id" ] || die "Build it first: ./coffer build"
  lock_home "$home"
  [ -z "$own" ] || touch "$home/own"
  start_cluster "$home"
  # What the server is given is there before it is.
  for name in session-secret database-password; do secret "$home" "$name" >/dev/null; done
  set_up_code "$home" >/dev/null
  bring_up_to_date "$home"
  say "The database of $home is kept."
}

build_application() {
  may_build
  ensure_packages
  node "$root/scripts/build.mjs" all
}

# The one-time code of an installation that was not set up yet; kept, so that starting again changes nothing.
set_up_code() {
  if [ -n "${CREDENTIALS_DIRECTORY:-}" ]; then
    secret "$1" set-up-code
    return
  fi
  [ -s "$1/secrets/set-up-code" ] || keep_secret "$1" set-up-code "$(random_code)"
  cat "$1/secrets/set-up-code"
}

greet() {
  if is_own "$2"; then greet_own "$@"; else greet_demo "$@"; fi
}

# What a call to the application here says: behind a proxy it answers only what came by its public address.
session_here() {
  local public=${COFFER_PUBLIC_URL:-}
  public=${public%/}
  curl -fsS ${public:+-H "X-Forwarded-Proto: https" -H "X-Forwarded-Host: ${public#https://}"} "http://127.0.0.1:$1/api/session"
}

greet_own() {
  local address=${COFFER_PUBLIC_URL:-http://127.0.0.1:$1}
  address=${address%/}
  if [ "$(session_here "$1" | node -p 'JSON.parse(require("fs").readFileSync(0, "utf8")).installation')" = empty ]; then
    cat <<TEXT

Coffer waits for your company. Open

  $address/set-up#$(set_up_code "$2")

or $address and type the one-time code  $(set_up_code "$2" | sed 's/.\{5\}/&-/g; s/-$//')

TEXT
  else
    printf '\nCoffer is at %s, with companies of your own.\n\n' "$address"
  fi
  echo "  log and data in $2; ./coffer stop --own ends it"
}

greet_demo() {
  cat <<TEXT

Coffer is at ${COFFER_PUBLIC_URL:-http://127.0.0.1:$1}

  demo company   Ostrel Glassworks, October 2026 open
$(node -e '
    const { people } = JSON.parse(require("fs").readFileSync(process.argv[1], "utf8"));
    for (const { logIn, password, role } of people) {
      const does = { prepare: "prepares", review: "reviews", administer: "administers" }[role[0]] ?? "reads";
      console.log(`  ${does.padEnd(13)}  ${logIn.padEnd(8)}  ${password}`);
    }
  ' "$root/demo/company.json")

  log and data in $2; ./coffer stop ends it. ./coffer start --own begins with a company of your own.
TEXT
}

verify_installation() {
  local home head=''
  while [ $# -gt 0 ]; do
    case "$1" in
      --own) own=yes ;;
      --head)
        [[ ${2:-} =~ ^[0-9a-f]{64}$ ]] || die 'After --head comes the hash of an event of the trail, 64 digits, as a close tells it.'
        head=$2
        shift
        ;;
      *) die "verify knows --own and --head, not $1." ;;
    esac
    shift
  done
  home=$(data_home)
  installed "$home" || die "There is nothing to verify in $home; ./coffer start begins an installation."
  lock_home "$home"
  ensure_packages
  node "$root/scripts/build.mjs" server
  start_cluster "$home"
  bring_up_to_date "$home"
  COFFER_DATABASE=$(database_url "$home") COFFER_SECRET=$(secret "$home" session-secret) \
    ${head:+env COFFER_HEAD="$head"} node "$root/dist/verify.mjs"
}

# Verifies an installation that was just started, behind it and with what time it leaves; the log keeps the answer.
verify_behind() {
  [ -z "${COFFER_THROWAWAY:-}" ] || return 0
  (
    COFFER_DATABASE=$(database_url "$1")
    export COFFER_DATABASE
    exec setsid nohup nice -n 19 node "$root/dist/verify.mjs" >"$1/log/verify.log" 2>&1 </dev/null 9>&-
  ) &
  say "Ledger, reports, documents and audit trail are verified behind it; $1/log/verify.log keeps the answer."
}

# A one-time link by which a person chooses a new password, for who keeps the machine.
link_new_password() {
  local home name=${1:-}
  [ -n "$name" ] || die 'Name who is to choose a new password: ./coffer new-password LOG-IN [--own]'
  choose_installation "${2:-}"
  home=$(data_home)
  installed "$home" || die "There is no installation in $home."
  lock_home "$home"
  ensure_packages
  node "$root/scripts/build.mjs" server
  start_cluster "$home"
  bring_up_to_date "$home"
  COFFER_DATABASE=$(database_url "$home") COFFER_ADDRESS="${COFFER_PUBLIC_URL:-http://127.0.0.1:$(kept_port "$home/port" 4680)}" \
    node "$root/dist/new-password.mjs" "$name"
}

stop_application() {
  local home
  choose_installation "$@"
  home=$(data_home)
  # What runs is ended whoever works on it: a start that waits for it would wait for ever.
  stop_server "$home"
  stop_cluster "$home"
  say 'Coffer is stopped; its data is kept.'
}
