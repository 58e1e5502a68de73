#!/usr/bin/env bash
# database.sh start [NAME] | stop | running: a PostgreSQL cluster of this project's own, on loopback. Prints its URL on start.
# DATABASE_URL set: uses that server and starts nothing. FRESH_COAT_DB_PORT chooses the first port to try (54329).
# FRESH_COAT_DATA chooses the data folder (.data in the project): tests use one of their own.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
data_root=${FRESH_COAT_DATA:-$root/.data}
say() { echo "$@" >&2; }

if [ -n "${DATABASE_URL:-}" ]; then
  [ "$1" = start ] && echo "$DATABASE_URL"
  [ "$1" != running ] || exit 1
  exit 0
fi

complete() { for tool in initdb pg_ctl postgres psql createdb; do [ -x "$1/$tool" ] || return 1; done; }
find_binaries() {
  local dir
  for dir in $(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -rV); do complete "$dir" && echo "$dir" && return 0; done
  if command -v initdb >/dev/null; then
    dir=$(dirname "$(readlink -f "$(command -v initdb)")")
    complete "$dir" && echo "$dir" && return 0
  fi
  return 1
}

if ! bin=$(find_binaries); then
  # Nothing can run, and nothing needs to be stopped.
  [ "$1" != running ] || exit 1
  [ "$1" != stop ] || exit 0
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
    say "Installing PostgreSQL from Debian's packages…"
    apt-get update >&2 && DEBIAN_FRONTEND=noninteractive apt-get install -y postgresql >&2
    bin=$(find_binaries) || { say "PostgreSQL was installed, but its programs were not found."; exit 3; }
  else
    say "Fresh Coat needs a PostgreSQL server. Install it: sudo apt-get install postgresql"
    say "or give the address of one you have: DATABASE_URL=postgres://… bin/start"
    exit 3
  fi
fi

# The server refuses to run as root: it then runs as the user that Debian made for it.
run() { "$@"; }
cluster=$data_root/pg
if [ "$(id -u)" = 0 ]; then
  run() { (cd / && setpriv --reuid=postgres --regid=postgres --init-groups -- "$@"); }
  mkdir -p "$data_root"
  if ! run test -x "$data_root"; then
    cluster=/var/lib/postgresql/fresh-coat-$(echo "$data_root" | sha256sum | cut -c1-12)
  fi
fi
log=$cluster.log
port_file=$cluster/fresh-coat.port
running() { run "$bin/pg_ctl" -D "$cluster" status >/dev/null 2>&1; }

case "$1" in
  running) [ -d "$cluster" ] && running ;;
  stop)
    if [ -d "$cluster" ] && running; then run "$bin/pg_ctl" -D "$cluster" -m fast -w stop >/dev/null; fi
    ;;
  start)
    if [ ! -f "$cluster/PG_VERSION" ]; then
      say "Creating a database cluster in $cluster"
      mkdir -p "$(dirname "$cluster")"
      if [ "$(id -u)" = 0 ]; then install -d -m 700 -o postgres -g postgres "$cluster"; install -m 600 -o postgres -g postgres /dev/null "$log"; fi
      run "$bin/initdb" -D "$cluster" -U freshcoat -A trust -E UTF8 --locale=C.UTF-8 -k >/dev/null
      run sh -c "printf '%s\n' \"listen_addresses = '127.0.0.1'\" \"unix_socket_directories = ''\" \"timezone = 'UTC'\" >> '$cluster/postgresql.conf'"
    fi
    if ! running; then
      port=${FRESH_COAT_DB_PORT:-54329}
      for _ in 1 2 3 4 5 6 7 8 9 10; do
        if run "$bin/pg_ctl" -D "$cluster" -w -t 30 -o "-p $port" -l "$log" start >/dev/null 2>&1; then break; fi
        say "Port $port is taken; trying the next one."
        port=$((port + 1))
      done
      running || { say "PostgreSQL did not start. The end of its log:"; tail -n 8 "$log" >&2; say "FRESH_COAT_DB_PORT=N chooses another port."; exit 1; }
      run sh -c "echo $port > '$port_file'"
    fi
    port=$(run cat "$port_file")
    name=${2:-freshcoat}
    run "$bin/psql" -h 127.0.0.1 -p "$port" -U freshcoat -d postgres -Atc "select 1 from pg_database where datname='$name'" | grep -q 1 ||
      run "$bin/createdb" -h 127.0.0.1 -p "$port" -U freshcoat "$name"
    echo "postgres://freshcoat@127.0.0.1:$port/$name"
    ;;
  *) say "usage: database.sh start | stop"; exit 2 ;;
esac
