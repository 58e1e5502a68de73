import { refitOf } from '@fresh-coat/core/refit/of-unit'
import type { RefitCheck } from '@fresh-coat/core/refit/refit'
import { answerTo } from '@fresh-coat/core/steps/check/answered'
import { preflightOf } from '@fresh-coat/core/steps/check/facts'
import { moduleGoesIn } from '@fresh-coat/core/steps/close/conditions'
import { closingQuestions, nothingWasRecorded } from '@fresh-coat/core/steps/close/questions'
import { missingPhotos, moduleComesOff } from '@fresh-coat/core/steps/open/conditions'
import { withAllLeads } from '@fresh-coat/core/steps/wire/leads'
import { ownLeads } from '@fresh-coat/core/steps/wire/own-leads'
import { dischargeClock, gateHolds, gatesFor } from '@fresh-coat/core/unit/gates'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { routes, type StepId } from '@fresh-coat/core/unit/way'
import { loadUnit } from '../server/units/load'
import { type Cast, cast } from './cast'
import { type Design, designs, readingsOf } from './designs'
import { boardPhoto } from './pictures'
import type { Things, Yard } from './yard'

export const stationMac = (n: number) => `b8:3c:d0:77:1e:${(0x80 + n).toString(16)}`
export const accessMac = (n: number) => `ba:3c:d0:77:1e:${(0x80 + n).toString(16)}`

/** Longer than any discharge clock of the yard. */
const waitMinutes = 6

/** A unit in somebody’s hands. */
export class Hands {
  readonly design: Design
  /** Hands learn: the second of a board is quicker than the first, and so on. */
  readonly pace: number
  constructor(
    readonly yard: Yard,
    readonly things: Things,
    readonly role: Cast,
    readonly unitId: string,
  ) {
    this.design = designs[role.design]
    const earlier = cast.filter((c) => c.design === role.design && c.daysAgo > role.daysAgo).length
    this.pace = Math.max(0.3, 0.78 ** earlier)
  }
  async load(): Promise<UnitView> {
    const view = await loadUnit(this.yard.db, this.unitId, this.yard.clock)
    if (!view) throw new Error(`unit ${this.role.number} is not there`)
    return view
  }
  /** Enters a record: what the board knows, what the design says, what is this unit's own. */
  async enter(step: StepId, own: object = {}): Promise<void> {
    const record = (await this.load()).records[step]
    await this.yard.run('save-step', {
      unitId: this.unitId,
      step,
      version: record.version,
      data: { ...record.data, ...this.design.records[step], ...own, ...this.role.records?.[step] },
    })
  }
  /** Confirms the gates in front of a step that do not hold. */
  async confirm(step: StepId): Promise<void> {
    const view = await this.load()
    for (const gate of gatesFor(view, step)) {
      if (gateHolds(view, gate)) continue
      const discharge = gate === 'discharged'
      if (discharge) this.yard.pass(waitMinutes)
      const clock = dischargeClock(await this.load())
      await this.yard.run('confirm-gate', {
        unitId: this.unitId,
        gate,
        measured: discharge ? '0.4' : gate === 'current-limit' ? '400' : '',
        // Near the present the clock of the yard stands still: then the reading alone ends the wait.
        ...(discharge && clock && clock.over > this.yard.clock.toISOString() ? { early: true } : {}),
      })
    }
  }
}

type Work = (at: Hands, yard: Yard) => Promise<void>

const arrive: Work = (at) =>
  at.enter('arrive', { route: at.role.route ?? 'wires-in-place', triedAsSold: 'works', load: 'lamp', mounted: false })

const hazards = [
  { kind: 'capacitor', place: 'beside the supply' },
  { kind: 'bare', place: 'the tabs of the socket' },
] as const

const open: Work = async (at, yard) => {
  const pads = (at.design.records.pads?.pads ?? []).length || 4
  const name = (tag: string) => `unit${String(at.role.number).padStart(2, '0')}-${tag.replaceAll('_', '-')}.png`
  await at.enter('open')
  // The first of a board is photographed from all sides; later ones need one.
  let top = ''
  for (const tag of missingPhotos(await at.load())) {
    const fileId = await yard.keep('photo', name(tag), boardPhoto(pads, tag === 'board_top' ? at.design.relays : 0), {
      unitId: at.unitId,
      tag,
    })
    if (tag === 'board_top') top = fileId
    yard.pass(at.pace)
  }
  const view = await at.load()
  const { fasteners } = view.records.open.data
  await at.enter('open', {
    taken: fasteners.map((f) => f.id),
    minutes: Math.round(11 * at.pace),
    moduleOff: moduleComesOff(view),
    // The first of a board is looked at for what can hurt; its board tells the next ones.
    ...(view.board?.mains && view.board.hazards === null ? { hazards, hazardsLooked: true } : {}),
    marks: [
      ...(view.board?.mains
        ? [{ id: `${at.role.number}-hot`, fileId: top, kind: 'hazard', x: 0.8, y: 0.3, label: 'capacitor' } as const]
        : []),
      { id: `${at.role.number}-chip`, fileId: top, kind: 'chip', x: 0.23, y: 0.37, label: at.design.printed },
      ...Array.from({ length: pads }, (_, i) => ({
        id: `${at.role.number}-pad${i}`,
        fileId: top,
        kind: 'pad',
        x: (54 + i * 22) / 320,
        y: 146 / 200,
        label: at.design.records.pads?.pads?.[i] ?? '',
      })),
    ],
  })
}

const identify: Work = (at) => at.enter('identify', { printed: at.design.printed })

const pads: Work = async (at) => {
  const known = (await at.load()).board?.pads != null
  await at.enter('pads', known ? {} : { readings: readingsOf(at.design.records.pads?.pads ?? []) })
}

/** Measures what was soldered, and finds it good: every unit a few ohms unlike the others. */
async function measure(at: Hands, step: 'wire' | 'close'): Promise<void> {
  const judged = refitOf(await at.load(), step)
  if (!judged) return
  const rail = 405 + ((at.role.number * 7) % 30)
  const ohms = (check: RefitCheck) => {
    if (check.expected === 'range') return rail
    if (check.expected === 'joined') return 0.2 + ((check.a * 3 + at.role.number) % 4) / 10
    return check.minOhm === 1000 ? null : rail
  }
  await at.enter(step, { refit: { readings: Object.fromEntries(judged.checks.map((c) => [c.id, ohms(c)])), sure: [] } })
}

const wire: Work = async (at) => {
  await at.enter('wire', {
    adapterId: at.design.records.wire?.entry === 'jumper' ? at.things.strongAdapter : at.things.adapter,
    power: at.design.records.wire?.entry === 'jumper' ? 'adapter3v3' : 'bench',
    ties: ownLeads(await at.load()).map((t) => t.id),
  })
  await at.enter('wire', withAllLeads(await at.load()))
  await measure(at, 'wire')
}

const backup: Work = async (at, yard) => {
  await at.enter('backup', { flashId: at.design.flashId })
  const bytes = at.design.stock(at.role.number)
  const name = (read: number) => `unit${String(at.role.number).padStart(3, '0')}_read${read}.bin`
  await yard.keep('dump', name(1), bytes, { unitId: at.unitId, read: 1 })
  yard.pass(at.pace * 4)
  await yard.keep('dump', name(2), bytes, { unitId: at.unitId, read: 2 })
}

const check: Work = async (at) => {
  await at.enter('check', { fileId: at.things.images[at.design.image] })
  const watch = preflightOf(await at.load())?.findings.filter((f) => f.severity === 'watch') ?? []
  await at.enter('check', { answered: watch.map(answerTo) })
}

const write: Work = async (at, yard) => {
  await at.confirm('write')
  yard.pass(at.pace * 3)
  await yard.run('log-attempt', {
    unitId: at.unitId,
    outcome: 'done',
    minutes: 9 + (at.role.number % 5),
    seconds: 43 + (at.role.number % 4),
    verify: 'digest',
    verified: true,
    message: '',
  })
  await at.confirm('write')
}

const join: Work = (at) =>
  at.enter('join', {
    apMac: accessMac(at.role.number),
    nameSuffix: accessMac(at.role.number).replaceAll(':', '').slice(-4).toUpperCase(),
    address: `192.168.71.${20 + at.role.number}`,
    mac: stationMac(at.role.number),
    confirmedBy: 'match',
  })

/** What powers it, and one pin seen on this very unit: the rest its board taught. */
const pins: Work = async (at) => {
  const { route, records } = await at.load()
  const template = at.design.records.pins?.template ?? records.pins.data.template
  const [first, ...rest] = template?.pins ?? []
  const mine = { unit: String(at.role.number), sitting: 's1', agrees: true }
  await at.enter('pins', {
    power: route !== null && routes[route].skips.includes('open') ? 'mains' : 'adapter',
    ...(template && first
      ? { template: { ...template, pins: [{ ...first, evidence: [...(first.evidence ?? []), mine] }, ...rest] } }
      : {}),
  })
}

const close: Work = async (at, yard) => {
  const view = await at.load()
  const open = view.records.open.data
  await at.enter('close', {
    moduleBack: moduleGoesIn(view),
    answers: Object.fromEntries(closingQuestions(view).map((q) => [q.id, q.safe])),
    ...(nothingWasRecorded(view) ? { fastenersOut: 0, fastenersBack: 0, looseParts: 0, unharmed: 'yes' } : {}),
    ...(open.fasteners.some((f) => f.restore === 'glue')
      ? { gluedAt: new Date(yard.clock.getTime() - 30 * 3_600_000).toISOString(), glueHours: 24 }
      : {}),
    restored: Object.fromEntries(open.fasteners.map((f) => [f.id, f.count])),
    partsBack: open.parts,
  })
  await measure(at, 'close')
}

const meter: Work = async (at, yard) => {
  const view = await at.load()
  if (!view.board?.hasMeter) return
  const scale = 1 + at.role.number / 1000
  const points = [
    ['p1', 58.1, 60.2],
    ['p2', 115.9, 120.4],
    ['p3', 481.0, 500.9],
    ['p4', 961.8, 1001.2],
    ['p5', 1844.6, 1921.0],
    ['v1', 722.4, 751.6],
  ] as const
  await at.enter('meter', {
    instrumentId: at.things.instrument,
    warm: true,
    zeros: [0, 0.1, 0, 0.2, 0.1],
    points: points.map(([id, indicated, reference]) => ({
      id,
      indicated: Math.round((indicated / scale) * 10) / 10,
      reference,
      role: id === 'v1' ? 'verify' : 'fit',
    })),
  })
  await yard.run('save-calibration', { unitId: at.unitId })
}

const name: Work = (at) => at.enter('name', { reserved: true })

const hub: Work = async (at, yard) => {
  await at.enter('hub', { hubId: at.things.hub })
  const seen = [
    ['details in the unit', 'its page says connected'],
    ['shown by the hub', 'its topic stands in the list'],
    ['named and placed', 'its name, its room, its number on the icon'],
    ['hub to unit', 'the load went on and off'],
    ['button to hub', 'Mantel showed the press'],
    ['automations', 'no automation uses it'],
  ] as const
  for (const [direction, what] of seen)
    await yard.run('add-hub-test', { unitId: at.unitId, direction, ok: true, seen: what })
  if (at.role.number === 21)
    await yard.run('keep-secret', {
      unitId: at.unitId,
      name: 'Local key',
      keptIn: 'hub',
      value: 'made-up-local-key-21',
    })
}

const prove: Work = (at) => at.enter('prove', { powerCut: { seconds: 12, cameBack: 'as wanted', rejoinSeconds: 9 } })

/** What a person does at each step before it is done; a step that is not here is its record alone. */
export const work: { [S in StepId]?: Work } = {
  arrive,
  open,
  identify,
  pads,
  wire,
  backup,
  check,
  write,
  join,
  pins,
  close,
  meter,
  name,
  hub,
  prove,
}
