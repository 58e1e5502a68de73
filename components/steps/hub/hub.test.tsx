/** @jest-environment jsdom */
import { unit as aUnit } from '@fresh-coat/core/testing/a-unit'
import { factsOfUnit } from '@fresh-coat/core/unit/facts'
import { emptyRecord } from '@fresh-coat/core/unit/records'
import { type HubTest, hubSayings, testDirections, type UnitView } from '@fresh-coat/core/unit/view'
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import type { SurfaceProps } from '@/components/steps/context'
import { BridgeRadio, LocalControl } from './other-ends'
import { nextTest, OtherLinks, TestCard, Tests } from './tests'

afterEach(cleanup)

type Props = SurfaceProps<'hub'>
const base = (more: Partial<UnitView> = {}): UnitView =>
  aUnit({ hub: { hubId: 'h1' }, join: { address: '192.168.71.9' } }, { topic: null, ...more })
let n = 0
const seen = (view: UnitView, direction: HubTest['direction'], more: Partial<HubTest> = {}): HubTest => ({
  id: `t${++n}`,
  at: '2026-11-24T11:00:00Z',
  by: 'x',
  hub: 'Mantel',
  direction,
  channel: null,
  ok: true,
  seen: 'it did',
  basis: factsOfUnit(view),
  ...more,
})
function props(view: UnitView, data: object = {}) {
  const sent: [string, Record<string, unknown>][] = []
  const patched: object[] = []
  const given = {
    view,
    record: { data: { ...view.records.hub.data, ...data }, patch: (p: object) => patched.push(p) },
    choices: { hubs: [], secrets: [{ id: 's1', name: 'Local key', keptIn: '', createdAt: '' }] },
    act: async (command: string, input: Record<string, unknown>) => {
      sent.push([command, input])
      return true
    },
    assessment: { steps: [] },
  } as unknown as Props
  return { given, sent, patched }
}

describe('what is to be seen next of a unit and its hub', () => {
  test('each in its order, the newest word counting, until nothing is open', () => {
    const view = base()
    const order: string[] = []
    for (let next = nextTest(view); next; next = nextTest(view)) {
      order.push(next.kind)
      view.hubTests = [seen(view, next.kind, { channel: next.channel }), ...view.hubTests]
    }
    expect(order).toEqual([...hubSayings.slice(0, 3), ...testDirections, 'automations'])
    view.hubTests = [seen(view, 'shown by the hub', { ok: false }), ...view.hubTests]
    expect(nextTest(view)).toEqual({ kind: 'shown by the hub', channel: null })
  })
})

describe('one piece of evidence', () => {
  test('is sent with what was seen and on which channel, and never without a word', async () => {
    const { given, sent } = props(base())
    render(<TestCard kind="hub to unit" channel={2} props={given} />)
    expect(screen.getByText('From the hub, channel 2')).toBeTruthy()
    expect((screen.getByRole('button', { name: /Seen/ }) as HTMLButtonElement).disabled).toBe(true)
    fireEvent.change(screen.getByLabelText('What you saw'), { target: { value: 'the lamp went on' } })
    await act(async () => fireEvent.click(screen.getByRole('button', { name: /It failed/ })))
    expect(sent).toEqual([
      [
        'add-hub-test',
        { unitId: given.view.id, direction: 'hub to unit', channel: 2, ok: false, seen: 'the lamp went on' },
      ],
    ])
    // What was typed went along with it.
    expect((screen.getByLabelText('What you saw') as HTMLInputElement).value).toBe('')
  })
  test('that no automation uses it is said by one press', async () => {
    const { given, sent } = props(base())
    render(<TestCard kind="automations" props={given} />)
    await act(async () => fireEvent.click(screen.getByRole('button', { name: /None uses it/ })))
    expect(sent[0]?.[1]).toMatchObject({ direction: 'automations', ok: true, seen: 'no automation uses it' })
  })
  test('without a hub nothing is said of one', () => {
    const { given } = props(base(), { hubId: null })
    render(<TestCard kind="automations" props={given} />)
    for (const button of screen.getAllByRole('button')) expect((button as HTMLButtonElement).disabled).toBe(true)
  })
})

test('tests so far say what stands, what is stale and what failed', () => {
  const view = base()
  view.hubTests = [
    seen(view, 'hub to unit', { channel: 1 }),
    seen(view, 'button to hub', { basis: { ...factsOfUnit(view), firmware: 'Skiff 2.0' } }),
    seen(view, 'named and placed', { ok: false }),
  ]
  render(<Tests view={view} />)
  const rows = screen.getAllByRole('row').slice(1)
  expect(rows.map((r) => within(r).getAllByRole('cell')[2]?.textContent)).toEqual(['stands', 'stale', 'failed'])
  expect(rows[0]?.textContent).toContain('hub to unit, channel 1')
})

test('voice and plain requests are tried each by itself; the request is there to be copied', () => {
  const view = base()
  view.hubTests = [seen(view, 'by voice')]
  render(<OtherLinks {...props(view).given} />)
  expect(screen.getByText(/it did/)).toBeTruthy()
  expect(screen.getByText(/PUT http:\/\/192\.168\.71\.9\/channels\/1\/on/)).toBeTruthy()
})

describe('a radio of its own', () => {
  const radio = { port: 6638, baud: 115_200, flow: 'none', radio: '', radioFirmware: '', joined: [] }
  test('is offered by a tick, and then says where the hub reaches it, and that its address may wander', () => {
    const { given, patched } = props(base())
    const { rerender } = render(<BridgeRadio {...given} />)
    fireEvent.click(screen.getByRole('checkbox'))
    expect(patched).toEqual([{ bridge: { ...radio, port: null, baud: null } }])
    rerender(<BridgeRadio {...props(base(), { bridge: radio }).given} />)
    expect(screen.getByText('192.168.71.9:6638')).toBeTruthy()
    expect(screen.getByText(/not reserved: when it changes/)).toBeTruthy()
  })
  test('takes its devices from a list, names the weakest, and what it could not read', () => {
    const joined = [
      { address: '00158d0004a1b2c3', name: 'Door', room: 'stage', heard: '', signal: -71 },
      { address: '00158d0004a1b2c4', name: 'Window', room: '', heard: '', signal: -88 },
    ]
    const { given, patched } = props(base(), { bridge: { ...radio, joined } })
    render(<BridgeRadio {...given} />)
    expect(screen.getByText(/2 joined to it/).textContent).toContain('the weakest is Window at -88 dB')
    fireEvent.change(screen.getByRole('textbox', { name: /What is joined/ }), {
      target: { value: '0x00158d0004a1b2c5  Lamp  foyer  -60\nno address here' },
    })
    expect(screen.getByText(/No address in: no address here/)).toBeTruthy()
    fireEvent.click(screen.getByRole('button', { name: 'Take this list' }))
    expect(patched).toEqual([
      {
        bridge: {
          ...radio,
          joined: [{ address: '00158d0004a1b2c5', name: 'Lamp', room: 'foyer', heard: '', signal: -60 }],
        },
      },
    ])
  })
})

test('local control notes the day its cloud was blocked, and forgets it when it is open again', () => {
  const { given, patched } = props(base({ today: '2026-11-28' }))
  const { rerender } = render(<LocalControl {...given} />)
  fireEvent.click(screen.getByRole('radio', { name: 'blocked' }))
  expect(patched).toEqual([{ local: expect.objectContaining({ cloudBlocked: 'yes', blockedOn: '2026-11-28' }) }])
  const local = {
    ...emptyRecord('hub').local,
    deviceId: '',
    keySecret: null,
    protocol: '',
    cloudBlocked: 'no',
    blockedOn: null,
  }
  rerender(<LocalControl {...props(base(), { local }).given} />)
  expect(screen.getByText(/its maker may change its firmware/)).toBeTruthy()
})
