#!/usr/bin/env bash
# serve.sh: database, migrations, demo data if asked for, and the web server; ends all of it cleanly.
# DEMO=1 uses a database of its own for Lantern Yard; RESET=1 makes it from scratch, RESET=copy from a copy (see yard.sh).
# FRESH_COAT_DB_NAME names another database.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$root"
. scripts/path.sh
export NEXT_TELEMETRY_DISABLED=1 NODE_ENV=production
export FRESH_COAT_DATA=${FRESH_COAT_DATA:-$root/.data}
say() { echo "$@" >&2; }
host=${FRESH_COAT_HOST:-127.0.0.1}
case "$host" in
  127.* | localhost | ::1) ;;
  *)
    say "Fresh Coat listens on this computer only: opening it to the network needs a login, which is not built yet."
    exit 2
    ;;
esac
case "${PORT:-4290}" in
  *[!0-9]* | '') say "PORT=${PORT:-} is no port: choose a number from 1 to 65535."; exit 2 ;;
esac
if [ "${PORT:-4290}" -lt 1 ] || [ "${PORT:-4290}" -gt 65535 ]; then say "PORT=$PORT is no port: choose a number from 1 to 65535."; exit 2; fi

# The folder has to take what is written, and have room for it.
if ! mkdir -p "$FRESH_COAT_DATA/run" 2>/dev/null || ! : 2>/dev/null >"$FRESH_COAT_DATA/run/.try"; then
  say "The folder $FRESH_COAT_DATA cannot be written: see who owns it, and whether its disk is read-only or full."
  say "FRESH_COAT_DATA=/another/folder bin/start uses another one."
  exit 1
fi
rm -f "$FRESH_COAT_DATA/run/.try"
free_kib=$(df -Pk "$FRESH_COAT_DATA" | awk 'NR == 2 { print $4 }')
if [ "${free_kib:-0}" -lt 102400 ]; then
  say "Only $((free_kib / 1024)) MiB are free on the disk of $FRESH_COAT_DATA: Fresh Coat needs 100. Make room, then start again."
  exit 1
fi

# Every running start has a file with its address here: the last one to end stops the database, and nobody before.
mine=$FRESH_COAT_DATA/run/$$
others() {
  local file
  for file in "$FRESH_COAT_DATA"/run/[0-9]*; do
    [ -e "$file" ] || continue
    if [ "$file" = "$mine" ]; then continue; fi
    if kill -0 "$(basename "$file")" 2>/dev/null; then echo "$file"; else rm -f "$file"; fi
  done
}

web=
# Programs beside the web server: the listener to the broker and, for the demo, the air it listens to.
beside=()
# keep NAME SOURCE: runs a program, and again when it dies by itself.
keep() {
  local child=
  trap 'kill -TERM "$child" 2>/dev/null; wait "$child" 2>/dev/null; exit 0' TERM INT HUP
  while true; do
    scripts/run-bundled.sh "$1" "$2" >>"${FRESH_COAT_LOG:-/dev/stderr}" 2>&1 &
    child=$!
    wait "$child" || true
    sleep 2
  done
}
ended=no
end() {
  # A second signal must not cut this short.
  trap '' INT TERM HUP
  [ "$ended" = no ] || return 0
  ended=yes
  if [ "${#beside[@]}" -gt 0 ]; then kill -TERM "${beside[@]}" 2>/dev/null || true; wait "${beside[@]}" 2>/dev/null || true; fi
  if [ -n "$web" ]; then kill -TERM "$web" 2>/dev/null || true; wait "$web" 2>/dev/null || true; fi
  exec 8>>"$FRESH_COAT_DATA/run/lock"
  flock 8
  rm -f "$mine"
  # A server that DATABASE_URL names is never stopped, nor one that ran before us, nor one that another start still uses.
  if [ "$we_own_it" = yes ] && [ -z "$(others)" ]; then env -u DATABASE_URL scripts/database.sh stop 8>&- || true; fi
}
we_own_it=no
# A server that DATABASE_URL names is somebody else's: no database of it is copied or put in the place of another.
theirs=$([ -n "${DATABASE_URL:-}" ] && echo yes || echo no)
exec 8>>"$FRESH_COAT_DATA/run/lock"
if ! flock -n 8; then
  say "Another start in this folder is at work: waiting for it."
  flock 8
fi
if [ -z "${DATABASE_URL:-}" ]; then
  # Running before any start of ours: somebody else started it, and ends it.
  if ! scripts/database.sh running 8>&-; then we_own_it=yes; fi
  for other in $(others); do if grep -q '^ours$' "$other"; then we_own_it=yes; fi; done
fi
for other in $(others); do
  say "Fresh Coat also runs in this folder at $(head -n 1 "$other")."
done
note() { printf '%s\n%s\n' "$1" "$([ "$we_own_it" = yes ] && echo ours || echo theirs)" >"$mine"; }
# What an upload left behind when its server was killed.
[ -n "$(others)" ] || rm -rf "$FRESH_COAT_DATA/incoming"
note "an address that is not known yet"
trap end EXIT
trap 'exit 0' INT TERM HUP

name=freshcoat
[ -z "${DEMO:-}" ] || name=freshcoat_demo
name=${FRESH_COAT_DB_NAME:-$name}
DATABASE_URL=$(scripts/database.sh start "$name" 8>&-)
export DATABASE_URL
if [ -n "${DEMO:-}" ] && [ "${RESET:-}" = copy ] && [ "$theirs" = no ]; then
  env -u DATABASE_URL scripts/yard.sh "$name" 8>&-
  RESET=
fi
scripts/run-bundled.sh migrate scripts/migrate.ts
[ -z "${DEMO:-}" ] || RESET=${RESET:-} scripts/run-bundled.sh demo-load demo/load.ts

port=$(node scripts/free-port.mjs "${PORT:-4290}" "$host")
address="http://$host:$port"
start_web() {
  scripts/web.sh "$host" "$port" >>"${FRESH_COAT_LOG:-/dev/stderr}" 2>&1 8>&- &
  web=$!
}
answers() { node -e "fetch('$address/api/health').then(r=>process.exit(r.ok?0:1),()=>process.exit(1))"; }
# The web server knows the stand-in broker too: its hub and its units answer to presses on the pages.
if [ -n "${DEMO:-}" ]; then
  broker_port=$(node scripts/free-port.mjs $((port < 60000 ? port + 1000 : 4390)) 127.0.0.1)
  export FRESH_COAT_STANDIN_BROKER=127.0.0.1:$broker_port
fi
start_web
for _ in $(seq 1 100); do
  answers && break
  kill -0 "$web" 2>/dev/null || { say "The web server ended before it was ready."; exit 1; }
  sleep 0.2
done
note "$address"
if [ -n "${DEMO:-}" ]; then
  PORT=$broker_port keep air demo/air.ts 8>&- &
  beside+=($!)
fi
FRESH_COAT_FIELD_PORT=$(node scripts/free-port.mjs "${FRESH_COAT_FIELD_PORT:-$((port < 60000 ? port + 2000 : 4350))}" 127.0.0.1)
export FRESH_COAT_FIELD_PORT
keep field field/main.ts 8>&- &
beside+=($!)
flock -u 8
exec 8>&-
echo "Fresh Coat is at $address${DEMO:+  (demo: Lantern Yard)}. Ctrl-C ends it."

# A web server that dies is started again; one that dies all the time is not.
deaths=0
while true; do
  began=$SECONDS
  wait "$web" && break
  [ "$ended" = no ] || break
  if [ $((SECONDS - began)) -lt 10 ]; then deaths=$((deaths + 1)); else deaths=1; fi
  if [ "$deaths" -gt 5 ]; then say "The web server ended five times in a row: see its log above."; exit 1; fi
  say "The web server ended by itself and is started again. What was saved is safe."
  sleep 1
  start_web
done
