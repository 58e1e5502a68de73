import { withModule } from '@fresh-coat/core/steps/pads/row'
import type { StepData } from '@fresh-coat/core/unit/records'
import { kitOf } from '../server/kit/reads'
import { accessMac, type Hands, stationMac } from './hands'

/** What befell single units of Lantern Yard beyond the way of all: why each of them shows something. */
type Happening = (at: Hands) => Promise<void>

/** Once searched for and found: what helped goes to the next one with the same symptom. */
const found =
  (symptom: string, test: string, yes: boolean, cause: string): Happening =>
  async ({ yard, unitId }) => {
    const troubleId = await yard.idOf('open-trouble', { unitId, step: 'start', symptom })
    await yard.run('answer-trouble', { troubleId, test, yes })
    await yard.run('close-trouble', { troubleId, cause })
  }

/** The router gave it another address later: what was tested with the hub no longer stands. */
const movedAddress: Happening = async (at) => {
  at.yard.clock = new Date(at.yard.now.getTime() - 3 * 86_400_000)
  await at.enter('join', { apMac: accessMac(6), address: '192.168.71.126', mac: stationMac(6), confirmedBy: 'match' })
}

const readsDiffer: Happening = async (at) => {
  await at.enter('backup', { flashId: at.design.flashId })
  const first = at.design.stock(9)
  const second = first.slice()
  for (const place of [0x3005, 0x3fff, 0x90000]) second[place] = (second[place] as number) & 0x7e
  await at.yard.keep('dump', 'unit009_read1.bin', first, { unitId: at.unitId, read: 1 })
  await at.yard.keep('dump', 'unit009_read2.bin', second, { unitId: at.unitId, read: 2 })
}

const wrongImage: Happening = (at) =>
  at.enter('check', {
    fileId: at.things.images['plainsong-lx106-1m-dio.bin'],
    firmware: 'Plainsong',
    firmwareVersion: '9.4.1',
  })

const imageChosen: Happening = (at) => at.enter('check', { fileId: at.things.images['plainsong-lx106-1m-full.bin'] })

const lostMidway: Happening = async (at) => {
  const { yard, unitId } = at
  await at.confirm('write')
  await yard.run('log-attempt', {
    unitId,
    outcome: 'lost-midway',
    minutes: 14,
    verify: 'digest',
    verified: false,
    message: 'stopped at 61 %: no answer',
  })
  const troubleId = await yard.idOf('open-trouble', { unitId, step: 'write', symptom: 'drops_midway' })
  await yard.run('answer-trouble', { troubleId, test: 'rail_ok', yes: true })
  await yard.run('answer-trouble', { troubleId, test: 'other_rate_helps', yes: false })
}

const halfOfTheReadings: StepData['pads']['readings'] = [
  { square: true, cont_gnd: false, ohms_3v3: 0.4, volts: 3.3 },
  { cont_gnd: false, ohms_3v3: 'open', volts: 3.27 },
  { cont_gnd: false, ohms_3v3: 'open', volts: 3.08, volts_10k: 0.6 },
  { cont_gnd: false, ohms_3v3: 10_200 },
  { cont_gnd: true, volts: 0 },
  { label: 'P24' },
]

/** A lamp module on the bench: half the readings are in. What its board knows of pads does not hold for it. */
const halfMeasured: Happening = async (at) => {
  const { version, data } = (await at.load()).records.pads
  await at.yard.run('save-step', {
    unitId: at.unitId,
    step: 'pads',
    version,
    data: {
      ...data,
      pads: Array.from({ length: 6 }, () => 'UNKNOWN'),
      pitchMm: 2,
      bootBy: 'none',
      readings: halfOfTheReadings,
    },
  })
}

/** The other lamp: its module is named, so its contacts are known before anything is measured. */
const moduleNamed: Happening = async (at) => {
  const { modules } = await kitOf(at.yard.db)
  const module = modules.find((m) => m.id === at.things.lampModule)
  if (!module) throw new Error('the module of the lamps is not in the kit')
  const { version, data } = (await at.load()).records.pads
  const readings = [{ ohms_3v3: 0.3, cont_gnd: false }]
  await at.yard.run('save-step', {
    unitId: at.unitId,
    step: 'pads',
    version,
    data: { ...data, ...withModule(module), readings, bootBy: 'none', rowGap: 6 },
  })
}

const inHand: Happening = async (at) => {
  await at.enter('wire', { adapterId: at.things.adapter, entry: 'button' })
  await at.yard.run('take-in-hand', { unitId: at.unitId })
}

/** By the number on the case. */
export const happenings: Readonly<Record<number, Happening>> = {
  2: found('writes_no_start', 'boot_pad_high', false, 'strap_left'),
  3: found('no_answer', 'swap_helps', true, 'txrx_swapped'),
  4: found('writes_no_start', 'download_text', true, 'strap_left'),
  6: movedAddress,
  7: found('writes_no_start', 'boot_pad_high', false, 'strap_left'),
  8: found('drops_midway', 'wiggle', true, 'loose_contact'),
  9: readsDiffer,
  11: wrongImage,
  13: halfMeasured,
  14: moduleNamed,
  17: inHand,
  18: imageChosen,
  20: lostMidway,
}
