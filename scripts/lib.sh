# Shared by ./start, ./test and ./bench: finds or installs what is needed and runs a private PostgreSQL.
# shellcheck shell=bash
set -euo pipefail
ROOT=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
LOCAL="$ROOT/.local"
export DOTNET_NOLOGO=1 DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_CLI_USE_MSBUILD_SERVER=0 MSBUILDDISABLENODEREUSE=1

say() { printf '%s\n' "$*"; }
fail() { printf '%s\n' "$*" >&2; exit 1; }

need_sdk() {
  command -v dotnet >/dev/null || fail "The .NET 10 SDK is missing: install it and put 'dotnet' on the PATH."
  [[ $'\n'$(dotnet --list-sdks) == *$'\n'10.* ]] || fail "The .NET SDK is too old: install version 10."
}

need_node() {
  command -v node >/dev/null || fail "Node.js is missing: install version 20.19 or newer."
  node -e 'const [a,b]=process.versions.node.split(".").map(Number); process.exit(a>20||(a===20&&b>=19)?0:1)' \
    || fail "Node.js $(node --version) is too old: install version 20.19 or newer."
}

# Installs Debian packages when root; otherwise says the one command to run.
need_packages() {
  local missing=() package
  for package in "$@"; do dpkg -s "$package" >/dev/null 2>&1 || missing+=("$package"); done
  [ ${#missing[@]} -eq 0 ] && return 0
  [ "$(id -u)" = 0 ] || fail "Missing: ${missing[*]}. Run: sudo apt-get install -y ${missing[*]}"
  say "Installing ${missing[*]} …"
  apt-get update -qq >/dev/null || true
  # Without this Debian's package would start a server of its own.
  mkdir -p /etc/postgresql-common && [ -e /etc/postgresql-common/createcluster.conf ] || echo "create_main_cluster = false" > /etc/postgresql-common/createcluster.conf
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "${missing[@]}" >/dev/null || fail "apt-get could not install ${missing[*]}."
}

pg_bin() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }

free_port() { node -e 'const s=require("net").createServer().listen(0,"127.0.0.1",()=>{console.log(s.address().port);s.close()})'; }

port_is_free() { node -e 'const s=require("net").createServer();s.once("error",()=>process.exit(1));s.listen(+process.argv[1],"127.0.0.1",()=>s.close(()=>process.exit(0)))' "$1"; }

# answers URL: whether a web address answers with success.
answers() { node -e 'fetch(process.argv[1]).then((a) => process.exit(a.ok ? 0 : 1), () => process.exit(1))' "$1"; }

as_pg() {
  if [ "$(id -u)" = 0 ]; then (cd / && exec runuser -u postgres -- "$@"); else "$@"; fi
}

# start_postgres NAME [durable]: a private cluster of that name; sets PG_URL (a Npgsql connection string without database).
# Only a cluster marked durable waits for the disk.
start_postgres() {
  local name=$1 durable=${2:-} bin data port
  bin=$(pg_bin); [ -x "$bin/initdb" ] || { need_packages postgresql; bin=$(pg_bin); }
  [ -x "$bin/initdb" ] || fail "PostgreSQL is missing. Run: sudo apt-get install -y postgresql"
  mkdir -p "$LOCAL"
  data="$LOCAL/$name"
  if [ "$(id -u)" = 0 ]; then
    # The server refuses to run as root, and its user may not be able to reach this folder.
    if ! as_pg test -x "$ROOT" 2>/dev/null; then data="/var/tmp/kingcup-$(printf '%s' "$ROOT" | cksum | cut -d' ' -f1)-$name"; fi
    mkdir -p "$data"; chown postgres "$data"; chmod 700 "$data"
  fi
  if [ ! -e "$data/PG_VERSION" ]; then
    as_pg "$bin/initdb" -D "$data" -U kingcup -A trust -E UTF8 --locale=C.UTF-8 >/dev/null || fail "Could not create a database cluster in $data."
  fi
  if as_pg "$bin/pg_ctl" -D "$data" status >/dev/null 2>&1; then
    port=$(sed -n 4p "$data/postmaster.pid")
    PG_OURS=
  else
    port=$(free_port)
    local options="-c listen_addresses=127.0.0.1 -c port=$port -c unix_socket_directories='' -c max_connections=200 -c shared_buffers=256MB -c random_page_cost=1.1"
    [ -n "$durable" ] || options="$options -c fsync=off -c synchronous_commit=off -c full_page_writes=off"
    as_pg "$bin/pg_ctl" -D "$data" -w -l "$data/log" -o "$options" start >/dev/null || fail "PostgreSQL did not start; see $data/log."
    PG_OURS=$data
  fi
  PG_URL="Host=127.0.0.1;Port=$port;Username=kingcup;Maximum Pool Size=40;Include Error Detail=false"
  PG_PORT=$port
}

stop_postgres() {
  [ -n "${PG_OURS:-}" ] || return 0
  as_pg "$(pg_bin)/pg_ctl" -D "$PG_OURS" -m fast -w stop >/dev/null 2>&1 || true
  PG_OURS=
}

# stale TARGET SOURCE…: whether any file of the sources is newer than the target.
stale() {
  local target=$1; shift
  [ -e "$target" ] || return 0
  [ -n "$(find "$@" -newer "$target" -type f -not -path '*/bin/*' -not -path '*/obj/*' -not -path '*/node_modules/*' -not -path '*/dist/*' -print -quit 2>/dev/null)" ]
}

web_packages() {
  cd "$ROOT/src/web"
  if [ ! -e node_modules/.package-lock.json ] || [ package-lock.json -nt node_modules/.package-lock.json ]; then
    say "Fetching the packages of the screens …"
    npm ci --no-audit --no-fund --loglevel=error >/dev/null || fail "npm could not fetch the packages of the screens."
    touch node_modules/.package-lock.json
  fi
  cd "$ROOT"
}

build_web() {
  stale "$LOCAL/web.built" "$ROOT/src/web" || return 0
  web_packages
  say "Building the screens …"
  (cd "$ROOT/src/web" && npm run --silent build) > "$LOCAL/web.log" 2>&1 || { tail -n 30 "$LOCAL/web.log" >&2; fail "The screens did not build."; }
  touch "$LOCAL/web.built"
}
