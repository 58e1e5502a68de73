#!/usr/bin/env bash
# web.sh HOST PORT: the web server. What a page is made of lives for as long as it takes: more room than this for it makes rarer pauses, but of
# 15 ms instead of 5, which is what one page in twenty then takes longer.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$root"
. scripts/path.sh
exec node --max-semi-space-size=16 scripts/web.mjs "$1" "$2"
