import { openBrowser } from '../scripts/browser'
import { base, command } from './server'
import { Tally } from './tally'

/** Names as poison: whatever people, or others, call things is text on every page. */

const poison = [
  '<img src=x onerror="window.hit=1">',
  '"><script>window.hit=1</script>',
  'javascript:window.hit=1//\'"',
  '{{constructor.constructor("window.hit=1")()}}',
  '\u202eeman eht\u202c of it',
  'a\u0301\u0302\u0303\u0304'.repeat(25),
  'W'.repeat(120),
  '](javascript:window.hit=1)',
  '__proto__',
  "'; drop table unit; --",
  '=cmd|calc!A1',
  '\u2028line\u2029',
]

export async function poisonedNames(): Promise<Tally> {
  const tally = new Tally('poisoned names in the browser', 15_000)
  const browser = await openBrowser()
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  const said: string[] = []
  page.on('pageerror', (cause) => said.push(cause.message))
  page.on('dialog', (dialog) => {
    said.push(`a dialog: ${dialog.message()}`)
    void dialog.dismiss()
  })
  let number = 9100
  for (const name of poison) {
    const board = await command('create-board', {
      maker: name.slice(0, 100),
      product: name.slice(0, 100),
      revision: String(number),
    })
    const unit = await command('create-unit', {
      number: ++number,
      name: name.slice(0, 120),
      place: name.slice(0, 120),
      boardId: board.value?.id ?? null,
    })
    if (!unit.ok) {
      tally.note(`making “${name}”`, 0, JSON.stringify(unit).slice(0, 200))
      continue
    }
    await command('add-hub', { name: name.slice(0, 100) })
    await command('keep-secret', {
      unitId: unit.value.id,
      name: name.slice(0, 100),
      keptIn: name.slice(0, 100),
      value: 'x',
    })
    const steps = ['arrive', 'identify', 'hub', 'name', 'watch']
    for (const path of [
      '/',
      '/units',
      `/units?q=${encodeURIComponent(name.slice(0, 60))}`,
      '/boards',
      `/boards/${board.value?.id}`,
      '/network',
      ...steps.map((s) => `/units/${number}/${s}`),
    ]) {
      said.length = 0
      const from = performance.now()
      await page.goto(`${base}${path}`, { waitUntil: 'load' })
      const hit = await page.evaluate(() => (window as unknown as { hit?: number }).hit ?? 0)
      const wide = await page.evaluate(
        () => document.documentElement.scrollWidth > document.documentElement.clientWidth + 1,
      )
      const wrong = hit ? 'it ran' : said[0] ? `the page threw: ${said[0]}` : wide ? 'it scrolls sideways' : null
      tally.note(`“${name.slice(0, 30)}” at ${path.slice(0, 60)}`, performance.now() - from, wrong)
    }
  }
  await browser.close()
  return tally
}
