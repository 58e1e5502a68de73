import { readBuild } from '@fresh-coat/core/flash/own-build'
import type { FamilyCounts } from '@fresh-coat/core/identify/markings'
import type { KitModule } from '@fresh-coat/core/module/map'
import { readEnded } from '@fresh-coat/core/unit/ended-shape'
import type { Adapter, UnitFile, UnitView } from '@fresh-coat/core/unit/view'
import { attemptView, byAction, iso, troubleView, writtenBy } from '../attempts/reads'
import { boardOf } from '../boards/bundle'
import type { Source } from '../db/client'
import { localDay, localZone, two } from '../db/day'
import { readInspection } from '../files/reads'
import { adapterView, moduleView } from '../kit/reads'
import { calibrationView } from '../meters/reads'
import { readSite } from '../network/reads'
import { wordsView } from '../words/reads'
import {
  type Bundled,
  bundleById,
  bundleByNumber,
  bundleInHand,
  type JsonFile,
  type UnitBundle,
  type UnitRow,
  type Wanted,
} from './bundle'
import { recordsOf } from './records'

/** One unit with everything core judges it by. */

const fileOf = (f: JsonFile): UnitFile => ({
  ...f,
  createdAt: iso(f.createdAt),
  build: readBuild(f.build ?? null),
  inspection: f.inspection === null ? null : readInspection(f.inspection),
})

function attemptsOf(unit: UnitRow, bundle: UnitBundle): Pick<UnitView, 'attempts' | 'reads' | 'struck'> {
  const written = writtenBy(bundle.written)
  const all = bundle.attempts ?? []
  const view = (list: typeof all) => list.map((a) => attemptView(a, unit.number, written))
  return { ...byAction(view(all.filter((a) => !a.struck))), struck: view(all.filter((a) => a.struck)) }
}

/** Whose names give the same topic as this one's. A unit in service keeps its topic: the newcomer is told. */
function clashWords(sharers: readonly number[] | null): string | null {
  if (!sharers || sharers.length === 0) return null
  const more = sharers.length > 3 ? ' and others' : ''
  return `The name gives the same topic as unit ${sharers.slice(0, 3).map(two).join(' and ')}${more}.`
}

/** The adapter that the record names, also where that is only filled in and nobody has saved it yet. */
function adapterOf(bundle: UnitBundle, id: string | null): Adapter | null {
  const row = bundle.adapters?.find((k) => k.id === id)
  return row ? adapterView(row) : null
}

/** The module that the record names; a board's only where nothing was saved yet. */
function moduleOf(bundle: UnitBundle, id: string | null): KitModule | null {
  return bundle.module && bundle.module.id === id ? moduleView(bundle.module) : null
}

export function unitView({ unit, board, bundle }: Bundled, now: Date): UnitView {
  const known = board && bundle.board ? boardOf(board, bundle.board) : null
  const records = recordsOf(bundle, known, bundle.only)
  const site = readSite(bundle.site)
  const firmware = records.check.data.firmware
  return {
    id: unit.id,
    number: unit.number,
    name: unit.name,
    place: unit.place,
    version: unit.version,
    route: records.arrive.data.route,
    inHand: unit.inHand,
    inService: unit.inService,
    ended: readEnded(unit.ended),
    board: known,
    records,
    gates: (bundle.gates ?? []).map((g) => ({ ...g, at: iso(g.at) })),
    confirmed: (bundle.confirmed ?? []).map((g) => ({ ...g, at: iso(g.at) })),
    files: (bundle.files ?? []).map(fileOf),
    ...attemptsOf(unit, bundle),
    calibrations: (bundle.calibrations ?? []).map(calibrationView),
    hubTests: (bundle.hubTests ?? []).map((t) => ({ ...t, at: iso(t.at) })),
    troubles: (bundle.troubles ?? []).map(troubleView),
    words: (bundle.words ?? []).map(wordsView),
    adapter: adapterOf(bundle, records.wire.data.adapterId),
    module: moduleOf(bundle, records.pads.data.moduleId),
    // Also one that was put aside since: it is what this unit got.
    image: bundle.image && fileOf(bundle.image),
    topic: unit.slug === '' ? null : `${site.base}/${site.slug}/${unit.slug}`,
    mainsVolts: site.mainsVolts,
    air: site.air,
    money: site.money,
    slugClash: clashWords(bundle.sharers),
    today: localDay(now),
    zone: localZone(),
    now: now.toISOString(),
    prior: (bundle.prior as FamilyCounts | null) ?? null,
    startOffsets: firmware ? { [firmware]: (bundle.offsets as Record<string, number> | null) ?? {} } : {},
  }
}

export async function loadUnit(source: Source, id: string, now: Date, wanted?: Wanted): Promise<UnitView | null> {
  const found = await bundleById(source, id, wanted)
  return found && unitView(found, now)
}

/** The unit with a case number, or null. */
export async function viewByNumber(
  source: Source,
  number: number,
  now = new Date(),
  wanted?: Wanted,
): Promise<UnitView | null> {
  const found = await bundleByNumber(source, number, wanted)
  return found && unitView(found, now)
}

/** The unit that is in hand, or null. */
export async function viewInHand(source: Source, now: Date, wanted?: Wanted): Promise<UnitView | null> {
  const found = await bundleInHand(source, wanted)
  return found && unitView(found, now)
}
