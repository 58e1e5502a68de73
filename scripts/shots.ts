import { mkdirSync } from 'node:fs'
import { hands, plugIn, plugInWith } from '../e2e/virtual-port'
import { openBrowser } from './browser'

/** The main views, each with its route on the demo data. */
const views: Record<string, string> = {
  bench: '/',
  units: '/units',
  identify: '/units/23/identify',
  pads: '/units/13/pads',
  wire: '/units/17/wire',
  backup: '/units/9/backup',
  check: '/units/18/check',
  join: '/units/15/join',
  pins: '/units/19/pins',
  behaviour: '/units/1/behaviour',
  meter: '/units/3/meter',
  hub: '/units/6/hub',
  watch: '/units/1/watch',
  board: '/boards',
  images: '/images',
  network: '/network',
  updates: '/network/updates',
  practice: '/practice',
  kit: '/kit',
}

const options = new Map<string, string>()
const words: string[] = []
for (let i = 2; i < process.argv.length; i++) {
  const word = process.argv[i] as string
  if (word.startsWith('--')) options.set(word.slice(2), process.argv[++i] ?? '')
  else words.push(word)
}
const base = process.env.FRESH_COAT_URL as string
const route = options.get('route')
const wanted = route
  ? [['scratch', route] as const]
  : Object.entries(views).filter(([name]) => words.length === 0 || words.includes(name))
if (wanted.length === 0) throw new Error(`Views: ${Object.keys(views).join(', ')}`)
const [width, height] = (options.get('size') ?? '1280x800').split('x').map(Number) as [number, number]
const theme = options.get('theme') ?? 'day'
const folder = route || options.has('size') || options.has('theme') ? '.scratch' : 'docs/screenshots'
mkdirSync(folder, { recursive: true })

const browser = await openBrowser()
const context = await browser.newContext({ viewport: { width, height }, reducedMotion: 'reduce' })
await context.addInitScript((t) => localStorage.setItem('fresh-coat:theme', t), theme)
const page = await context.newPage()

/** What was read of it once stands in a virtual chip, and is being read. */
const chip = { family: 'LX106', flashBytes: 2 ** 20, flashId: '684014', strap: 'held', mac: '02:4c:59:10:20:09' }
const readMs = 25_000
async function readOverLink(): Promise<void> {
  const once = await page.evaluate(async () => {
    const answer = await (await fetch('/api/units/9/backup')).json()
    return (answer.value.view.files as { id: string; kind: string }[]).find((f) => f.kind === 'dump')?.id ?? ''
  })
  await plugInWith(page, chip, once)
  // Its gates are asked on the day of the picture, as on every other.
  await page.getByRole('button', { name: /^Unplugged/ }).click()
  await page.locator('[data-part="card"] input').first().fill('0.4')
  await page.getByRole('button', { name: /^Measured before/ }).click()
  await page.getByRole('button', { name: /Read it here/ }).click()
  await hands(page, 'hold')
  await page.waitForTimeout(readMs)
}
/** A search for a relay and a light, in the middle of it. */
async function searchPins(): Promise<void> {
  const card = page.locator('[data-part="card"]')
  await card.getByRole('button', { name: /A bench supply/ }).click()
  await card.locator('input').first().fill('150')
  await card.getByRole('button', { name: /Limit set/ }).click()
  await card.getByRole('button', { name: /Find pins by trials/ }).click()
  for (const what of ['Relays that click', 'Lights, on or off'])
    await card.getByRole('button', { name: `${what}: one more` }).click()
  await card.getByRole('button', { name: /^Begin/ }).click()
  for (const none of ['All read high', 'All read low', 'No more buttons'])
    await card.getByRole('button', { name: new RegExp(`^${none}`) }).click()
  let before: string[] = []
  for (let i = 0; i < 5; i++) {
    const on: string[] = ((await card.getByRole('heading').first().textContent()) ?? '').match(/GPIO\d+/g) ?? []
    const click = on.includes('GPIO12') !== before.includes('GPIO12')
    const light = !on.includes('GPIO13')
    before = on
    await page.keyboard.press(click && light ? '3' : click ? '1' : light ? '2' : '4')
    await page.waitForTimeout(400)
  }
}
if (wanted.some(([name]) => name === 'backup')) await plugIn(page, chip)
for (const [name, path] of wanted) {
  await page.goto(base + path, { waitUntil: 'networkidle' })
  if (name === 'board') {
    await page.getByRole('link', { name: /Pellworth P1 rev C/ }).click()
    await page.waitForURL(/boards\/.+/)
    await page.waitForLoadState('networkidle')
  }
  if (name === 'backup') await readOverLink()
  if (name === 'pins') await searchPins()
  if (name === 'behaviour') await page.getByRole('button', { name: 'power cut while on' }).click()
  const y = Number(options.get('scroll') ?? 0)
  if (y > 0) await page.evaluate((to) => window.scrollTo(0, to), y)
  const file = options.get('out') ?? `${folder}/${name}${folder === '.scratch' ? `-${width}-${theme}` : ''}.png`
  await page.screenshot({ path: file, fullPage: options.get('full') === 'yes' })
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)
  console.log(`${file}${wide > 0 ? `  SCROLLS SIDEWAYS by ${wide} px` : ''}`)
}
await browser.close()
