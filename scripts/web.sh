#!/usr/bin/env bash
# web.sh HOST PORT: the web server. A page is made of many small things that live for as long as it takes: with room for them, fewer pauses.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
exec node --max-semi-space-size=64 scripts/web.mjs "$1" "$2"
