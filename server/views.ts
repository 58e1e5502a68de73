import type { Family } from '@fresh-coat/core/families/families'
import type { Release } from '@fresh-coat/core/flash/release'
import { benchMinutes, type Pace, paceOf } from '@fresh-coat/core/fleet/bench-time'
import { type FamilyCounts, gatherMarkings, type Marking } from '@fresh-coat/core/identify/markings'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import { type Assessment, assess } from '@fresh-coat/core/journey/assess'
import type { BoardFactKey } from '@fresh-coat/core/journey/board-learning'
import { prefilled } from '@fresh-coat/core/journey/board-learning'
import { type KeptTable, keptTable } from '@fresh-coat/core/journey/chip-layout'
import { readRecord } from '@fresh-coat/core/journey/records'
import { stepIds } from '@fresh-coat/core/journey/steps'
import type {
  Adapter,
  Attempt,
  BoardKnowledge,
  Calibration,
  DoneMark,
  HubTest,
  Instrument,
  StepRecord,
  TroubleRecord,
  UnitFile,
  UnitView,
} from '@fresh-coat/core/journey/view'
import { planTopics, type TopicsPlan } from '@fresh-coat/core/topics/plan'
import { isSlug } from '@fresh-coat/core/topics/slug'
import { desc, eq, isNull } from 'drizzle-orm'
import type { Source } from './db'
import * as schema from './schema'

/** Loads what is stored and gives it back in core's terms. */

export interface Site {
  name: string
  base: string
  slug: string
}
const defaultSite: Site = { name: 'My place', base: 'home', slug: 'main' }

export async function siteOf(source: Source): Promise<Site> {
  const [row] = await source.select().from(schema.setting).where(eq(schema.setting.key, 'site'))
  const site = row?.value as Partial<Site> | undefined
  return site?.base && isSlug(site.base) && site.slug && isSlug(site.slug) ? { ...defaultSite, ...site } : defaultSite
}

/** The local day, as gates and due dates count it. */
export const localDay = (now = new Date()): string =>
  `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, '0')}-${String(now.getDate()).padStart(2, '0')}`

type BoardRow = typeof schema.board.$inferSelect
type FactRow = typeof schema.boardFact.$inferSelect

export interface FactEvidence {
  key: BoardFactKey
  value: unknown
  unitNumber: number | null
  step: string | null
  at: string
}

export interface BoardView extends BoardKnowledge {
  version: number
  note: string
  facts: FactEvidence[]
  photos: UnitFile[]
}

export interface SecretRow {
  id: string
  unitId: string | null
  name: string
  keptIn: string
  createdAt: string
}

export interface Shop {
  today: string
  site: Site
  units: UnitView[]
  assessments: Map<string, Assessment>
  boards: BoardView[]
  adapters: (Adapter & { version: number })[]
  instruments: (Instrument & { version: number })[]
  loads: { id: string; name: string; watts: number; kind: string; version: number }[]
  hubs: { id: string; name: string }[]
  profiles: { id: string; name: string; version: number; data: ProfileData }[]
  images: UnitFile[]
  topics: TopicsPlan | null
  markings: Marking[]
  /** Chances of the families before any evidence, when the workshop has entered its own. */
  prior: FamilyCounts | null
}

export interface ProfileData {
  families: string[]
  setupAddress: string
  about: string
  releases?: Release[]
  startOffsets?: Partial<Record<Family, number>>
}

const boardName = (b: Pick<BoardRow, 'maker' | 'product' | 'revision'>) =>
  [b.maker, b.product, b.revision].filter(Boolean).join(' ')

function boardView(
  row: BoardRow,
  facts: FactRow[],
  units: { id: string; number: number; boardId: string | null }[],
  identified: Map<string, string>,
  photos: UnitFile[],
  records: readonly { unitId: string; step: string; data: unknown }[],
  troubles: readonly { unitId: string; cause: string | null }[],
  attempts: readonly (typeof schema.attempt.$inferSelect)[],
  known: Known,
): BoardView {
  const newest = (key: BoardFactKey) =>
    facts.filter((f) => f.key === key).sort((a, b) => b.at.getTime() - a.at.getTime())[0]?.value ?? null
  const mine = units.filter((u) => u.boardId === row.id)
  const opened = mine.flatMap((u) => {
    const record = records.find((r) => r.unitId === u.id && r.step === 'open')
    return record ? [{ unit: u.number, data: readRecord('open', record.data) }] : []
  })
  const causes: BoardKnowledge['causes'] = {}
  for (const t of troubles)
    if (t.cause && mine.some((u) => u.id === t.unitId)) causes[t.cause] = (causes[t.cause] ?? 0) + 1
  const markings: BoardKnowledge['markings'] = {}
  for (const u of mine) {
    const family = identified.get(u.id) as keyof typeof markings | undefined
    if (family) markings[family] = (markings[family] ?? 0) + 1
  }
  return {
    id: row.id,
    name: boardName(row),
    maker: row.maker,
    product: row.product,
    revision: row.revision,
    mains: row.mains,
    fixedWiring: row.fixedWiring,
    hasMeter: row.hasMeter,
    inPackageFlash: row.inPackageFlash,
    note: row.note,
    version: row.version,
    family: newest('family') as BoardKnowledge['family'],
    flashBytes: newest('flashBytes') as number | null,
    ratedAmps: newest('ratedAmps') as number | null,
    isolation: newest('isolation') as BoardKnowledge['isolation'],
    fasteners: newest('fasteners') as BoardKnowledge['fasteners'],
    parts: newest('parts') as string[] | null,
    terminals: newest('terminals') as BoardKnowledge['terminals'],
    capacitor: newest('capacitor') as BoardKnowledge['capacitor'],
    pads: newest('pads') as BoardKnowledge['pads'],
    entry: newest('entry') as BoardKnowledge['entry'],
    template: newest('template') as BoardKnowledge['template'],
    provenModes: (newest('provenModes') as string[] | null) ?? [],
    marks: opened.flatMap((o) => o.data.marks),
    openMinutes: opened.flatMap((o) => (o.data.minutes === null ? [] : [{ unit: o.unit, minutes: o.data.minutes }])),
    photoCount: photos.length,
    ...tried(
      attempts.flatMap((a) => {
        const unit = mine.find((u) => u.id === a.unitId)
        return unit ? [attemptView(a, unit.number, known)] : []
      }),
    ),
    causes,
    markings,
    unitNumbers: mine.map((u) => u.number).sort((a, b) => a - b),
    facts: facts.map((f) => ({
      key: f.key as BoardFactKey,
      value: f.value,
      unitNumber: units.find((u) => u.id === f.unitId)?.number ?? null,
      step: f.step,
      at: f.at.toISOString(),
    })),
    photos,
  }
}

/** What is known of the files that were written, by their hash. */
type Known = ReadonlyMap<string, { table: KeptTable | null; build: string }>

/** Writes and reads apart: what was written, and what that taught, must not be mixed up with reading. */
const tried = (all: readonly Attempt[]) => ({
  attempts: all.filter((a) => a.action !== 'read'),
  reads: all.filter((a) => a.action === 'read'),
})

function attemptView(a: typeof schema.attempt.$inferSelect, unitNumber: number, known: Known): Attempt {
  const data = a.data as Omit<Attempt, 'id' | 'at'>
  const { table = null, build = '' } = known.get(data.sha256) ?? {}
  return { ...data, id: a.id, at: a.at.toISOString(), unitNumber, table, build }
}

const fileView = (f: typeof schema.file.$inferSelect & { bytes: number; held: boolean }): UnitFile => ({
  id: f.id,
  kind: f.kind as UnitFile['kind'],
  name: f.name,
  sha256: f.sha256,
  bytes: f.bytes,
  held: f.held,
  read: f.read,
  tag: f.tag,
  createdAt: f.createdAt.toISOString(),
  sourceId: f.sourceId,
  version: f.version,
  origin: f.origin,
  firmware: f.firmware,
  release: f.release,
  inspection: f.inspection,
})

/**
 * Everything of the site in one go: some thirty units, read together so that names and boards agree.
 * @param judged false leaves the assessments out: a command that needs one unit need not judge all of them
 */
export async function loadShop(source: Source, now = new Date(), judged = true): Promise<Shop> {
  const site = await siteOf(source)
  const [priorRow] = await source.select().from(schema.setting).where(eq(schema.setting.key, 'prior'))
  const prior = (priorRow?.value as FamilyCounts | undefined) ?? null
  const today = localDay(now)
  // One after another: inside a transaction there is one connection, and it takes one query at a time.
  const unitRows = await source.select().from(schema.unit).orderBy(schema.unit.number)
  const boardRows = await source
    .select()
    .from(schema.board)
    .orderBy(schema.board.maker, schema.board.product, schema.board.revision)
  const factRows = await source.select().from(schema.boardFact)
  const recordRows = await source.select().from(schema.stepRecord)
  const gateRows = await source.select().from(schema.gate).where(isNull(schema.gate.clearedAt))
  const everyFile = await source
    .select({ file: schema.file, bytes: schema.blob.bytes, held: schema.blob.held })
    .from(schema.file)
    .innerJoin(schema.blob, eq(schema.file.sha256, schema.blob.sha256))
    .orderBy(desc(schema.file.createdAt))
  const fileRows = everyFile.filter((r) => r.file.asideAt === null)
  // A file that was put aside may still be what lies on a chip.
  const writtenFiles: Known = new Map(
    everyFile
      .filter((r) => r.file.kind === 'image')
      .map((r) => [
        r.file.sha256,
        {
          table: r.file.inspection ? keptTable(r.file.inspection as ImageInspection) : null,
          build: /^[^/]+\/(.+)$/.exec(r.file.release)?.[1] ?? '',
        },
      ]),
  )
  const attemptRows = await source.select().from(schema.attempt).orderBy(desc(schema.attempt.at))
  const troubleRows = await source.select().from(schema.trouble).orderBy(desc(schema.trouble.openedAt))
  const markingRows = await source.select().from(schema.marking)
  const calibrationRows = await source.select().from(schema.calibration).orderBy(desc(schema.calibration.at))
  const testRows = await source.select().from(schema.hubTest).orderBy(desc(schema.hubTest.at))
  const hubRows = await source.select().from(schema.hub).orderBy(schema.hub.name)
  const kitRows = await source.select().from(schema.kit).orderBy(schema.kit.name)
  const profileRows = await source.select().from(schema.profile).orderBy(schema.profile.name)

  const startOffsets = Object.fromEntries(profileRows.map((p) => [p.name, (p.data as ProfileData).startOffsets ?? {}]))

  const identified = new Map<string, string>()
  for (const r of recordRows) {
    if (r.step !== 'identify' || !r.done) continue
    const decided = readRecord('identify', r.data).decision?.family
    const family = decided ?? (r.done as DoneMark).family
    if (family) identified.set(r.unitId, family)
  }
  const files = fileRows.map((r) => ({
    unitId: r.file.unitId,
    view: fileView({ ...r.file, bytes: r.bytes, held: r.held }),
  }))
  const boards = boardRows.map((row) => {
    const members = new Set(unitRows.filter((u) => u.boardId === row.id).map((u) => u.id))
    const photos = files
      .filter((f) => f.view.kind === 'photo' && f.unitId !== null && members.has(f.unitId))
      .map((f) => f.view)
    return boardView(
      row,
      factRows.filter((f) => f.boardId === row.id),
      unitRows,
      identified,
      photos,
      recordRows,
      troubleRows,
      attemptRows,
      writtenFiles,
    )
  })
  const adapters = kitRows
    .filter((k) => k.kind === 'adapter')
    .map((k) => ({ ...(k.data as Omit<Adapter, 'id' | 'name'>), id: k.id, name: k.name, version: k.version }))
  const instruments = kitRows
    .filter((k) => k.kind === 'instrument')
    .map((k) => ({ ...(k.data as Omit<Instrument, 'id' | 'name'>), id: k.id, name: k.name, version: k.version }))
  const loads = kitRows
    .filter((k) => k.kind === 'load')
    .map((k) => ({ ...(k.data as { watts: number; kind: string }), id: k.id, name: k.name, version: k.version }))
  const images = files.filter((f) => f.view.kind === 'image').map((f) => f.view)

  const recordsOf = (unitId: string, known: BoardKnowledge | null) =>
    Object.fromEntries(
      stepIds.map((step) => {
        const row = recordRows.find((r) => r.unitId === unitId && r.step === step)
        const record: StepRecord = row
          ? {
              data: readRecord(step, row.data),
              done: row.done as DoneMark | null,
              version: row.version,
              updatedAt: row.updatedAt.toISOString(),
            }
          : { data: prefilled(step, known), done: null, version: 0, updatedAt: null }
        return [step, record]
      }),
    ) as unknown as UnitView['records']

  const drafts = unitRows.map((row): UnitView => {
    const known = boards.find((b) => b.id === row.boardId) ?? null
    const records = recordsOf(row.id, known)
    const own = files.filter((f) => f.unitId === row.id).map((f) => f.view)
    return {
      id: row.id,
      number: row.number,
      name: row.name,
      place: row.place,
      version: row.version,
      route: records.arrive.data.route,
      inHand: row.inHand,
      inService: row.inService,
      board: known,
      records,
      gates: gateRows
        .filter((g) => g.unitId === row.id)
        .map((g) => ({
          gate: g.gate as UnitView['gates'][number]['gate'],
          day: g.day,
          at: g.at.toISOString(),
          by: g.by,
          measured: g.measured,
        })),
      files: own,
      ...tried(attemptRows.filter((a) => a.unitId === row.id).map((a) => attemptView(a, row.number, writtenFiles))),
      calibrations: calibrationRows.filter((c) => c.unitId === row.id).map((c) => calibrationView(c)),
      hubTests: testRows
        .filter((t) => t.unitId === row.id)
        .map((t) => ({
          id: t.id,
          at: t.at.toISOString(),
          by: t.by,
          hub: hubRows.find((h) => h.id === t.hubId)?.name ?? '',
          direction: t.direction as HubTest['direction'],
          ok: t.ok,
          seen: t.seen,
          basis: t.basis as HubTest['basis'],
        })),
      troubles: troubleRows
        .filter((t) => t.unitId === row.id)
        .map((t) => ({
          id: t.id,
          step: t.step as TroubleRecord['step'],
          symptom: t.symptom,
          answers: t.answers as TroubleRecord['answers'],
          cause: t.cause,
          note: t.note,
          openedAt: t.openedAt.toISOString(),
          closedAt: t.closedAt?.toISOString() ?? null,
          attemptId: t.attemptId,
          version: t.version,
        })),
      adapter: adapters.find((a) => a.id === records.wire.data.adapterId) ?? null,
      image: images.find((f) => f.id === records.check.data.fileId) ?? null,
      topic: null,
      slugClash: null,
      today,
      now: now.toISOString(),
      prior,
      startOffsets,
    }
  })
  const topics = topicsFor(site, drafts)
  const units = drafts.map((u): UnitView => {
    const clash = topics?.collisions.find((c) => c.units.includes(u.id))
    const others = clash?.units.filter((id) => id !== u.id).map((id) => drafts.find((d) => d.id === id)?.number) ?? []
    return {
      ...u,
      topic: topics?.units.find((t) => t.id === u.id)?.prefix ?? null,
      slugClash: clash ? `The name gives the same topic as unit ${others.join(' and ')}.` : null,
    }
  })
  return {
    today,
    site,
    units,
    assessments: new Map(judged ? units.map((u) => [u.id, assess(u)]) : []),
    boards,
    adapters,
    instruments,
    loads,
    hubs: hubRows.map((h) => ({ id: h.id, name: h.name })),
    profiles: profileRows.map((p) => ({ id: p.id, name: p.name, version: p.version, data: p.data as ProfileData })),
    images,
    topics,
    markings: gatherMarkings(
      units.map((u) => ({
        number: u.number,
        printed: u.records.identify.data.printed,
        family: (identified.get(u.id) as Family | undefined) ?? null,
      })),
      markingRows.map((m) => ({ text: m.text, counts: m.counts as FamilyCounts })),
    ),
    prior,
  }
}

function calibrationView(c: typeof schema.calibration.$inferSelect): Calibration {
  const result = c.result as {
    model: string
    gain: number
    offset: number
    passed: boolean | null
    due: string | null
    points: { errAfterPct: number | null }[]
  }
  const errors = result.points.flatMap((p) => (p.errAfterPct === null ? [] : [Math.abs(p.errAfterPct)]))
  return {
    id: c.id,
    at: c.at.toISOString(),
    quantity: (c.input as { quantity: string }).quantity,
    model: result.model,
    gain: result.gain,
    offset: result.offset,
    passed: result.passed,
    worstAfterPct: errors.length ? Math.max(...errors) : null,
    due: result.due,
    firmware: c.firmware,
  }
}

/** Names and topics of all units together; null only when a stored name cannot be planned at all. */
function topicsFor(site: Site, units: readonly UnitView[]): TopicsPlan | null {
  const plan = planTopics({
    base: site.base,
    site: site.slug,
    units: units.map((u) => {
      const { pinned, spoken } = u.records.name.data
      return {
        id: u.id,
        number: u.number,
        name: u.name,
        spoken: spoken || null,
        pinned: isSlug(pinned) && pinned !== 'hub' && pinned !== 'groups' ? pinned : null,
        meter: u.board?.hasMeter ?? false,
      }
    }),
  })
  return plan.ok ? plan.value : null
}

export const unitOf = (shop: Shop, number: number): UnitView | null =>
  shop.units.find((u) => u.number === number) ?? null

export interface LogLine {
  id: number
  at: string
  sentence: string
  unitNumber: number | null
  undone: boolean
}

/** The newest events; the edits that led to another line of the same step are left out. */
export async function recentEvents(source: Source, limit: number, unitId?: string): Promise<LogLine[]> {
  const rows = await source
    .select({
      id: schema.event.id,
      at: schema.event.at,
      kind: schema.event.kind,
      step: schema.event.step,
      sentence: schema.event.sentence,
      undoneAt: schema.event.undoneAt,
      unitId: schema.event.unitId,
      number: schema.unit.number,
    })
    .from(schema.event)
    .leftJoin(schema.unit, eq(schema.event.unitId, schema.unit.id))
    .where(unitId ? eq(schema.event.unitId, unitId) : undefined)
    .orderBy(desc(schema.event.id))
    .limit(limit * 6)
  const out: LogLine[] = []
  let last = ''
  for (const r of rows) {
    // What was typed on the way to a later line of the same step is told by that line.
    const key = `${r.unitId} ${r.step}`
    if (r.kind === 'step-edited' && key === last) continue
    last = r.step === null ? '' : key
    out.push({
      id: r.id,
      at: r.at.toISOString(),
      sentence: r.sentence,
      unitNumber: r.number,
      undone: r.undoneAt !== null,
    })
  }
  return out.slice(0, limit)
}

export async function secretsOf(source: Source, unitId: string): Promise<SecretRow[]> {
  const rows = await source
    .select({
      id: schema.secret.id,
      unitId: schema.secret.unitId,
      name: schema.secret.name,
      keptIn: schema.secret.keptIn,
      createdAt: schema.secret.createdAt,
    })
    .from(schema.secret)
    .where(eq(schema.secret.unitId, unitId))
  return rows.map((r) => ({ ...r, createdAt: r.createdAt.toISOString() }))
}

/** Hands-on minutes of every unit of a board, worked out from its events. */
export async function paceOfBoard(source: Source, boardId: string): Promise<Pace> {
  const rows = await source
    .select({ number: schema.unit.number, at: schema.event.at, kind: schema.event.kind, step: schema.event.step })
    .from(schema.event)
    .innerJoin(schema.unit, eq(schema.event.unitId, schema.unit.id))
    .where(eq(schema.unit.boardId, boardId))
    .orderBy(schema.event.id)
  const moments = new Map<number, string[]>()
  const proven = new Set<number>()
  for (const r of rows) {
    // What happens to a unit in service is its life, not the making of it.
    if (proven.has(r.number)) continue
    moments.set(r.number, [...(moments.get(r.number) ?? []), r.at.toISOString()])
    if (r.kind === 'step-done' && r.step === 'prove') proven.add(r.number)
  }
  return paceOf(
    [...moments].map(([number, at]) => ({
      number,
      begun: [...at].sort()[0] as string,
      minutes: benchMinutes(at),
      done: proven.has(number),
    })),
  )
}

export interface PracticeRun {
  id: string
  kind: string
  family: string
  score: number
  data: Record<string, unknown>
  at: string
}

/** The newest practice runs; never read by anything about real units. */
export async function practiceRuns(source: Source, limit = 30): Promise<PracticeRun[]> {
  const rows = await source.select().from(schema.practice).orderBy(desc(schema.practice.at)).limit(limit)
  return rows.map((r) => ({ ...r, data: r.data as Record<string, unknown>, at: r.at.toISOString() }))
}
