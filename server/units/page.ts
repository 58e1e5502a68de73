import type { Family } from '@fresh-coat/core/families/families'
import type { Release } from '@fresh-coat/core/flash/release'
import { type Pace, paceOf } from '@fresh-coat/core/fleet/bench-time'
import { nextName } from '@fresh-coat/core/fleet/next-name'
import type { Marking } from '@fresh-coat/core/identify/markings'
import type { ConsoleWords } from '@fresh-coat/core/link/questions'
import type { KitModule } from '@fresh-coat/core/module/map'
import type { SetupMode } from '@fresh-coat/core/network/beats'
import type { Phrases } from '@fresh-coat/core/profile/phrases'
import type { BackupFact, TwinBackup } from '@fresh-coat/core/steps/backup/facts'
import { bootOf } from '@fresh-coat/core/steps/start/facts'
import { entryLogOf } from '@fresh-coat/core/steps/wire/facts'
import type { Adapter, BoardKnowledge, Instrument, UnitFile, UnitView } from '@fresh-coat/core/unit/view'
import type { StepId } from '@fresh-coat/core/unit/way'
import { and, asc, eq, isNull, ne, sql } from 'drizzle-orm'
import { type BoardChoice, boardChoices } from '../boards/lists'
import { type Db, inSnapshot, type Source } from '../db/client'
import { type LogLine, logLines } from '../db/log'
import * as schema from '../db/schema'
import { together } from '../db/together'
import { images } from '../files/reads'
import { kitViews, type Line, type Load, markings, type ProfileData } from '../kit/reads'
import { type Hub, hubs, otherUnits } from '../network/reads'
import type { Wanted } from './bundle'
import { viewByNumber } from './load'
import { costOfRoutes } from './pace'
import { type PageBundle, pageBundle } from './page-bundle'

/** What the page of a unit at one step shows and can choose from, as of one moment. */

export interface Choices {
  boards: BoardChoice[]
  adapters: Adapter[]
  instruments: Instrument[]
  loads: Load[]
  lines: Line[]
  /** Contact maps of modules. */
  modules: KitModule[]
  hubs: Hub[]
  profiles: {
    id: string
    name: string
    families: string[]
    setupAddress: string
    setup: SetupMode | null
    releases: Release[]
    console: ConsoleWords | null
    phrases: Phrases | null
  }[]
  images: UnitFile[]
  /** Kept stock firmware of other units of the same board. */
  twins: TwinBackup[]
  otherUnits: Awaited<ReturnType<typeof otherUnits>>
  /** Printed markings that read like this unit's, with the counts found for each. */
  markings: Marking[]
  /** The next free case number, and the name that counts on from this unit's. */
  next: { number: number; name: string }
  /** Hands-on minutes of the units of this board, in the order they were begun. */
  pace: Pace | null
  /** Median minutes of the proven units of each route, and how many there were. */
  routes: Awaited<ReturnType<typeof costOfRoutes>>
  secrets: { id: string; name: string; keptIn: string; createdAt: string }[]
}

export interface UnitPage {
  view: UnitView
  choices: Choices
  log: LogLine[]
  before: number | null
  after: number | null
}

/** Lines of the log beside a unit. */
export const logLength = 7
const mostTwins = 12

/** Units of the same board whose stock firmware is kept, the verified ones first. */
export async function twins(source: Source, view: UnitView): Promise<TwinBackup[]> {
  if (!view.board) return []
  const { unitState: s, unit, file, blob } = schema
  const rows = await source
    .select({
      number: s.number,
      name: unit.name,
      family: s.family,
      state: s.backup,
      // Never its inspection: the map of a chip is long, and another unit's is not looked at here.
      file: { id: file.id, name: file.name, sha256: file.sha256, bytes: blob.bytes, held: blob.held },
    })
    .from(s)
    .innerJoin(unit, eq(unit.id, s.unitId))
    .innerJoin(
      file,
      and(
        eq(file.unitId, unit.id),
        // Not as values: it would be planned anew each time.
        sql`${file.kind} = 'dump' and ${file.read} = 1`,
        isNull(file.asideAt),
        isNull(file.struckAt),
      ),
    )
    .innerJoin(blob, eq(blob.sha256, file.sha256))
    .where(and(eq(s.boardId, view.board.id), ne(s.unitId, view.id), sql`${s.backup} not in ('none', 'skipped')`))
    .orderBy(asc(sql`(${s.backup} <> 'verified')`), asc(s.number))
    .limit(mostTwins)
  return rows.map((r) => ({
    number: r.number,
    name: r.name,
    family: r.family as Family | null,
    state: r.state as BackupFact['state'],
    file: r.file,
  }))
}

/** What can be chosen at a step; lists that another step needs are left out. */
async function choicesFor(source: Source, view: UnitView, around: PageBundle, step: StepId): Promise<Choices> {
  const at = (...steps: StepId[]) => steps.includes(step)
  const asked = await together({
    boards: at('arrive') ? boardChoices(source) : [],
    hubs: at('hub') ? hubs(source) : [],
    images: at('check') ? images(source) : [],
    twins: at('backup', 'pins') ? twins(source, view) : [],
    otherUnits: at('join') ? otherUnits(source, view.number) : [],
    markings: at('identify') ? markings(source, view.records.identify.data.printed) : [],
    routes: at('arrive') ? costOfRoutes(source) : {},
  })
  return {
    ...asked,
    ...kitViews(at('pads') ? (around.kit ?? []) : (around.kit ?? []).filter((k) => k.kind !== 'module')),
    profiles: (around.profiles ?? []).map((p) => profileChoice(p, at)),
    next: { number: around.highest + 1, name: nextName(view.name, around.alike ?? []) },
    pace: view.board && paceOf(around.pace ?? []),
    secrets: (around.secrets ?? []).map((s) => ({ ...s, createdAt: new Date(s.createdAt).toISOString() })),
  }
}

function profileChoice(
  p: NonNullable<PageBundle['profiles']>[number],
  at: (step: StepId) => boolean,
): Choices['profiles'][number] {
  const data = p.data as ProfileData
  return {
    id: p.id,
    name: p.name,
    families: data.families,
    setupAddress: data.setupAddress,
    setup: at('join') ? (data.setup ?? null) : null,
    releases: at('watch') ? (data.releases ?? []) : [],
    phrases: at('behaviour') || at('join') ? (data.phrases ?? null) : null,
    console: at('start') || at('pins') ? (data.console ?? null) : null,
  }
}

/** A text this long goes to the page of its own step only. */
const longText = 4000

/**
 * What a page of one step has no use for: other steps' long texts (their boot logs go along as they were read), and the
 * sector maps of dumps away from Back up.
 */
export function trimmed(view: UnitView, step: StepId): UnitView {
  const { wire, start, join } = view.records
  const boots: NonNullable<UnitView['boots']> = {}
  const records = { ...view.records }
  if (step !== 'start' && start.data.log.length > longText) {
    boots.start = bootOf(view) ?? undefined
    records.start = { ...start, data: { ...start.data, log: '' } }
  }
  if (step !== 'wire' && wire.data.log.length + wire.data.logHex.length > longText) {
    boots.wire = entryLogOf(view) ?? undefined
    records.wire = { ...wire, data: { ...wire.data, log: '', logHex: '' } }
  }
  if (step !== 'join' && join.data.before.length + join.data.after.length > longText)
    records.join = { ...join, data: { ...join.data, before: '', after: '' } }
  return {
    ...view,
    records,
    boots,
    board: view.board && boardFor(view.board, step),
  }
}

/** Steps whose page counts how attempts on the board went. */
const countsAttempts: ReadonlySet<StepId> = new Set(['backup', 'check', 'write'])

/** What a page of a step is loaded with. */
export const wantedAt = (step: StepId): Wanted => ({ maps: step === 'backup', counted: countsAttempts.has(step) })

/** Of a board, its readings go where pads are looked for. */
const boardFor = (board: BoardKnowledge, step: StepId): BoardKnowledge => ({
  ...board,
  pads: board.pads && step !== 'pads' ? { ...board.pads, readings: [] } : board.pads,
})

export async function unitPage(db: Db, number: number, step: StepId, now = new Date()): Promise<UnitPage | null> {
  return inSnapshot(db, async (tx) => {
    const [view, around] = await Promise.all([
      viewByNumber(tx, number, now, wantedAt(step)),
      Number.isInteger(number) && number > 0 && number < 2 ** 31 ? pageBundle(tx, number) : null,
    ])
    if (!view || !around) return null
    return {
      view: trimmed(view, step),
      choices: await choicesFor(tx, view, around, step),
      log: logLines(around.log ?? [], logLength),
      before: around.before,
      after: around.after,
    }
  })
}
