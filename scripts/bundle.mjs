// Joins the programs that run outside the web server into one file each: starting them from source takes three times as long.
import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { build } from 'esbuild'

await build({
  entryPoints: {
    'fresh-coat': 'cli/main.ts',
    migrate: 'scripts/migrate.ts',
    'demo-load': 'demo/load.ts',
    inspect: 'workers/inspect.thread.ts',
    field: 'field/main.ts',
    air: 'demo/air.ts',
  },
  outdir: '.build',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  // A command loads what it needs: shared parts lie beside it.
  splitting: true,
  chunkNames: 'parts/[name]-[hash]',
  platform: 'node',
  format: 'esm',
  target: 'node20',
  minify: true,
  keepNames: true,
  // The database driver looks for an optional native part of itself; the pool starts its threads from a file beside its own.
  external: ['pg-native', 'piscina', 'serialport'],
  banner: {
    js: "import { createRequire as $require } from 'node:module'; const require = $require(import.meta.url);",
  },
  logLevel: 'warning',
})

// The list of commands is kept as it is printed: starting node alone takes longer than a person wants to wait for it.
writeFileSync('.build/help.txt', execFileSync(process.execPath, ['.build/fresh-coat.mjs', 'help']))
