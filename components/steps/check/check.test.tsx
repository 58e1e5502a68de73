/** @jest-environment jsdom */
import { answerTo } from '@fresh-coat/core/steps/check/answered'
import { lx106, type Records } from '@fresh-coat/core/testing/a-unit'
import { lx106File } from '@fresh-coat/core/testing/an-image'
import type { StepData } from '@fresh-coat/core/unit/records'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import { act, cleanup, fireEvent, screen, within } from '@testing-library/react'
import { ask, nothing, noWorld, onTheBench, press, type } from '@/components/testing/on-the-bench'
import { CheckSay } from './say'
import { CheckSurface } from './surface'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh: jest.fn() }) }))
beforeEach(noWorld)
afterEach(cleanup)

const dio = { ...lx106File('DIO'), id: 'dio', name: 'dio.bin' }
const dout: UnitFile = {
  ...lx106File('DOUT'),
  id: 'dout',
  name: 'dout.bin',
  firmware: 'Plainsong',
  release: '9.4.1/full',
}
const around: Records = {
  identify: lx106,
  arrive: { route: 'wires-in-place' },
  backup: { skip: { code: 'owner', reason: 'the owner wants none' } },
} as Records
/** The unit has the image that its record names, as the server gives it. */
const lay = (data: Partial<StepData['check']> = {}) =>
  onTheBench('check', CheckSurface, {
    data,
    around,
    choices: { images: [dio, dout] },
    view: ({ fileId }) => ({ image: [dio, dout].find((f) => f.id === fileId) ?? null }),
  })
const choose = (id: string) =>
  act(async () => void fireEvent.change(screen.getByLabelText('From the vault'), { target: { value: id } }))

describe('an image from the vault', () => {
  test('comes with what the vault says of it, and with the place where such a file belongs', async () => {
    const bench = lay()
    expect(ask()).toBe('Which image goes in?')
    await choose('dout')
    expect(bench.record()).toMatchObject({ fileId: 'dout', firmware: 'Plainsong', firmwareVersion: '9.4.1', offset: 0 })
  })
  test('what was said of another file does not hold for one that nobody described', async () => {
    const bench = lay({
      fileId: 'dout',
      firmware: 'Plainsong',
      firmwareVersion: '9.4.1',
      offset: 0,
      answered: ['x: y'],
    })
    await press('Another image')
    await choose('dio')
    expect(bench.record()).toMatchObject({ fileId: 'dio', firmware: '', firmwareVersion: '', answered: [] })
  })
  test('a place that was typed is not moved back to where it belongs', async () => {
    const bench = lay({ fileId: 'dout', offset: 0x1000 })
    expect(bench.record().offset).toBe(0x1000)
  })
})

describe('warnings', () => {
  /** Answers until nothing is asked any more; what was asked. */
  async function answerAll(): Promise<string[]> {
    const asked: string[] = []
    for (let i = 0; i < 8 && screen.queryByRole('button', { name: /I know, and go on/ }); i++) {
      asked.push(ask())
      await press(/I know, and go on/)
    }
    return asked
  }
  test('are asked one at a time, each kept with its words, until it may go in', async () => {
    const bench = lay({ fileId: 'dio', offset: 0 })
    const asked = await answerAll()
    expect(asked.length).toBeGreaterThan(1)
    expect(new Set(asked).size).toBe(asked.length)
    expect(bench.record().answered.map((a) => a.slice(a.indexOf(': ') + 2))).toEqual(asked)
    expect(screen.getByText('The plan')).toBeTruthy()
  })
  test('one that says something else since is asked anew', async () => {
    const bench = lay({ fileId: 'dio', offset: 0 })
    await answerAll()
    const { answered } = bench.record()
    await bench.put({ answered: answered.map((a, i) => (i === 0 ? `${a} of another chip` : a)) })
    expect(screen.getByRole('button', { name: /I know, and go on/ })).toBeTruthy()
  })
  test('one that was answered can be asked again', async () => {
    const bench = lay({ fileId: 'dio', offset: 0 })
    const asked = await answerAll()
    await press(/^Answered: /)
    const [again] = within(screen.getByRole('dialog')).getAllByRole('button', { name: 'Ask me again' })
    await act(async () => void fireEvent.click(again as Element))
    expect(bench.record().answered).toHaveLength(asked.length - 1)
    expect(document.body.textContent).toContain(asked[0])
    expect(screen.getByRole('button', { name: /I know, and go on/, hidden: true })).toBeTruthy()
  })
  test('as many are kept as a record holds: the oldest goes, and what is written can be saved', async () => {
    const many = Array.from({ length: 50 }, (_, i) => answerTo({ code: 'old', message: `number ${i}` }))
    const bench = lay({ fileId: 'dio', offset: 0, answered: many })
    await press(/I know, and go on/)
    expect(bench.record().answered).toHaveLength(50)
    expect(bench.record().answered[0]).toBe(many[1])
  })
  test('what stops it cannot be answered away', () => {
    lay({ fileId: 'dout', offset: 0x1234 })
    expect(screen.getByText('It must not go in')).toBeTruthy()
    expect(screen.queryByRole('button', { name: /I know, and go on/ })).toBeNull()
    expect(screen.queryByText('The plan')).toBeNull()
  })
})

describe('several files that go in together', () => {
  const part = (n: number, offset: number | null) => ({
    fileId: `f${n}`,
    name: `part${n}.bin`,
    bytes: 4096,
    sha256: String(n),
    offset,
  })
  const set = (parts: ReturnType<typeof part>[]) => onTheBench('check', CheckSurface, { data: { set: parts }, around })
  test('a file whose place nobody knows is asked about before anything is judged', async () => {
    const bench = set([part(1, 0), part(2, null)])
    expect(ask()).toBe('Where does part2.bin go?')
    expect(screen.queryByRole('button', { name: /Make one file/ })).toBeNull()
    await type('part2.bin', '0x10000')
    expect(bench.record().set.map((p) => p.offset)).toEqual([0, 0x10000])
    expect(global.fetch).toHaveBeenCalledWith(expect.stringContaining('part=f2%4065536'))
  })
  test('one file is no set; the others can be put away and come back to one image', async () => {
    const bench = set([part(1, 0), part(2, 0x1000)])
    await press('Leave part2.bin out')
    expect(ask()).toBe('One file is no set')
    await press('Choose one image instead')
    await press('Put the set away')
    expect(bench.record().set).toEqual([])
    expect(ask()).toBe('Which image goes in?')
  })
  test('made one file only when the judge says that they fit', async () => {
    global.fetch = jest.fn(async () => ({
      ok: true,
      json: async () => ({ ok: true, value: { parts: [], findings: [], merged: { bytes: 8192 } } }),
    })) as never
    const bench = set([part(1, 0), part(2, 0x1000)])
    await act(async () => void (await new Promise((r) => setTimeout(r, 30))))
    expect(ask()).toBe('They fit together')
    await press(/Make one file of them/)
    expect(bench.sent).toEqual([['merge-set', { unitId: 'u1', version: 1 }]])
  })
})

test('a rate of nought, or one with a comma, is no rate', async () => {
  const bench = onTheBench('check', ({ record }) => (
    <CheckSay record={record} choices={nothing} version={null} expected={null} />
  ))
  await press('Rate: change')
  const typeRate = (value: string) =>
    act(async () => void fireEvent.change(screen.getByRole('textbox', { name: 'Rate' }), { target: { value } }))
  await typeRate('0')
  expect(bench.record().baud).toBe(115200)
  await typeRate('921600')
  expect(bench.record().baud).toBe(921600)
})
