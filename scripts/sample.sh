#!/usr/bin/env bash
# sample.sh: Lantern Yard with 45 seconds of its air, as this version stores it, into server/db/samples. Run before a migration is added: what
# people have by then has to open afterwards. Large bytes of files are left out.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$root"
. scripts/path.sh
export FRESH_COAT_DATA=$root/.data/test
unset DATABASE_URL
last=$(basename "$(ls server/db/migrations/*.sql | tail -n 1)" .sql)
into=server/db/samples/$(echo "$last" | tr _ -).sql.gz
scripts/setup.sh bundle
we_own_it=no
scripts/database.sh running || we_own_it=yes
DATABASE_URL=$(scripts/database.sh start sample)
export DATABASE_URL
beside=()
end() {
  if [ "${#beside[@]}" -gt 0 ]; then kill "${beside[@]}" 2>/dev/null || true; wait "${beside[@]}" 2>/dev/null || true; fi
  if [ "$we_own_it" = yes ]; then env -u DATABASE_URL scripts/database.sh stop; fi
}
trap end EXIT
scripts/run-bundled.sh migrate scripts/migrate.ts
RESET=1 scripts/run-bundled.sh demo-load demo/load.ts
port=$(node scripts/free-port.mjs 5390 127.0.0.1)
PORT=$port scripts/run-bundled.sh air demo/air.ts >"$FRESH_COAT_DATA/sample.log" 2>&1 &
beside+=($!)
sleep 4
FRESH_COAT_STANDIN_BROKER=127.0.0.1:$port FRESH_COAT_FIELD_PORT=$(node scripts/free-port.mjs 5490 127.0.0.1) \
  scripts/run-bundled.sh field field/main.ts >>"$FRESH_COAT_DATA/sample.log" 2>&1 &
beside+=($!)
sleep 45
psql=$(ls /usr/lib/postgresql/*/bin/psql | tail -n 1)
"$psql" "$DATABASE_URL" -qAtc 'delete from blob_chunk where sha256 in (select sha256 from blob where bytes > 20000)'
# What only psql understands is left out: the tests send the file as it is.
"$(dirname "$psql")/pg_dump" "$DATABASE_URL" --no-owner --no-privileges --inserts --rows-per-insert=500 |
  grep -vE '^\\(un)?restrict ' | gzip -9n >"$into"
ls -l "$into"
