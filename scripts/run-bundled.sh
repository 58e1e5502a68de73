#!/usr/bin/env bash
# run-bundled.sh NAME SOURCE [argument…]: runs the bundle of a program, or its source when the bundle is missing or older.
set -eu
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
. "$root/scripts/path.sh"
bundle=$root/.build/$1.mjs
source=$2
shift 2
if [ -f "$bundle" ] && [ -z "$(find "$root/core/src" "$root/cli" "$root/standins" "$root/link" "$root/server" "$root/demo" "$root/field" "$root/scripts" -name '*.ts' ! -name '*.test.ts' -newer "$bundle" -print -quit)" ]; then
  # Packages lie in the bundle: what Node.js thinks of their calls is nothing for who starts it.
  exec node --no-deprecation "$bundle" "$@"
fi
exec node --import "file://$root/node_modules/tsx/dist/loader.mjs" "$root/$source" "$@"
