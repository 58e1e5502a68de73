import { inspectDump } from '../dump/inspect'
import { noAir } from '../unit/air'
import { assess } from '../unit/assess'
import { factsOfUnit } from '../unit/facts'
import { emptyRecord, type StepData } from '../unit/records'
import { conditionsOf } from '../unit/steps'
import type { BoardKnowledge, UnitFile, UnitView } from '../unit/view'
import { type StepId, stepIds, stepOf } from '../unit/way'

/** Units for tests: a mains plug of a board that nobody has opened yet, unless more is said. */

export const board: BoardKnowledge = {
  id: 'b1',
  name: 'Pellworth P1 rev C',
  maker: 'Pellworth',
  product: 'P1',
  revision: 'rev C',
  mains: true,
  fixedWiring: false,
  hasMeter: true,
  family: null,
  flashBytes: null,
  ratedAmps: null,
  ratings: null,
  rawMap: null,
  inPackageFlash: false,
  isolation: null,
  hazards: null,
  fasteners: null,
  parts: null,
  terminals: null,
  capacitor: null,
  pads: null,
  entry: null,
  template: null,
  provenModes: [],
  route: null,
  adapterId: null,
  openMinutes: [],
  railOhms: null,
  rails: [],
  photographed: false,
  tried: null,
  causes: {},
  markings: {},
  unitNumbers: [1],
  unitCount: 1,
}
export type Records = { [S in StepId]?: Partial<StepData[S]> }

/** A unit of that board, with what is given written down and the steps named done on what is known now. */
export function unit(records: Records = {}, more: Partial<UnitView> = {}, done: readonly StepId[] = []): UnitView {
  const base: UnitView = {
    id: 'u1',
    number: 7,
    name: 'Glue pot',
    place: '',
    version: 1,
    route: records.arrive?.route ?? null,
    inHand: true,
    inService: false,
    ended: null,
    board,
    records: Object.fromEntries(
      stepIds.map((s) => [
        s,
        { data: { ...emptyRecord(s), ...records[s] }, done: null, version: records[s] ? 1 : 0, updatedAt: null },
      ]),
    ) as never,
    gates: [],
    confirmed: [],
    files: [],
    attempts: [],
    reads: [],
    calibrations: [],
    hubTests: [],
    troubles: [],
    words: [],
    adapter: null,
    module: null,
    image: null,
    topic: 'yard/lantern/glue-pot',
    mainsVolts: 230,
    air: noAir,
    money: { currency: '', hourWorth: null, prices: [] },
    slugClash: null,
    today: '2026-11-24',
    zone: 'UTC',
    now: '2026-11-24T12:00:00.000Z',
    prior: null,
    startOffsets: {},
    ...more,
  }
  const facts = factsOfUnit(base)
  for (const s of done)
    base.records[s].done = {
      at: '2026-11-20T10:00:00Z',
      by: 'bench',
      how: 'done',
      basis: Object.fromEntries(stepOf(s).restsOn.map((f) => [f, facts[f]])),
    }
  return base
}
export const stateOf = (view: UnitView, step: StepId) => assess(view).steps.find((s) => s.id === step)?.state
/** What keeps a step from being done. */
export const unmet = (view: UnitView, step: StepId) =>
  conditionsOf(view, step)
    .filter((c) => !c.met)
    .map((c) => c.text)
export const lx106 = {
  evidence: [
    { kind: 'crystal', value: '26' },
    { kind: 'boot_text', value: 'cause_74880' },
    { kind: 'sync_reply', value: 'slip' },
  ],
}
export const dump = (bytes: Uint8Array, read: 1 | 2, sha = 'same'): UnitFile => ({
  id: `d${read}`,
  kind: 'dump',
  name: `read${read}.bin`,
  sha256: sha,
  bytes: bytes.length,
  read,
  tag: null,
  createdAt: '2026-11-24T10:00:00Z',
  inspection: inspectDump(bytes),
})
