/** @jest-environment jsdom */

import type { Records } from '@fresh-coat/core/testing/a-unit'
import type { StepData } from '@fresh-coat/core/unit/records'
import type { Adapter } from '@fresh-coat/core/unit/view'
import { act, cleanup, fireEvent, screen, within } from '@testing-library/react'
import { ask, noWorld, onTheBench, press, type } from '@/components/testing/on-the-bench'
import { Divider } from './divider'
import { EntryLog } from './entry-log'
import { WireSurface } from './surface'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
beforeEach(noWorld)
afterEach(cleanup)

const adapter = (id: string, name: string, more: Partial<Adapter> = {}): Adapter =>
  ({
    id,
    name,
    pins: ['GND', 'CTS', '3V3', 'TX', 'RX', 'DTR'],
    logicV: 3.3,
    max3v3Ma: 500,
    labelledFrom: 'adapter',
    ...more,
  }) as Adapter
const kit = [adapter('a1', 'Little bridge'), adapter('a2', 'Second bridge', { pins: ['3V3', 'TX', 'RX', 'GND'] })]
const around: Records = {
  identify: { decision: { family: 'LX106', reason: 'read' } },
  pads: { pads: ['3V3', 'RX', 'TX', 'GND'], bootBy: 'button' } as never,
}
/** The unit has the adapter that its record names, as the server gives it. */
function lay(wire: Partial<StepData['wire']> = {}, more: { around?: Records; adapters?: Adapter[] } = {}) {
  const adapters = more.adapters ?? kit
  return onTheBench('wire', WireSurface, {
    data: wire,
    around: { ...around, ...more.around },
    choices: { adapters },
    view: ({ adapterId }: StepData['wire']) => ({ adapter: adapters.find((a) => a.id === adapterId) ?? null }),
  })
}
const chosen = { adapterId: 'a1', entry: 'button' as const }

describe('the leads, one after the other', () => {
  test('adapter, way in, then each lead: ground first, the supply last, and the adapter out of the computer', async () => {
    const bench = lay()
    expect(ask()).toBe('Which adapter?')
    await press(/Little bridge/)
    expect(ask()).toBe('Into download mode by what?')
    await press(/suits what is known/)
    const asked: string[] = []
    for (let i = 0; i < 6 && /^Adapter /.test(ask()); i++) {
      asked.push(ask())
      if (i === 0) expect(screen.getByText(/The adapter is not in the computer yet/)).toBeTruthy()
      await press(/It is on/)
    }
    expect(asked.map((a) => a.replace(/,.*/, ''))).toEqual(
      ['Adapter GND to pad GND', 'Adapter TX to pad RX', 'Adapter RX to pad TX', 'Adapter 3V3 to pad 3V3'].sort(
        (x, y) => asked.findIndex((a) => a.startsWith(x)) - asked.findIndex((a) => a.startsWith(y)),
      ),
    )
    expect(asked[0]).toMatch(/GND to pad GND/)
    expect(asked.at(-1)).toMatch(/3V3 to pad 3V3/)
    expect(new Set(bench.record().joined)).toEqual(new Set(['GND', 'RX', 'TX', '3V3']))
  })
  test('another adapter: its leads are asked for anew, and the words say why', async () => {
    const bench = lay(chosen)
    for (let i = 0; i < 4; i++) await press(/It is on/)
    await bench.put({ adapterId: 'a2' })
    expect(ask()).toMatch(/^Adapter GND to pad GND/)
    expect(screen.getByText(/It was on elsewhere before the adapter or the row changed/)).toBeTruthy()
    await bench.put({ adapterId: 'a1' })
    expect(ask()).not.toMatch(/^Adapter /)
  })
  test('all that are left are said at once; where one went elsewhere before, each is looked at by itself', async () => {
    const bench = lay(chosen)
    await press(/It is on/)
    await press(/The other 3 are on too/)
    expect(bench.record().joined).toHaveLength(4)
    expect(ask()).not.toMatch(/^Adapter /)
    await bench.put({ adapterId: 'a2' })
    expect(screen.queryByRole('button', { name: /are on/ })).toBeNull()
    await press(/It is on/)
    expect(screen.queryByRole('button', { name: /are on/ })).toBeNull()
  })
  test('in words each lead says whether it is on', async () => {
    lay(chosen)
    await press(/It is on/)
    await press(/in words/)
    const list = within(screen.getByRole('list', { name: 'Leads, in the order to connect' }))
    expect(list.getAllByRole('listitem').map((l) => /: on$/.test(l.textContent ?? ''))).toEqual([
      true,
      false,
      false,
      false,
    ])
  })
  test('an adapter of 5 V stops it before the first lead, until the divider is there', async () => {
    const five = adapter('a5', 'Old one', { logicV: 5 })
    const bench = lay({ adapterId: 'a5', entry: 'button' }, { adapters: [five] })
    expect(screen.getByText('This first')).toBeTruthy()
    expect(screen.queryByRole('button', { name: /It is on/ })).toBeNull()
    await bench.put({ divider: { rTop: 18_000, rBottom: 33_000 } })
    expect(ask()).toMatch(/^Adapter GND/)
  })
  test('a bare module is tied before any lead brings power', async () => {
    const bench = lay(chosen, { around: { arrive: { route: 'module-off' } as never } })
    const first = ask()
    expect(first).not.toMatch(/^Adapter /)
    for (let i = 0; i < 8 && screen.queryByRole('button', { name: /It is tied/ }); i++) await press(/It is tied/)
    expect(bench.record().ties.length).toBeGreaterThan(0)
    expect(ask()).toMatch(/^Adapter GND/)
  })
})

describe('a divider in front of RX', () => {
  const lay5 = () =>
    onTheBench('wire', (props) => <Divider view={props.view} record={props.record} />, {
      view: { adapter: adapter('a5', 'Old one', { logicV: 5 }) },
    })
  test('a pair of the series is taken by a press, and judged at the rate of writing', async () => {
    const bench = lay5()
    const [first] = screen.getAllByRole('button', { name: /Ω/ })
    await act(async () => void fireEvent.click(first as Element))
    const { divider } = bench.record()
    expect(divider).not.toBeNull()
    const v = (5 * (divider?.rBottom ?? 0)) / ((divider?.rTop ?? 1) + (divider?.rBottom ?? 0))
    expect(screen.getByText(new RegExp(`${v.toFixed(2)} V reach RX`))).toBeTruthy()
  })
  test('nought is no resistor: what was there stays', async () => {
    const bench = lay5()
    const [first] = screen.getAllByRole('button', { name: /Ω/ })
    await act(async () => void fireEvent.click(first as Element))
    const before = bench.record().divider
    await type('From RX to GND', '0')
    expect(bench.record().divider).toEqual(before)
  })
})

describe('what came out of TX', () => {
  const file = (bytes: number) => {
    const one = new File([new Uint8Array(bytes).fill(0x41)], 'capture.bin')
    // A page that is none cannot read a file.
    one.arrayBuffer = async () => new Uint8Array(bytes).fill(0x41).buffer
    return one
  }
  const choose = (one: File) =>
    act(async () => {
      fireEvent.change(document.querySelector('input[type=file]') as Element, { target: { files: [one] } })
      await new Promise((r) => setTimeout(r, 20))
    })
  test('an empty file and one far too long are refused with what to do, and nothing is taken', async () => {
    const bench = onTheBench('wire', EntryLog)
    await choose(file(0))
    expect(screen.getByRole('alert').textContent).toMatch(/The file is empty\. Nothing was taken/)
    await choose(file(200_001))
    expect(screen.getByRole('alert').textContent).toMatch(/one reset has far fewer/)
    expect(bench.record().logHex).toBe('')
  })
  test('bytes of a capture take the place of the text, and can be left out again', async () => {
    const bench = onTheBench('wire', EntryLog, { data: { log: 'old' } })
    await choose(file(3))
    expect(bench.record()).toMatchObject({ log: '', logHex: '414141' })
    await press('Leave them out')
    expect(bench.record().logHex).toBe('')
  })
  test('a boot text that says the family is offered as evidence, and only by a press', async () => {
    const bench = onTheBench('wire', EntryLog, {
      data: { logBaud: 74880, log: ' ets Jan  8 2013,rst cause:2, boot mode:(1,6)' },
    })
    const take = screen.queryByRole('button', { name: /Take this text as evidence/ })
    if (!take) throw new Error(`not offered: ${document.body.textContent}`)
    expect(bench.sent).toEqual([])
    await act(async () => void fireEvent.click(take))
    expect(bench.sent).toEqual([['add-evidence', { unitId: 'u1', kind: 'boot_text', value: 'cause_74880' }]])
  })
})
