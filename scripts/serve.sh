#!/usr/bin/env bash
# serve.sh: database, migrations, demo data if asked for, and the web server; ends all of it cleanly.
# DEMO=1 uses a database of its own for Lantern Yard; RESET=1 makes it from scratch. FRESH_COAT_DB_NAME names another one.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$root"
export NEXT_TELEMETRY_DISABLED=1 NODE_ENV=production
export FRESH_COAT_DATA=${FRESH_COAT_DATA:-$root/.data}
host=${FRESH_COAT_HOST:-127.0.0.1}
case "$host" in
  127.* | localhost | ::1) ;;
  *)
    echo "Fresh Coat listens on this computer only: opening it to the network needs a login, which is not built yet." >&2
    exit 2
    ;;
esac

# A server that DATABASE_URL names is never stopped, nor one that ran before us.
we_started_it=no
[ -n "${DATABASE_URL:-}" ] || scripts/database.sh running || we_started_it=yes
web=
ended=no
end() {
  [ "$ended" = no ] || return 0
  ended=yes
  if [ -n "$web" ]; then kill -TERM "$web" 2>/dev/null || true; wait "$web" 2>/dev/null || true; fi
  # Without the address that we exported ourselves: it would look like a server of somebody else.
  if [ "$we_started_it" = yes ]; then env -u DATABASE_URL scripts/database.sh stop || true; fi
}
trap end EXIT
trap 'exit 0' INT TERM HUP

name=freshcoat
[ -z "${DEMO:-}" ] || name=freshcoat_demo
name=${FRESH_COAT_DB_NAME:-$name}
DATABASE_URL=$(scripts/database.sh start "$name")
export DATABASE_URL
scripts/run-bundled.sh migrate scripts/migrate.ts
[ -z "${DEMO:-}" ] || RESET=${RESET:-} scripts/run-bundled.sh demo-load demo/load.ts

port=$(node scripts/free-port.mjs "${PORT:-4290}" "$host")
node node_modules/next/dist/bin/next start -H "$host" -p "$port" >>"${FRESH_COAT_LOG:-/dev/stderr}" 2>&1 &
web=$!
for _ in $(seq 1 100); do
  node -e "fetch('http://$host:$port/api/health').then(r=>process.exit(r.ok?0:1),()=>process.exit(1))" && break
  kill -0 "$web" 2>/dev/null || { echo "The web server ended before it was ready." >&2; exit 1; }
  sleep 0.2
done
echo "Fresh Coat is at http://$host:$port${DEMO:+  (demo: Lantern Yard)}. Ctrl-C ends it."
wait "$web"
