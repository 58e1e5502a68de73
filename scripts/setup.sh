#!/usr/bin/env bash
# setup.sh packages | bundle | build | chromium | peers: what bin/start and bin/test need, quick when it is there already.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$root"
export NEXT_TELEMETRY_DISABLED=1
. scripts/path.sh
say() { echo "$@" >&2; }

case "$1" in
  packages)
    if ! command -v node >/dev/null || [ "$(node -p 'process.versions.node.split(".")[0]')" -lt 20 ]; then
      say "Fresh Coat needs Node.js 20 or later. On Debian: sudo apt-get install nodejs npm"
      exit 3
    fi
    if [ ! -f node_modules/.fresh-coat ] || [ package-lock.json -nt node_modules/.fresh-coat ]; then
      say "Installing packages (npm install)…"
      # Not npm ci: where the registry lacks builds for other systems, it refuses a lock file that names them.
      npm install --no-audit --no-fund --loglevel=error >&2
      # The Node.js among them is for most Linux machines, not for all.
      [ ! -e node_modules/.bin/node ] || node_modules/.bin/node -v >/dev/null 2>&1 || rm node_modules/.bin/node
      touch node_modules/.fresh-coat
    fi
    ;;
  bundle)
    if [ ! -f .build/fresh-coat.mjs ] || [ -n "$(find core/src cli server demo field standins link scripts workers package-lock.json -newer .build/fresh-coat.mjs -type f -not -name '*.test.*' -print -quit)" ]; then
      node scripts/bundle.mjs >&2
    fi
    ;;
  build)
    sources="app components core/src server standins link field workers package-lock.json next.config.ts postcss.config.mjs tsconfig.json"
    if [ ! -f .next/BUILD_ID ] || [ -n "$(find $sources -not -name '*.test.*' -newer .next/BUILD_ID -type f -print -quit)" ]; then
      say "Building…"
      # The type checker's cache outlives edits to tsconfig.
      rm -f .next/cache/.tsbuildinfo
      node node_modules/next/dist/bin/next build >&2
    fi
    ;;
  chromium)
    # Without the windows that nobody sees it takes a quarter less of the tests' time; the whole browser does as well.
    if [ -z "${CHROMIUM:-}" ] && [ ! -x /usr/bin/chromium-headless-shell ]; then
      if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
        say "Installing Chromium from Debian's packages…"
        export DEBIAN_FRONTEND=noninteractive
        if ! { apt-get update && apt-get install -y --no-install-recommends chromium-headless-shell; } >&2; then
          # Without a network, or where Debian does not have it: the whole one, if it is there or can be had.
          [ -x /usr/bin/chromium ] || apt-get install -y chromium >&2
        fi
      elif [ ! -x /usr/bin/chromium ]; then
        say "The browser tests need Chromium. Install it: sudo apt-get install chromium-headless-shell"
        say "or name one you have: CHROMIUM=/path/to/chromium bin/test"
        exit 3
      fi
    fi
    ;;
  peers)
    # Programs of others that the tests speak to: a broker, and the checkers of two address servers.
    missing=()
    command -v mosquitto >/dev/null || [ -x /usr/sbin/mosquitto ] || missing+=(mosquitto)
    [ -x /usr/sbin/dnsmasq ] || missing+=(dnsmasq-base)
    [ -x /usr/sbin/dhcpd ] || missing+=(isc-dhcp-server)
    command -v openssl >/dev/null || missing+=(openssl)
    if [ "${#missing[@]}" -gt 0 ]; then
      if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
        say "Installing ${missing[*]} from Debian's packages…"
        apt-get update >&2 && DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends "${missing[@]}" >&2
      else
        say "The tests need ${missing[*]}. Install them: sudo apt-get install --no-install-recommends ${missing[*]}"
        exit 3
      fi
    fi
    ;;
  *) say "usage: setup.sh packages | bundle | build | chromium | peers"; exit 2 ;;
esac
