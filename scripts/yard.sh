#!/usr/bin/env bash
# yard.sh NAME: a fresh Lantern Yard in the database NAME. It is made once a day for each version of it and copied from then on: servers of
# tests start one after the other, and to make it takes longer than all else of a start.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$root"
. scripts/path.sh
# What stands in its place goes: no name of records that somebody keeps.
case "$1" in
  freshcoat_demo_[0-9]) ;;
  *) echo "A copy of Lantern Yard replaces the database of a test only (freshcoat_demo_0 to 9), not “$1”." >&2; exit 2 ;;
esac
# The bundle names its parts by what is in them: its own sum is the sum of all. What is new in the story is so for a day.
stamp=${FRESH_COAT_DATA:-.data}/yard.stamp
now="$(date +%F) $(sha256sum <.build/demo-load.mjs)"
if [ "$(cat "$stamp" 2>/dev/null)" != "$now" ] || ! scripts/database.sh has yard; then
  rm -f "$stamp"
  DATABASE_URL=$(scripts/database.sh start yard)
  export DATABASE_URL
  scripts/run-bundled.sh migrate scripts/migrate.ts
  RESET=1 scripts/run-bundled.sh demo-load demo/load.ts
  unset DATABASE_URL
  # Only once it is whole.
  echo "$now" >"$stamp"
fi
scripts/database.sh copy yard "$1"
