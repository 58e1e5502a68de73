/** @jest-environment jsdom */
import { identify } from '@fresh-coat/core/identify/identify'
import type { StepData } from '@fresh-coat/core/unit/records'
import { act, cleanup, fireEvent, screen, within } from '@testing-library/react'
import { ask, askAbout, noWorld, onTheBench, press, type } from '@/components/testing/on-the-bench'
import { Decide, MarkingCounts } from './decide'
import { IdentifySurface } from './surface'
import { kindAsks, kindWords, valueWord } from './words'

jest.mock('next/dynamic', () => jest.requireActual('@/components/testing/at-once'))
beforeEach(noWorld)
afterEach(cleanup)

type Data = StepData['identify']
const lay = (data: Partial<Data> = {}, more: object = {}) => onTheBench('identify', IdentifySurface, { data, ...more })
/** The check that the card asks about. */
const kindAsked = () => Object.keys(kindAsks).find((k) => (kindAsks[k as never] as { ask: string }).ask === ask())

describe('the checks, the one that tells most first', () => {
  test('the card asks for what core says tells most, after every answer', async () => {
    const bench = lay()
    for (let i = 0; i < 4; i++) {
      const found = identify({ evidence: bench.record().evidence })
      if (!found.ok || found.value.next[0] === undefined || found.value.next[0].bits < 0.005) break
      const [best] = found.value.next
      expect(kindAsked()).toBe(best.kind)
      await act(async () => void fireEvent.click(document.querySelector('[data-key="1"]') as Element))
      expect(bench.record().evidence.at(-1)?.kind).toBe(best.kind)
    }
    expect(bench.record().evidence.length).toBeGreaterThan(1)
  })
  test('an answer that is changed takes the place of the first; how sure one is stays with it', async () => {
    const bench = lay({ evidence: [{ kind: 'crystal', value: '26', sure: 0.7 }] })
    await askAbout(kindWords.crystal as string)
    await press(new RegExp(valueWord('crystal', '40')))
    expect(bench.record().evidence).toEqual([{ kind: 'crystal', value: '40', sure: 0.7 }])
    await act(
      async () => void fireEvent.change(screen.getByLabelText('How sure are you?'), { target: { value: '0.3' } }),
    )
    expect(bench.record().evidence).toEqual([{ kind: 'crystal', value: '40', sure: 0.3 }])
  })
  test('“not looked at after all” takes an answer back, and the other ones stay', async () => {
    const bench = lay({
      evidence: [
        { kind: 'crystal', value: '26' },
        { kind: 'edge_contacts', value: 'le8' },
      ],
    })
    await askAbout(kindWords.crystal as string)
    await press('Not looked at after all')
    expect(bench.record().evidence).toEqual([{ kind: 'edge_contacts', value: 'le8' }])
  })
  test('what disagrees is said and nothing is averaged away', () => {
    lay({
      evidence: [
        { kind: 'boot_text', value: 'cause_74880' },
        { kind: 'sync_reply', value: 'slip' },
        { kind: 'crystal', value: '40' },
      ],
    })
    const found = identify({
      evidence: [
        { kind: 'boot_text', value: 'cause_74880' },
        { kind: 'sync_reply', value: 'slip' },
        { kind: 'crystal', value: '40' },
      ],
    })
    const conflicts = found.ok ? found.value.conflicts.length : 0
    expect(screen.queryAllByText(/fits .* times better/)).toHaveLength(conflicts)
  })
  test('in words every check stands there, those nobody looked at too', async () => {
    lay({ evidence: [{ kind: 'crystal', value: '26' }] })
    await press(/in words/)
    const rows = within(screen.getByRole('table')).getAllByRole('row').slice(1)
    expect(rows).toHaveLength(Object.keys(kindAsks).length)
    expect(rows.filter((r) => /not looked at/.test(r.textContent ?? ''))).toHaveLength(rows.length - 1)
  })
})

describe('what is printed on the chip', () => {
  const met = { reading: 'Q8266', counts: [] }
  test('is kept as it was read, and one that was never met says so', async () => {
    const bench = lay()
    await askAbout('Printed')
    await type('Printed on the chip', 'QB 12')
    expect(bench.record().printed).toBe('QB 12')
    expect(screen.getByText(/Not met before/)).toBeTruthy()
    expect(met.counts).toEqual([])
  })
})

describe('a decision against more checks', () => {
  const layDecide = (decision: Data['decision']) =>
    onTheBench('identify', ({ record }) => <Decide record={record} first="RV32" />, { data: { decision } })
  test('begins with the leader and no reason, which is still owed', async () => {
    const bench = layDecide(null)
    await press('Decide without more checks')
    expect(bench.record().decision).toEqual({ family: 'RV32', reason: '' })
    await type(/^Reason/, 'the maker told us so')
    await act(async () => void fireEvent.change(screen.getByLabelText('Family'), { target: { value: 'LX6' } }))
    expect(bench.record().decision).toEqual({ family: 'LX6', reason: 'the maker told us so' })
  })
  test('is taken back whole', async () => {
    const bench = layDecide({ family: 'LX6', reason: 'the maker told us so' })
    await press('Take the decision back')
    expect(bench.record().decision).toBeNull()
  })
})

test('a count of none is none: it does not stand as nought beside the others', async () => {
  const seen: object[] = []
  const counts = { LX106: 2, RV32: 1 }
  onTheBench('identify', () => <MarkingCounts counts={counts} onChange={(c) => seen.push(c)} />)
  await type('RV32', '0')
  await type('LX6', '3')
  expect(seen).toEqual([{ LX106: 2 }, { LX106: 2, RV32: 1, LX6: 3 }])
})
