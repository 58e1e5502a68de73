import { aCalibration } from '../testing/a-calibration'
import { board, dump, unit, unmet } from '../testing/a-unit'
import { conditionsOf, lastingConditions } from '../unit/steps'
import type { UnitFile, UnitView } from '../unit/view'
import { gateIds, stepIds } from '../unit/way'

/** Gates are asked apart: here they are confirmed, so that only the step's own conditions speak. */
const confirmed: Partial<UnitView> = {
  gates: gateIds.map((gate) => ({
    gate,
    day: '2026-11-24',
    at: '2026-11-24T09:00:00Z',
    by: 'bench',
    measured: '0.2',
  })),
}
const at = (records: Parameters<typeof unit>[0], more: Partial<UnitView> = {}) =>
  unit(records, { ...confirmed, ...more })
const photo = (tag: string): UnitView['files'][number] => ({
  id: tag,
  kind: 'photo',
  name: `${tag}.png`,
  sha256: tag,
  bytes: 10,
  read: null,
  tag,
  createdAt: '2026-11-24T08:00:00Z',
  inspection: null,
})
const write = (more: object = {}): UnitView['attempts'][number] => ({
  id: 'w1',
  at: '2026-11-24T11:00:00Z',
  action: 'write',
  outcome: 'done',
  sha256: 'f00d',
  fileName: 'plainsong.bin',
  verify: 'digest',
  verified: true,
  minutes: 4,
  baud: 115200,
  adapter: 'Adapter 2',
  message: '',
  firmware: 'Plainsong 9.4.1',
  ...more,
})

describe('Arrive', () => {
  test('wants a board, a route and one try as sold', () =>
    expect(unmet(at({}, { board: null }), 'arrive')).toEqual([
      'The board is not named yet.',
      'No route is chosen.',
      'It has not been tried as sold.',
      'Nobody has said what it will work.',
    ]))
  test('a unit that was faulty as sold may go on: it was tried', () =>
    expect(unmet(at({ arrive: { route: 'built', triedAsSold: 'faulty', load: 'undecided' } }), 'arrive')).toEqual([]))
})

describe('What hangs on it', () => {
  const asked = (arrive: object) => unmet(at({ arrive: { route: 'built', ...arrive } }), 'arrive')
  test('what was built here need not be tried as sold', () => expect(asked({ load: 'lamp' })).toEqual([]))
  test('a latch on a way out opens when its supply goes, and by hand', () => {
    expect(asked({ load: 'latch-locks' })).toHaveLength(1)
    expect(asked({ load: 'latch-locks', wayOut: false })).toEqual([])
    expect(asked({ load: 'latch-locks', wayOut: true })).toHaveLength(2)
    expect(asked({ load: 'latch-unlocks', wayOut: true, opensByHand: true })).toEqual([])
  })
  test('a unit made for fixed wiring says where it is', () => {
    const wired = { board: { ...board, fixedWiring: true } }
    expect(unmet(at({ arrive: { route: 'built', load: 'lamp' } }, wired), 'arrive')).toHaveLength(1)
    expect(unmet(at({ arrive: { route: 'built', load: 'lamp', mounted: false } }, wired), 'arrive')).toEqual([])
  })
  test('nothing goes into service before it is decided', () =>
    expect(
      unmet(
        at({
          arrive: { load: 'undecided' },
          prove: { powerCut: { seconds: 12, cameBack: 'as wanted', rejoinSeconds: 3 } },
        }),
        'prove',
      ),
    ).toEqual(['Nobody has said what it works.']))
})

describe('Open', () => {
  const terminals = [
    { place: 'brown', legend: 'line' as const },
    { place: 'blue', legend: 'neutral' as const },
  ]
  test('wants legends, photos and a judged isolation', () => {
    const missing = unmet(at({}), 'open')
    expect(missing[0]).toBe('The legends are not written down.')
    expect(missing.some((m) => m.startsWith('There is no photo yet'))).toBe(true)
    expect(missing).toContain('Isolation is not judged.')
  })
  test('of a photographed board one photo of this unit is enough, none is not', () => {
    const known = { ...board, photographed: true, hazards: [], isolation: { dropper: 'yes' } as never }
    const none = at({ open: { terminals } }, { board: known })
    expect(unmet(none, 'open')).toEqual(['There is no photo yet.'])
    expect(unmet({ ...none, files: [photo('board_top')] }, 'open')).toEqual([])
  })
  test('an unnamed terminal does not count as written down', () =>
    expect(
      unmet(
        at({
          open: {
            terminals: [
              { place: ' ', legend: 'line' },
              { place: 'x', legend: 'load' },
            ],
          },
        }),
        'open',
      )[0],
    ).toBe('The legends are not written down.'))
})

describe('Find the pads', () => {
  test('names what is not known, and says print alone is not enough', () => {
    const missing = unmet(at({ pads: { pads: ['GND', 'UNKNOWN', 'TX'] } }), 'pads')
    expect(missing).toEqual([
      'GND and 3V3 are not proven by a meter yet.',
      'Not known yet: 3V3, RX.',
      'How BOOT is reached is not known.',
    ])
  })
  test('a family without a strap needs no BOOT', () => {
    const view = at({ identify: { decision: { family: 'ARM968-A', reason: 'printed on the module itself' } } })
    expect(unmet(view, 'pads')).not.toContain('How BOOT is reached is not known.')
  })
  test('BOOT said to be a pad has to be one of the row', () => {
    const row = ['GND', '3V3', 'TX', 'RX'] as const
    expect(unmet(at({ pads: { pads: [...row], bootBy: 'pad' } }), 'pads')).toContain(
      'How BOOT is reached is not known.',
    )
    expect(unmet(at({ pads: { pads: [...row, 'BOOT'], bootBy: 'pad' } }), 'pads')).not.toContain(
      'How BOOT is reached is not known.',
    )
  })
})

describe('Wire', () => {
  test('without an adapter and a way in there is no plan, and it says both', () =>
    expect(unmet(at({}), 'wire')).toEqual([
      'No adapter is chosen.',
      'The way into download mode is not chosen.',
      'GND and 3V3 are not proven by a meter yet.',
      'There is no plan yet.',
    ]))
})

describe('Write', () => {
  const image = { ...photo('image'), kind: 'image' as const, sha256: 'f00d' }
  test('wants a write that was checked, of the image that was checked', () => {
    expect(unmet(at({}), 'write')[0]).toBe('No attempt is logged.')
    expect(unmet(at({}, { attempts: [write({ outcome: 'lost-midway', verified: false })] }), 'write')[0]).toBe(
      'The last attempt was lost midway.',
    )
    expect(unmet(at({}, { attempts: [write({ verified: false })], image }), 'write')).toEqual([
      'The content was not checked after writing.',
    ])
    expect(unmet(at({}, { attempts: [write({ sha256: 'other' })], image }), 'write')).toEqual([
      'Another image was written than the one that was checked.',
    ])
    expect(unmet(at({}, { attempts: [write()], image }), 'write')).toEqual([])
  })
})

describe('First start', () => {
  test('boot text of a download mode is no start', () => {
    const log = '\r\n ets Jan  8 2013,rst cause:1, boot mode:(1,6)\r\n'
    expect(unmet(at({ start: { log, strapFree: true } }), 'start')).toHaveLength(1)
  })
  test('seen some other way counts; the strap has to be free', () =>
    expect(unmet(at({ start: { seenBy: 'light or click' } }), 'start')).toEqual([
      'The jumper or button may still hold BOOT.',
    ]))
  test('a ready-flashed unit was never wired: no strap is asked for', () =>
    expect(unmet(at({ start: { seenBy: 'access point' } }, { route: 'ready-flashed' }), 'start')).toEqual([]))
  test('a log that is left out of the page counts as it was read', () => {
    const boots = { start: { verdict: 'app_text', mode: null } as never }
    expect(unmet(at({ start: { strapFree: true } }, { boots }), 'start')).toEqual([])
  })
})

describe('Join, Name, Hub, Prove, Watch', () => {
  test('an address that nobody confirmed is no address', () => {
    expect(unmet(at({ join: { address: '192.168.71.9' } }), 'join')).toHaveLength(1)
    expect(unmet(at({ join: { address: '192.168.71.9', confirmedBy: 'blink' } }), 'join')).toEqual([])
  })
  test('a name needs a reserved address, and a topic nobody else has', () => {
    const clash = { slugClash: 'The name gives the same topic as unit 08.' }
    expect(unmet(at({}, clash), 'name')).toEqual([
      'Another unit goes by the same name in topics.',
      'Its address is not reserved.',
    ])
    expect(unmet(at({ name: { reserved: true } }), 'name')).toEqual([])
  })
  test('hub tests count while what they rest on stands', () => {
    const view = at({ hub: { hubId: 'h1' }, join: { address: '192.168.71.9' } })
    const basis = { firmware: '', template: '', address: '192.168.71.9', topic: view.topic ?? '', hub: 'h1' }
    const test = (direction: 'hub to unit' | 'button to hub', more: object = {}) => ({
      id: direction,
      at: '2026-11-24T11:00:00Z',
      by: 'x',
      hub: 'Mantel',
      direction,
      channel: null,
      ok: true,
      seen: 'yes',
      basis,
      ...more,
    })
    const lasting = (v: UnitView) =>
      lastingConditions(v, 'hub')
        .filter((c) => !c.met)
        .map((c) => c.text)
    expect(lasting({ ...view, hubTests: [test('hub to unit')] })).toEqual(['Not tested: button to hub.'])
    expect(lasting({ ...view, hubTests: [test('hub to unit'), test('button to hub')] })).toEqual([])
    const moved = { ...basis, address: '192.168.71.10' }
    expect(lasting({ ...view, hubTests: [test('hub to unit', { basis: moved }), test('button to hub')] })).toEqual([
      'The test hub to unit is stale.',
    ])
    expect(lasting({ ...view, hubTests: [test('hub to unit', { ok: false }), test('button to hub')] })).toEqual([
      'The test hub to unit failed.',
    ])
  })
  test.each<[string, object | null, string | null]>([
    ['nobody cut the power', null, 'No power cut was tried.'],
    [
      'shorter than ten seconds',
      { seconds: 4, cameBack: 'as wanted', rejoinSeconds: 3 },
      'The cut was shorter than 10 s.',
    ],
    ['came back otherwise', { seconds: 12, cameBack: 'otherwise', rejoinSeconds: 3 }, 'It came back otherwise.'],
    ['came back as wanted', { seconds: 12, cameBack: 'as wanted', rejoinSeconds: 3 }, null],
  ])('a power cut: %s', (_, powerCut, text) =>
    expect(unmet(at({ arrive: { load: 'lamp' }, prove: { powerCut: powerCut as never } }), 'prove')).toEqual(
      text ? [text] : [],
    ),
  )
  test('Watch begins in service', () => {
    expect(unmet(at({}), 'watch')).toEqual(['Not in service yet.'])
    expect(unmet(at({}, { inService: true }), 'watch')).toEqual([])
  })
})

describe('Pins, Behaviour, Meter, Close', () => {
  const template = (agrees: boolean[]) => ({
    format: 'fresh-coat/pin-template' as const,
    version: 1,
    board: 'P1',
    family: 'LX106' as const,
    pins: [
      {
        pin: 'GPIO12',
        fn: 'relay' as const,
        ch: 1,
        evidence: agrees.map((a, i) => ({ unit: '7', sitting: `s${i}`, agrees: a })),
      },
      {
        pin: 'GPIO0',
        fn: 'button' as const,
        ch: 1,
        pull: 'up' as const,
        evidence: [0, 1].map((i) => ({ unit: '7', sitting: `s${i}`, agrees: true })),
      },
    ],
  })
  test('every used pin has to be seen in two sittings', () => {
    expect(unmet(at({ pins: { power: 'adapter' } }), 'pins')[0]).toBe('No pin is recorded.')
    expect(unmet(at({ pins: { power: 'adapter', template: template([true]) as never } }), 'pins')).toEqual([
      'Not confirmed yet: GPIO12.',
    ])
    expect(unmet(at({ pins: { power: 'adapter', template: template([true, true]) as never } }), 'pins')).toEqual([])
  })
  test('every output is tried on the unit', () => {
    const pins = { template: template([true, true]) as never }
    expect(unmet(at({ pins }), 'behaviour')).toEqual(['Not tried yet: channel 1.'])
    expect(
      unmet(at({ pins, behaviour: { channels: [{ ch: 1, onPower: 'last', tried: true }] } }), 'behaviour'),
    ).toEqual([])
    expect(unmet(at({}), 'behaviour')).toEqual(['The pin template has no outputs.'])
  })
  test.each<[string, UnitView['calibrations'], string[]]>([
    ['never calibrated', [], ['It is not calibrated.']],
    ['within limits', [aCalibration()], []],
    ['verify point outside', [aCalibration({ passed: false })], ['The verify point is outside the limits.']],
    ['overdue', [aCalibration({ due: '2026-11-23' })], ['The re-check was due 23 Nov 2026.']],
    ['due today is not overdue', [aCalibration({ due: '2026-11-24' })], []],
  ])('a meter: %s', (_, calibrations, texts) => expect(unmet(at({}, { calibrations }), 'meter')).toEqual(texts))
  test('a unit without a meter has nothing to calibrate', () => {
    expect(unmet(at({ meter: { noMeter: true } }), 'meter')).toEqual([])
    expect(unmet(at({}, { board: { ...board, hasMeter: false } }), 'meter')).toEqual([])
  })
  test('a case with a screw left out is not closed, and each thing left out is said', () => {
    const fasteners = [
      {
        id: 'a',
        kind: 'screw' as const,
        count: 2,
        driver: '',
        place: 'corners',
        hiddenUnder: 'none' as const,
        note: '',
        restore: 'same' as const,
        requires: [],
      },
    ]
    const open = { fasteners, parts: ['button cap'], taken: ['a'] }
    expect(unmet(at({ open }), 'close')).toEqual(['2 screws and the button cap are not back: the case is not closed.'])
    expect(unmet(at({ open, close: { restored: { a: 2 }, partsBack: ['button cap'] } }), 'close')).toEqual([])
    expect(unmet(at({ open, close: { restored: { a: 1 }, partsBack: ['button cap'] } }), 'close')).toHaveLength(1)
  })
})

test('a condition that is met names no way out, and one that is not always does', () => {
  const views = [at({}), at({}, { board: null }), at({ arrive: { route: 'built' } }, { inService: true })]
  for (const view of views)
    for (const step of stepIds)
      for (const c of conditionsOf(view, step)) {
        expect(c.text).toMatch(/\S.*\.$/)
        expect({ text: c.text, next: c.next !== '' }).toEqual({ text: c.text, next: !c.met })
      }
})

describe('a backup that is not whole', () => {
  const full = new Uint8Array(65_536).map((_, i) => (i * 7) & 0xff)
  const said = (...files: UnitFile[]) => unmet(unit({ backup: { flashId: '684012' } }, { files }), 'backup').at(-1)
  test.each<[string, UnitFile[], string]>([
    ['nothing', [], 'Nothing has been read yet.'],
    ['one read', [dump(full, 1)], 'It was read once.'],
    [
      'two reads that agree on a part of the chip',
      [dump(full, 1), dump(full, 2)],
      'The reads agree but are not a whole chip.',
    ],
    ['two reads that differ', [dump(full, 1, 'a'), dump(full, 2, 'b')], 'The two reads differ.'],
  ])('%s', (_, files, text) => expect(said(...files)).toBe(text))
})
