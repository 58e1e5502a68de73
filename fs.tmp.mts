import { faultsOf } from './e2e/first-screen'
import { openBrowser } from './scripts/browser'

const b = await openBrowser()
const c = await b.newContext({
  viewport: { width: 1280, height: 800 },
  reducedMotion: 'reduce',
  baseURL: 'http://127.0.0.1:4395',
})
const p = await c.newPage()
p.on('pageerror', (e) => console.log('ERR', p.url(), e.message))
const all = process.argv.slice(2).map(Number)
const t = Date.now()
for (const n of all) for (const f of await faultsOf(p, n)) console.log(f)
console.log((Date.now() - t) / 1000, 's')
await b.close()
