# What the machine must have: Node 20, npm packages as locked, Debian's PostgreSQL and, for tests, Chromium.

say() { printf '%s\n' "$*" >&2; }

die() {
  say "$*"
  exit 1
}

ensure_node() {
  local major
  major=$(node --version 2>/dev/null | sed 's/^v\([0-9]*\).*/\1/') || true
  [ "${major:-0}" -eq 20 ] || die "Coffer runs on Node 20; found ${major:-none}. Install it and try again."
}

# npm packages exactly as the lock file has them; nothing to do when they were installed from this very lock.
ensure_packages() {
  ensure_node
  local stamp="$root/node_modules/.coffer-lock" lock
  lock=$(sha256sum "$root/package-lock.json" | cut -d' ' -f1)
  [ "$(cat "$stamp" 2>/dev/null)" = "$lock" ] && return
  say "Installing npm packages…"
  (cd "$root" && npm ci --no-progress >&2)
  echo "$lock" >"$stamp"
}

as_root() {
  if [ "$(id -u)" -eq 0 ]; then "$@"; else sudo "$@"; fi
}

# ensure_debian WHAT PACKAGE: installs a Debian package when what it brings, a command or a path, is missing.
ensure_debian() {
  case "$1" in
    /*) compgen -G "$1" >/dev/null && return ;;
    *) command -v "$1" >/dev/null 2>&1 && return ;;
  esac
  command -v apt-get >/dev/null || die "$1 is missing and this is not Debian; install $2 and try again."
  say "Installing $2 from Debian's packages…"
  as_root apt-get update -qq >&2
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$2" >&2
}

# PostgreSQL's server; its programs alone where the database is kept elsewhere.
ensure_postgres() {
  if [ -n "${COFFER_DATABASE:-}" ]; then
    [ -d /usr/lib/postgresql ] || ensure_debian psql postgresql-client
  else
    ensure_debian '/usr/lib/postgresql/*/bin/initdb' postgresql
  fi
}

ensure_command_line() {
  local built="$root/dist/cli.mjs"
  [ -f "$built" ] && [ -z "$(find "$root"/core/src "$root"/contract/src "$root"/cli/src -newer "$built" -print -quit)" ] && return
  ensure_packages
  node "$root/scripts/build.mjs" cli
}

# free_port FIRST: the first port from FIRST on that nobody listens on.
free_port() {
  local port=$1
  until port_is_free "$port"; do port=$((port + 1)); done
  echo "$port"
}

# kept_port FILE OTHER: the port in a file, or another where there is none; a disk that was full may have left it empty.
kept_port() {
  local port
  port=$(cat "$1" 2>/dev/null || true)
  echo "${port:-$2}"
}

# Whether nobody listens on a port.
port_is_free() { ! (: >"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

# Twenty letters and digits that are not taken for one another.
random_code() { node -e 'console.log([...require("crypto").randomBytes(20)].map((byte) => "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567"[byte % 32]).join(""))'; }

random_text() { node -e 'console.log(require("crypto").randomBytes(24).toString("hex"))'; }
