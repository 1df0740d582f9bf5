# What ./start and ./test share. Sourced by both, after `cd` into the checkout.

set -euo pipefail
umask 022

APP=jolly-lattice
ROOT=$(pwd -P)
# Outside the checkout: the database server may not be able to pass a private home or a temporary folder.
if [ "$(id -u)" = 0 ]; then STATE_BASE=/var/lib/$APP; else STATE_BASE=${XDG_STATE_HOME:-$HOME/.local/state}/$APP; fi
STATE=$STATE_BASE/$(basename "$ROOT")-$(printf %s "$ROOT" | sha256sum | cut -c1-10)

say() { printf '\033[1m%s\033[0m\n' "$*"; }
die() { printf '%s\n' "$*" >&2; exit 1; }

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"
  elif command -v sudo >/dev/null; then sudo "$@"
  else die "Debian packages are missing, and installing them needs root or sudo. As root: apt-get install ${MISSING[*]}"
  fi
}

# debian PACKAGE PROBE ...: install what its probe, a command, does not find.
debian() {
  MISSING=()
  while [ $# -gt 0 ]; do
    sh -c "$2" >/dev/null 2>&1 || MISSING+=("$1")
    shift 2
  done
  [ ${#MISSING[@]} = 0 ] && return
  say "Installing Debian packages: ${MISSING[*]}"
  if [[ " ${MISSING[*]} " == *" postgresql "* ]]; then
    # We need the programs, not the server that the package would start for the whole machine.
    as_root mkdir -p /etc/postgresql-common/createcluster.d
    echo "create_main_cluster = false" | as_root tee /etc/postgresql-common/createcluster.d/$APP.conf >/dev/null
  fi
  as_root apt-get -qq update || say "The package lists could not be refreshed; trying with those at hand."
  as_root env DEBIAN_FRONTEND=noninteractive RUNLEVEL=1 apt-get -qq install -y --no-install-recommends "${MISSING[@]}" >/dev/null ||
    die "These Debian packages could not be installed: ${MISSING[*]}"
}

# stamped STAMP KEY COMMAND ...: run the command unless it succeeded before with the same key.
stamped() {
  local stamp=$1 key=$2
  shift 2
  if [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$key" ]; then return; fi
  rm -f "$stamp"
  "$@" || return
  printf %s "$key" > "$stamp"
}

hash_of() { cat "$@" | sha256sum | cut -c1-32; }

# python_env app|dev: the project's own environment, from hashed requirements.
python_env() {
  command -v python3 >/dev/null || die "python3 is missing: install Debian's python3."
  python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' || die "Python 3.11 or newer is needed; python3 is $(python3 -V)."
  [ -x .venv/bin/python ] && .venv/bin/python -c '' 2>/dev/null || {
    say "Making the Python environment"
    rm -rf .venv
    debian python3-venv 'python3 -c "import ensurepip"'
    python3 -m venv .venv
  }
  local key
  key=$(hash_of requirements/app.txt "requirements/$1.txt")
  stamped ".venv/.$1" "$key" pip_install "$1"
  # What the tests need includes all that the application needs.
  if [ "$1" = dev ]; then hash_of requirements/app.txt requirements/app.txt | tr -d '\n' > .venv/.app; fi
}

pip_install() {
  say "Installing Python packages ($1)"
  .venv/bin/python -m pip install -q --disable-pip-version-check --require-hashes -r "requirements/$1.txt" ||
    die "The Python packages could not be installed: see above."
}

# Node from PyPI knows only its own certificates: let it trust what the machine trusts.
if [ -r /etc/ssl/certs/ca-certificates.crt ]; then
  export NODE_EXTRA_CA_CERTS=${NODE_EXTRA_CA_CERTS:-/etc/ssl/certs/ca-certificates.crt}
fi

# The machine's Node if it is new enough, else one from PyPI inside the Python environment.
node_env() {
  if ! node_is_good; then
    say "Node 20.19 or newer and npm are not on this machine: installing them into .venv"
    pip_install node
    export PATH=$ROOT/.venv/bin:$PATH
    hash -r
    node_is_good || die "Node could not be installed: see above."
  fi
  stamped web/node_modules/.stamp "$(hash_of web/package-lock.json)$(node -v)" npm_install
}

node_is_good() {
  [ -x .venv/bin/node ] && export PATH=$ROOT/.venv/bin:$PATH
  command -v npm >/dev/null && node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' 2>/dev/null
}

npm_install() {
  say "Installing the front end's packages"
  (cd web && npm ci --no-audit --no-fund --loglevel=error) || die "The front end's packages could not be installed: see above."
}

front_end() {
  local key
  key=$(find web/src web/index.html web/vite.config.ts web/package-lock.json docs/by_script.py web/tsconfig*.json -type f | sort | xargs sha256sum | sha256sum | cut -c1-32)
  stamped web/dist/.stamp "$key" npm_build
}

npm_build() {
  say "Building the front end"
  (cd web && npm run --silent build -- --logLevel warn) || die "The front end could not be built: see above."
  .venv/bin/python -m whitenoise.compress -q web/dist # gzip and brotli, once instead of at each request
}

free_port() { .venv/bin/python scripts/free_port.py "$@"; }

# ---- The project's own database server, on loopback, in a folder of its own ----

pg() { # run a program of PostgreSQL's as the user that owns the data
  local program=$1
  shift
  if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$PG_BIN/$program" "$@"); else "$PG_BIN/$program" "$@"; fi
}

own() { [ "$(id -u)" = 0 ] && chown postgres: "$@"; return 0; }

# database FOLDER [OPTION]: start the server whose data lies in FOLDER/data; sets and exports JOLLY_DB_*.
database() {
  local folder=$1 options=${2:-} may=NOCREATEDB
  if [ -n "$options" ]; then may=CREATEDB; fi # tests make databases of their own
  PG_BIN=$(dirname "$(ls /usr/lib/postgresql/*/bin/initdb | sort -V | tail -1)")
  mkdir -p "$folder/run"
  own "$folder/run"
  chmod 700 "$folder/run"
  if [ ! -f "$folder/data/PG_VERSION" ]; then
    say "Making the database in $folder"
    rm -rf "$folder/data"
    mkdir -m 700 "$folder/data"
    a_password "$folder/password"
    cp -p "$folder/password" "$folder/run/password"
    own "$folder/data" "$folder/run/password"
    pg initdb -D "$folder/data" -U jolly --pwfile="$folder/run/password" --auth=scram-sha-256 --encoding=UTF8 --locale=C.UTF-8 ${options:+--no-sync} >/dev/null
    rm "$folder/run/password"
  fi
  [ -s "$folder/password-lattice" ] || a_password "$folder/password-lattice"
  if pg pg_ctl -D "$folder/data" status >/dev/null 2>&1; then
    pg pg_ctl -D "$folder/data" -m fast -w stop >/dev/null # left behind by a start that was killed
  fi
  export JOLLY_DB_PASSWORD JOLLY_DB_PORT JOLLY_DB_USER=lattice JOLLY_DB_NAME=jolly JOLLY_DB_HOST=127.0.0.1
  JOLLY_DB_PASSWORD=$(cat "$folder/password-lattice")
  # The same port as the last time, if it is free: who looks into the database finds it again.
  JOLLY_DB_PORT=$(free_port $(cat "$folder/port" 2>/dev/null))
  echo "$JOLLY_DB_PORT" > "$folder/port"
  pg pg_ctl -D "$folder/data" -w -s -l "$folder/run/log" \
    -o "-p $JOLLY_DB_PORT -c listen_addresses=127.0.0.1 -c unix_socket_directories=$folder/run $options" start ||
    { cat "$folder/run/log" >&2; die "The database server did not start: see above."; }
  DATABASE_FOLDER=$folder
  PGPASSWORD=$(cat "$folder/password") "$PG_BIN/psql" -q -X -v ON_ERROR_STOP=1 -v word="$JOLLY_DB_PASSWORD" -v may="$may" \
    -h 127.0.0.1 -p "$JOLLY_DB_PORT" -U jolly -d postgres -f scripts/database.sql
  say "Database server on 127.0.0.1:$JOLLY_DB_PORT, data in $folder"
}

a_password() { (umask 077 && .venv/bin/python -c 'import secrets; print(secrets.token_urlsafe(24))' > "$1"); }

database_stop() {
  if [ -n "${DATABASE_FOLDER:-}" ]; then pg pg_ctl -D "$DATABASE_FOLDER/data" -m fast -w -s stop || true; fi
  DATABASE_FOLDER=
}
