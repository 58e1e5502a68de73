import { type AddressesShown, addressBoard, isDrawable } from './site-board'
import { noSitePlan, type SitePlan, type SiteUnit } from './site-plan'

const site: SitePlan = { ...noSitePlan, subnet: '192.168.71.0/24', gateway: '192.168.71.1' }
const unit = (number: number, more: Partial<SiteUnit> = {}): SiteUnit => ({
  id: `u${number}`,
  number,
  name: `Lamp ${number}`,
  place: '',
  mac: `b8:3c:d0:77:${(number >> 8).toString(16).padStart(2, '0')}:${(number & 255).toString(16).padStart(2, '0')}`,
  address: '',
  slug: `lamp-${number}`,
  ...more,
})
const most: AddressesShown = { rows: 3, found: 2, lines: 4, inWords: 2 }
const units = (n: number) => Array.from({ length: n }, (_, i) => unit(i + 1))
const board = (given: SiteUnit[], of = site) => {
  const found = addressBoard(of, given, most)
  if (!found) throw new Error('no board')
  return found
}

test('of many rows those that move stand first', () => {
  const still = [2, 3, 4, 5].map((n) => unit(n, { address: `192.168.71.${n}` }))
  const { rows, all, moves } = board([...still, unit(9)])
  expect(rows.map((r) => [r.number, r.now, r.planned])).toEqual([
    [9, null, '192.168.71.6'],
    [2, '192.168.71.2', '192.168.71.2'],
    [3, '192.168.71.3', '192.168.71.3'],
  ])
  expect([all, moves]).toEqual([5, 1])
})

test('every unit with a place is drawn, though its row is not shown; in a network that is not drawn none is', () => {
  expect(board(units(9)).drawn).toHaveLength(9)
  expect(board(units(9), { ...site, subnet: '10.0.0.0/8', gateway: '10.0.0.1' }).drawn).toEqual([])
  expect([isDrawable('10.0.0.0/22'), isDrawable('10.0.0.0/21'), isDrawable('none')]).toEqual([true, false, false])
})

test('more units than addresses: alike findings are one, with whose it is', () => {
  const { found, all, drawn } = board(units(300))
  expect([all, drawn.length]).toEqual([300, 253])
  expect(found).toHaveLength(1)
  expect(found[0]?.message).toBe('254 Lamp 254: No address is left for it. 46 more of this kind.')
})

test('what the router is told begins here, whole lines of it, and says how many there are', () => {
  const { exports } = board(units(9))
  expect(exports.dnsmasq.lines).toBe(9)
  expect(exports.dnsmasq.text.split('\n')).toHaveLength(5)
  expect(exports.dnsmasq.text.endsWith('lamp-4,12h\n')).toBe(true)
  expect(board(units(2)).exports.dnsmasq).toMatchObject({ lines: 2 })
  expect(board([]).exports.dnsmasq).toEqual({ text: '', lines: 0 })
})

test('those without a MAC wait; without a network there is nothing, with a wrong one its fault and who waits', () => {
  const given = [unit(1), ...[2, 3, 4].map((n) => unit(n, { mac: '' }))]
  expect(board(given).waiting).toEqual({ all: 3, numbers: [2, 3] })
  expect(addressBoard(noSitePlan, given, most)).toBeNull()
  const wrong = board(given, { ...site, gateway: '10.0.0.1' })
  expect(wrong.fault).toMatch(/outside the network/)
  expect([wrong.all, wrong.waiting.all]).toEqual([0, 3])
})
