#!/usr/bin/env bash
# database.sh install | start [NAME] | stop | running: a PostgreSQL cluster of this project's own, on loopback. Prints its URL on start.
# database.sh has NAME | copy FROM TO: whether it runs and has this database; puts a copy of one nobody uses in the place of another.
# DATABASE_URL set: uses that server and starts nothing. FRESH_COAT_DB_PORT chooses the first port to try (54329).
# FRESH_COAT_DATA chooses the data folder (.data in the project): tests use one of their own.
# FRESH_COAT_DB_FORGETS=1 lets what it holds be lost with the power, which is quicker: for tests, never for what somebody keeps.
# The app is a role without any right but on its own databases; both roles have passwords, in files of mode 0600.
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
owner_key=$data_root/pg-owner.key
app_key=$data_root/pg-app.key
running() { run "$bin/pg_ctl" -D "$cluster" status >/dev/null 2>&1; }

random_key() { od -An -N24 -tx1 /dev/urandom | tr -d ' \n'; }
make_key() { [ -s "$1" ] || (umask 077 && random_key >"$1"); chmod 600 "$1"; }
# As the owner of the cluster: never seen in a list of processes, the password goes through the environment.
as_owner() { PGPASSWORD=$(cat "$owner_key") run "$bin/psql" -v ON_ERROR_STOP=1 -h 127.0.0.1 -p "$port" -U freshcoat -qAt "$@"; }

# Anybody on this computer could once log in as superuser: passwords for both roles, and nobody gets in without.
close_doors() {
  local rules=$cluster/pg_hba.conf
  make_key "$owner_key"
  make_key "$app_key"
  if ! run grep -q '^# fresh-coat: passwords only' "$rules"; then
    run "$bin/psql" -v ON_ERROR_STOP=1 -h 127.0.0.1 -p "$port" -U freshcoat -d postgres -q <<SQL >/dev/null
alter role freshcoat password '$(cat "$owner_key")';
SQL
    run sh -c "printf '%s\n' '# fresh-coat: passwords only' 'host all all 127.0.0.1/32 scram-sha-256' > '$rules' && chmod 600 '$rules'"
    run "$bin/pg_ctl" -D "$cluster" reload >/dev/null
  fi
  as_owner -d postgres <<SQL >/dev/null
do \$\$ begin
  if not exists (select 1 from pg_roles where rolname = 'freshcoat_app') then
    create role freshcoat_app login nosuperuser nocreaterole createdb;
  end if;
end \$\$;
alter role freshcoat_app password '$(cat "$app_key")';
SQL
}

# A database of before the app had a role of its own changes hands, with all that is in it.
hand_over() {
  [ "$(as_owner -d postgres -c "select pg_get_userbyid(datdba) from pg_database where datname = '$1'")" != freshcoat_app ] || return 0
  as_owner -d "$1" <<SQL >/dev/null
alter database "$1" owner to freshcoat_app;
do \$\$ declare one record; begin
  for one in select nspname from pg_namespace where nspowner = 'freshcoat'::regrole and nspname !~ '^(pg_|information_schema)' loop
    execute format('alter schema %I owner to freshcoat_app', one.nspname);
  end loop;
  for one in select n.nspname, c.relname, c.relkind from pg_class c join pg_namespace n on n.oid = c.relnamespace
      where c.relowner = 'freshcoat'::regrole and c.relkind in ('r', 'p', 'v', 'm', 'S') and n.nspname !~ '^(pg_|information_schema)'
      and not exists (select 1 from pg_depend d where d.objid = c.oid and d.deptype in ('a', 'i', 'e') and c.relkind = 'S') loop
    execute format('alter table %I.%I owner to freshcoat_app', one.nspname, one.relname);
  end loop;
end \$\$;
grant all on schema public to freshcoat_app;
SQL
}

check_name() { case "$1" in '' | *[!a-z0-9_]*) say "“$1” is no name for a database: a–z, 0–9 and _."; exit 2 ;; esac; }

if [ "$1" = install ]; then exit 0; fi

# One at a time: two starts in one folder must not make one cluster twice.
mkdir -p "$data_root" 2>/dev/null || { say "The folder $data_root cannot be made: see who owns it, and whether its disk is read-only."; exit 1; }
if [ "$1" != running ]; then
  if ! : >>"$data_root/pg.lock" 2>/dev/null; then
    say "The folder $data_root cannot be written: see who owns it, and whether its disk is read-only."
    exit 1
  fi
  exec 9>>"$data_root/pg.lock"
  flock 9
fi

case "$1" in
  running) [ -d "$cluster" ] && running ;;
  stop)
    if [ -d "$cluster" ] && running; then run "$bin/pg_ctl" -D "$cluster" -m fast -w stop >/dev/null 9>&-; fi
    ;;
  start)
    if [ ! -f "$cluster/PG_VERSION" ]; then
      say "Creating a database cluster in $cluster"
      mkdir -p "$(dirname "$cluster")"
      if [ "$(id -u)" = 0 ]; then install -d -m 700 -o postgres -g postgres "$cluster"; install -m 600 -o postgres -g postgres /dev/null "$log"; fi
      # Nobody can reach it before its doors are closed below: it does not run yet.
      run "$bin/initdb" -D "$cluster" -U freshcoat -A trust -E UTF8 --locale=C.UTF-8 -k >/dev/null
      run sh -c "printf '%s\n' \"listen_addresses = '127.0.0.1'\" \"unix_socket_directories = ''\" \"timezone = 'UTC'\" >> '$cluster/postgresql.conf'"
    fi
    if ! running; then
      port=${FRESH_COAT_DB_PORT:-54329}
      options="-c random_page_cost=1.1"
      if [ "${FRESH_COAT_DB_FORGETS:-}" = 1 ]; then options="$options -c fsync=off -c full_page_writes=off"; fi
      for _ in 1 2 3 4 5 6 7 8 9 10; do
        if run "$bin/pg_ctl" -D "$cluster" -w -t 30 -o "-p $port $options" -l "$log" start >/dev/null 2>&1 9>&-; then break; fi
        grep -q 'No space left on device' <(run tail -n 20 "$log" 2>/dev/null) && { say "The disk is full: PostgreSQL cannot start. Make room, then start again."; exit 1; }
        say "Port $port is taken; trying the next one."
        port=$((port + 1))
      done
      running || { say "PostgreSQL did not start. The end of its log:"; run tail -n 8 "$log" >&2; say "FRESH_COAT_DB_PORT=N chooses another port."; exit 1; }
      run sh -c "echo $port > '$port_file'"
    fi
    port=$(run cat "$port_file")
    name=${2:-freshcoat}
    check_name "$name"
    if [ ! -s "$app_key" ] || ! run grep -q '^# fresh-coat: passwords only' "$cluster/pg_hba.conf"; then close_doors; fi
    if [ "$(as_owner -d postgres -c "select 1 from pg_database where datname = '$name'")" = 1 ]; then
      hand_over "$name"
    else
      as_owner -d postgres -c "create database \"$name\" owner freshcoat_app" >/dev/null
    fi
    echo "postgres://freshcoat_app:$(cat "$app_key")@127.0.0.1:$port/$name"
    ;;
  has)
    check_name "$2"
    running || exit 1
    port=$(run cat "$port_file")
    [ "$(as_owner -d postgres -c "select 1 from pg_database where datname = '$2'")" = 1 ]
    ;;
  copy)
    running || { say "No server runs here: database.sh start begins one."; exit 1; }
    check_name "$2"
    check_name "$3"
    port=$(run cat "$port_file")
    as_owner -d postgres -c "set client_min_messages = warning" -c "drop database if exists \"$3\"" >/dev/null
    as_owner -d postgres -c "create database \"$3\" owner freshcoat_app template \"$2\"" >/dev/null
    ;;
  *) say "usage: database.sh install | start [NAME] | stop | running | has NAME | copy FROM TO"; exit 2 ;;
esac
