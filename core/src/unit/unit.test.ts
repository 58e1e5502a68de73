import fc from 'fast-check'
import { noise } from '../image/build'
import { inspectImage } from '../image/inspect'
import { backupOf, restoreOf, twinsOf } from '../steps/backup/facts'
import { preflightOf, writeOffsetOf } from '../steps/check/facts'
import { familyOf } from '../steps/identify/facts'
import { missingPhotos } from '../steps/open/conditions'
import { padStateOf, railsProven } from '../steps/pads/facts'
import { firmwareOf } from '../steps/write/facts'
import { aCalibration } from '../testing/a-calibration'
import { board, dump, lx106, type Records, stateOf, unit, unmet } from '../testing/a-unit'
import { lx106File } from '../testing/an-image'
import { assess } from './assess'
import { gateHolds, gatesFor } from './gates'
import { emptyRecord, records as kinds, newestShape, readRecord, type StepData } from './records'
import { instructionsOf, learnedFrom, prefilled, tickOff } from './steps'
import type { BoardKnowledge, UnitFile, UnitView } from './view'
import { routeIds, routes, stepIds, steps } from './way'

describe('the way as data', () => {
  test('eighteen steps, each once, each needing only earlier ones', () => {
    expect(steps.map((s) => s.id)).toEqual([...stepIds])
    expect(stepIds).toHaveLength(18)
    for (const s of steps) for (const need of s.needs) expect(stepIds.indexOf(need)).toBeLessThan(stepIds.indexOf(s.id))
  })
  test.each(routeIds)('route %s skips steps that exist, and never Arrive or Prove', (route) => {
    for (const skipped of routes[route].skips) expect(stepIds).toContain(skipped)
    expect(routes[route].skips).not.toContain('arrive')
    expect(routes[route].skips).not.toContain('prove')
    expect(stateOf(unit({ arrive: { route } }), 'prove')).not.toBe('skipped')
  })
  test.each(stepIds)('an empty record of %s is a valid one; what is not understood is said, never emptied', (step) => {
    expect(kinds[step].schema.safeParse({}).success).toBe(true)
    expect(readRecord(step, 1, {})).toEqual({ ok: true, data: emptyRecord(step) })
    expect(readRecord(step, 1, 'nonsense')).toMatchObject({ ok: false, where: '/' })
    expect(readRecord(step, newestShape(step) + 1, {})).toMatchObject({
      ok: false,
      what: expect.stringMatching(/shape/),
    })
  })
})

describe('where a unit stands', () => {
  test('a new unit begins at Arrive and is not ready', () => {
    const a = assess(unit())
    expect([a.next, a.lane, a.inService]).toEqual(['arrive', 'strip', false])
    expect(a.steps[0]?.ready).toBe(false)
  })
  test('what is done is passed over, what a route skips too', () => {
    expect(assess(unit({ arrive: { route: 'wires-in-place', triedAsSold: 'works' } }, {}, ['arrive'])).next).toBe(
      'open',
    )
    expect(assess(unit({ arrive: { route: 'ready-flashed', triedAsSold: 'works' } }, {}, ['arrive'])).next).toBe(
      'identify',
    )
    expect(assess(unit({ arrive: { route: 'local-control', triedAsSold: 'works' } }, {}, ['arrive'])).next).toBe('join')
  })
  test('a fact that changes makes what rests on it stale, and says what changed', () => {
    const view = unit(
      {
        arrive: { route: 'wires-in-place', triedAsSold: 'works' },
        pads: {
          pads: ['GND', '3V3', 'TX', 'RX'],
          readings: [{ cont_gnd: true }, { ohms_3v3: 0.4, volts: 3.3, cont_gnd: false }, {}, {}],
          bootBy: 'button',
        },
        identify: lx106,
      },
      {},
      ['wire'],
    )
    view.records.wire.data = { ...view.records.wire.data, entry: 'button' }
    view.adapter = {
      id: 'a',
      name: 'Adapter 2',
      pins: ['GND', 'TX', 'RX', '3V3'],
      logicV: 3.3,
      max3v3Ma: 600,
      labelledFrom: 'adapter',
    }
    expect(stateOf(view, 'wire')).toBe('done')
    view.records.pads.data = { ...view.records.pads.data, pads: ['3V3', 'GND', 'TX', 'RX'] }
    const wire = assess(view).steps.find((s) => s.id === 'wire')
    expect(wire?.state).toBe('stale')
    expect(wire?.because).toBe('The pads changed: it was GND 3V3 TX RX, it is now 3V3 GND TX RX.')
  })
  test('a meter past its date waits on a person', () => {
    const calibration = aCalibration({ at: '2025-10-01T10:00:00Z', due: '2026-10-01' })
    const view = unit({}, { calibrations: [calibration] }, ['meter'])
    expect(assess(view).waiting).toEqual([
      { step: 'meter', severity: 'watch', text: 'The re-check was due 1 Oct 2026.', next: 'Take the points again.' },
    ])
    expect(assess(unit({}, { calibrations: [{ ...calibration, due: '2026-11-24' }] }, ['meter'])).waiting).toEqual([])
  })
  test('two reads that differ wait on a person, also while a gate is open', () => {
    const bytes = noise(65536, 3)
    const view = unit({ backup: { flashId: '' } }, { files: [dump(bytes, 1), dump(bytes, 2, 'other')] })
    expect(assess(view).waiting).toEqual([
      {
        step: 'backup',
        severity: 'error',
        text: 'The two reads differ.',
        next: 'Reseat the wires, lower the rate, read again.',
      },
    ])
    expect(assess(unit({ backup: { flashId: '' } }, { files: [dump(bytes, 1)] })).waiting).toEqual([])
  })
  test('any unit gets exactly one next step, and progress never exceeds its coat', () => {
    fc.assert(
      fc.property(fc.subarray([...stepIds]), fc.constantFrom(...routeIds, null), (done, route) => {
        const a = assess(unit({ arrive: { route } }, {}, done))
        expect(stepIds).toContain(a.next)
        for (const c of a.coats) expect(c.done).toBeLessThanOrEqual(c.of)
      }),
    )
  })
})

describe('gates', () => {
  const confirmed = (gate: 'mains-off' | 'discharged', day: string) => ({
    gate,
    day,
    at: `${day}T09:00:00Z`,
    by: 'bench',
    measured: '0.4',
  })
  test('mains boards have them, low voltage has none', () => {
    expect(gatesFor(unit(), 'open')).toEqual(['mains-off', 'discharged'])
    expect(gatesFor(unit({}, { board: { ...board, mains: false } }), 'open')).toEqual([])
    expect(gatesFor(unit({}, { board: null }), 'wire')).toEqual(['mains-off', 'discharged'])
  })
  test('fixed wiring is handed over first', () =>
    expect(gatesFor(unit({}, { board: { ...board, fixedWiring: true } }), 'open')[0]).toBe('licensed'))
  test('a confirmation of yesterday does not hold', () => {
    expect(gateHolds(unit({}, { gates: [confirmed('mains-off', '2026-11-24')] }), 'mains-off')).toBe(true)
    expect(gateHolds(unit({}, { gates: [confirmed('mains-off', '2026-11-23')] }), 'mains-off')).toBe(false)
    expect(unmet(unit({}, { gates: [confirmed('mains-off', '2026-11-23')] }), 'backup')[0]).toMatch(
      /Not confirmed: Unplugged/,
    )
  })
})

describe('what makes a step done', () => {
  test('two equal whole reads, and nothing less', () => {
    const bytes = noise(65536, 3)
    const view = (files: UnitFile[]) => unit({ backup: { flashId: '' } }, { files })
    expect(backupOf(view([])).state).toBe('none')
    expect(backupOf(view([dump(bytes, 1)])).state).toBe('single')
    expect(backupOf(view([dump(bytes, 1), dump(bytes, 2, 'other')])).state).toBe('differ')
    expect(backupOf(view([dump(bytes, 1), dump(bytes, 2)])).state).toBe('verified')
    // Equal, but the chip is larger than what was read.
    expect(backupOf(unit({ backup: { flashId: '68 40 14' } }, { files: [dump(bytes, 1), dump(bytes, 2)] })).state).toBe(
      'single',
    )
    expect(
      backupOf(view([dump(new Uint8Array(65536).fill(0xff), 1), dump(new Uint8Array(65536).fill(0xff), 2)])).state,
    ).toBe('single')
  })
  test('skipping the backup wants a sentence', () => {
    const skip = (reason: string) =>
      unmet(unit({ backup: { skip: { code: 'owner', reason } } }, { board: { ...board, mains: false } }), 'backup')
    expect(skip('no')).toEqual(['The reason for having no backup is too short.'])
    expect(skip('The owner has a second one at home.')).toEqual([])
  })
  test('a decision about the family wants one too', () => {
    const decide = (reason: string) => unit({ identify: { decision: { family: 'RV32', reason } } })
    expect(unmet(decide('because'), 'identify')).toEqual(['The decision has no reason yet.'])
    expect(unmet(decide('Read its die under the microscope.'), 'identify')).toEqual([])
    expect(familyOf(decide('Read its die under the microscope.'))).toMatchObject({
      family: 'RV32',
      verdict: 'likely',
      how: 'decided',
    })
  })
  test('every warning of the check is answered', () => {
    const image = lx106File('DIO')
    const records: Records = {
      identify: lx106,
      backup: { skip: { code: 'owner', reason: 'The owner has a second one.' } },
      check: { fileId: 'i', offset: 0 },
    }
    const view = unit(records, { image })
    expect(
      preflightOf(view)
        ?.findings.filter((f) => f.severity === 'watch')
        .map((f) => f.code),
    ).toEqual(['backup-skipped', 'mode-unproven'])
    expect(unmet(view, 'check')).toEqual(['2 warnings are open.'])
    // Nobody entered an offset: it goes where it belongs, and never at 0 over the loader of an ARM968-A.
    const blank = { ...records, check: { fileId: 'i' } }
    expect(writeOffsetOf(unit(blank, { image }))).toBe(0)
    const variantA = { ...blank, identify: { decision: { family: 'ARM968-A' as const, reason: 'Seen on its twin.' } } }
    expect(writeOffsetOf(unit(variantA, { image }))).toBe(0x11000)
    expect(writeOffsetOf(unit(blank))).toBeNull()
    expect(
      unmet(
        unit(
          { ...records, check: { fileId: 'i', offset: 0, answered: ['mode-unproven', 'backup-skipped'] } },
          { image },
        ),
        'check',
      ),
    ).toEqual([])
  })
  test('a firmware that is only chosen does not run yet', () => {
    const attempt = {
      id: 'w',
      at: '',
      outcome: 'done' as const,
      sha256: 'x',
      fileName: '',
      verify: 'digest' as const,
      verified: true,
      minutes: 9,
      baud: 115200,
      adapter: '',
      message: '',
      firmware: 'Plainsong 9.4.1',
    }
    const check = { firmware: 'Plainsong', firmwareVersion: '9.5.0' }
    expect(firmwareOf(unit({ check }))).toBe('')
    expect(firmwareOf(unit({ check }, { attempts: [{ ...attempt, outcome: 'no-answer' }, attempt] }))).toBe(
      'Plainsong 9.4.1',
    )
    expect(firmwareOf(unit({ arrive: { route: 'ready-flashed' }, check }))).toBe('Plainsong 9.5.0')
  })
  test('a broken verify point or a name twice keeps the step open', () => {
    expect(
      unmet(unit({ name: { reserved: true } }, { slugClash: 'The name gives the same topic as unit 8.' }), 'name'),
    ).toEqual(['Another unit goes by the same name in topics.'])
  })
})

describe('what one unit teaches its board', () => {
  test('the next unit begins with it', () => {
    const view = unit({ identify: lx106, pads: { pads: ['GND', 'TX', 'RX', '3V3'], pitchMm: 2.54, bootBy: 'button' } })
    expect(learnedFrom(view, 'identify')).toEqual([{ key: 'family', value: 'LX106' }])
    const [pads] = learnedFrom(view, 'pads')
    const known = { ...board, pads: pads?.value as BoardKnowledge['pads'], markings: { LX106: 1 } }
    expect(prefilled('pads', known)).toMatchObject({ pads: ['GND', 'TX', 'RX', '3V3'], bootBy: 'button' })
    expect(prefilled('identify', known).evidence).toEqual([{ kind: 'marking', counts: { LX106: 1 } }])
    expect(prefilled('pads', null)).toEqual(emptyRecord('pads'))
  })
  test('a family taken from the board is not taught back to it', () =>
    expect(learnedFrom(unit({}, { board: { ...board, family: 'LX6' } }), 'identify')).toEqual([]))
})

describe('what stands between a person and power', () => {
  const roles = ['3V3', 'RX', 'TX', 'GND'] as const
  const measured = [
    { ohms_3v3: 0.4 },
    { cont_gnd: false, ohms_3v3: 'open' as const },
    { cont_gnd: false },
    { cont_gnd: true },
  ]
  const printed = [{ label: '3V3' }, { label: 'RX' }, { label: 'TX' }, { label: 'GND' }]
  const known = (readings: StepData['pads']['readings']) =>
    unit({ pads: { pads: [...roles], readings, bootBy: 'button' } })
  test('a meter opens the way, print does not', () => {
    expect(railsProven(known(measured))).toBe(true)
    expect(railsProven(known(printed))).toBe(false)
    expect(railsProven(known([]))).toBe(false)
    expect(unmet(known(printed), 'wire')).toContain('GND and 3V3 are not proven by a meter yet.')
  })
  test('a row that says otherwise than the readings is not proven', () =>
    expect(railsProven(unit({ pads: { pads: ['GND', 'RX', 'TX', '3V3'], readings: measured } }))).toBe(false))
  test('the same row measured on another unit of the board is enough', () => {
    const taught = {
      ...board,
      pads: { pads: [...roles], pitchMm: 2.54, bootBy: 'button' as const, regulator5v: false },
    }
    expect(railsProven(unit({ pads: { pads: [...roles] } }, { board: taught }))).toBe(true)
    expect(railsProven(unit({ pads: { pads: [...roles].reverse() } }, { board: taught }))).toBe(false)
  })
  test('readings of this unit that speak against the board row shut the way again', () => {
    const taught = {
      ...board,
      pads: { pads: [...roles], pitchMm: 2.54, bootBy: 'button' as const, regulator5v: false },
    }
    const swapped = [{ cont_gnd: true }, {}, {}, { cont_gnd: false, ohms_3v3: 0.4 }]
    const holding = [{}, {}, {}, { cont_gnd: true }]
    expect(railsProven(unit({ pads: { pads: [...roles], readings: swapped } }, { board: taught }))).toBe(false)
    expect(railsProven(unit({ pads: { pads: [...roles], readings: holding } }, { board: taught }))).toBe(true)
  })
  test('impossible readings are said, and do not silence the others', () => {
    const state = padStateOf(known([{ ohms_3v3: 0.4, volts: 400 }, {}, { volts_10k: 1 }, { cont_gnd: true }]))
    expect(state.faults).toEqual([{ pad: 0, reading: 'volts', message: expect.stringContaining('switch off') }])
    expect(state.solution?.best.roles[3]).toBe('GND')
  })
})

describe('photos and the order of opening', () => {
  const photo = (tag: string): UnitFile => ({
    id: tag,
    kind: 'photo',
    name: `${tag}.png`,
    sha256: tag,
    bytes: 1,
    read: null,
    tag,
    createdAt: '',
    inspection: null,
  })
  test('of a board nobody has opened all sides are wanted, of a known one a single photo', () => {
    expect(missingPhotos(unit())).toHaveLength(6)
    expect(missingPhotos(unit({}, { board: { ...board, mains: false } }))).toEqual([
      'seam_before',
      'board_top',
      'board_bottom',
    ])
    const known = { ...board, photographed: true }
    expect(missingPhotos(unit({}, { board: known }))).toEqual(['board_top'])
    expect(missingPhotos(unit({}, { board: known, files: [photo('seam_before')] }))).toEqual([])
  })
  test('every step can be walked one instruction at a time, whatever is known', () => {
    for (const view of [
      unit(),
      unit({}, { board: null }),
      unit({ wire: { entry: 'jumper' } }, { board: { ...board, family: 'LX106' } }),
    ])
      for (const step of stepIds) for (const one of instructionsOf(view, step)) expect(one.say.trim()).not.toBe('')
    expect(
      instructionsOf(
        unit({ wire: { entry: 'jumper' } }, { board: { ...board, family: 'LX106', mains: false } }),
        'write',
      ).at(-1)?.id,
    ).toBe('free')
  })
})

describe('stock firmware of a twin', () => {
  const chip = noise(1048576, 4)
  const kept = (number: number, more: Partial<UnitView> = {}) => ({
    ...unit({ identify: lx106 }, { board, files: [dump(chip, 1), dump(chip, 2)], ...more }),
    id: `u${number}`,
    number,
  })
  const lost = { ...unit({ identify: lx106, backup: { flashId: '684014' } }, { board }), id: 'lost', number: 7 }
  test('only of the same board, only where something was kept, never itself', () => {
    const elsewhere = kept(9, { board: { ...board, id: 'other' } })
    expect(twinsOf(lost, [lost, kept(8), elsewhere, kept(10, { files: [] })]).map((t) => t.number)).toEqual([8])
    expect(twinsOf({ ...lost, board: null }, [kept(8)])).toEqual([])
  })
  test('it may stand in, and says what would be cloned', () => {
    const [twin] = twinsOf(lost, [kept(8)])
    const plan = restoreOf(lost, twin)
    expect(plan).toMatchObject({ allowed: true, offset: 0, bytes: 1048576 })
    expect(plan.findings.map((f) => f.code)).toEqual(['clones-address'])
    expect(plan.findings[0]?.message).toContain('unit 8')
    expect(restoreOf(lost).allowed).toBe(false)
  })
  test('a board of one name can carry another chip: then it may not', () => {
    const [twin] = twinsOf(lost, [kept(8)])
    const plan = restoreOf(lost, { ...(twin as NonNullable<typeof twin>), family: 'CM3' })
    expect(plan.allowed).toBe(false)
    expect(plan.findings.map((f) => f.code)).toEqual(['family-mismatch', 'clones-address'])
  })
})

test('where a file of a family without a boot header begins is taken from the profile of the firmware', () => {
  const file = new Uint8Array(5000).fill(7, 1)
  const image = { ...dump(file, 1), id: 'i', kind: 'image' as const, read: null, inspection: inspectImage(file) }
  const cm3 = { decision: { family: 'CM3' as const, reason: 'as it is known' } }
  const at = (firmware: string) =>
    preflightOf(
      unit(
        { identify: cm3, check: { fileId: 'i', firmware } },
        { image, startOffsets: { Skiff: { CM3: 0x10000 }, Plainsong: {} } },
      ),
    )
  expect(at('Skiff')?.expectedOffset).toBe(0x10000)
  expect(at('Skiff')?.findings.map((f) => f.code)).not.toContain('offset-unknown')
  expect(at('Plainsong')?.findings.map((f) => f.code)).toContain('offset-unknown')
})

describe('what the bench view ticks off', () => {
  const screws = {
    id: 'f1',
    kind: 'screw' as const,
    count: 4,
    driver: 'PH1',
    place: 'back',
    hiddenUnder: 'none' as const,
    note: '',
    restore: 'same' as const,
    requires: [],
  }
  const view = () =>
    unit({
      open: { fasteners: [screws], parts: ['lens'] },
      close: { restored: { f1: 2, other: 1 } },
      wire: { joined: ['GND'] },
    })
  test('every kind of instruction that has a tick on its page, and back again', () => {
    expect(tickOff(view(), 'wire', 'lead-TX', true)).toEqual({ joined: ['GND', 'TX'], leadsAt: {} })
    expect(tickOff(view(), 'wire', 'lead-GND', false)).toEqual({ joined: [], leadsAt: {} })
    expect(tickOff(view(), 'open', 'out-f1', true)).toEqual({ taken: ['f1'] })
    expect(tickOff(view(), 'close', 'part-lens', true)).toEqual({ partsBack: ['lens'] })
    expect(tickOff(view(), 'close', 'back-f1', true)).toEqual({ restored: { f1: 4, other: 1 } })
    expect(tickOff(view(), 'close', 'back-f1', false)).toEqual({ restored: { other: 1 } })
  })
  test('nothing else: no gate, no caution, nothing of another step', () => {
    for (const id of ['wires-off', 'adapter-out', 'photo-case', 'back-unknown'])
      expect(tickOff(view(), 'close', id, true)).toBeNull()
    expect(tickOff(view(), 'write', 'lead-TX', true)).toBeNull()
  })
  test('what it ticks is what the list asked for: done in order, nothing of it is left', () => {
    const opened = view()
    for (const step of ['open', 'close'] as const)
      for (const one of instructionsOf(opened, step)) {
        const change = tickOff(opened, step, one.id, true)
        if (change) Object.assign(opened.records[step].data, change)
      }
    const left = [...instructionsOf(opened, 'open'), ...instructionsOf(opened, 'close')].map((i) => i.id)
    expect(left.filter((id) => /^(out|part|back)-/.test(id))).toEqual([])
  })
})
