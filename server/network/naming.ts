import { isSlug, longestSlug, reservedSlugs, slugWith } from '@fresh-coat/core/topics/slug'
import { readRecord } from '@fresh-coat/core/unit/records'
import { nameOf } from '@fresh-coat/core/unit/state'
import { and, eq, isNull, ne, or } from 'drizzle-orm'
import type { Tx } from '../db/client'
import { two } from '../db/day'
import { Refused } from '../db/fault'
import { noteRipple } from '../db/note-ripple'
import * as schema from '../db/schema'

/**
 * Names in topics (05 §4), kept unit by unit so that no name is compared with all others. Equal names all get their
 * numbers, but a unit in service keeps the topic it has: only the newcomer is numbered.
 */

const { unit } = schema
type UnitRow = typeof unit.$inferSelect

const holder = (tx: Tx, slug: string, butId: string): Promise<UnitRow | undefined> =>
  tx
    .select()
    .from(unit)
    .where(and(eq(unit.slug, slug), ne(unit.id, butId), isNull(unit.struckAt)))
    .limit(1)
    .then(([row]) => row)

/** Somebody else's topic, or the bare name of somebody else. */
async function isTaken(tx: Tx, slug: string, butId: string): Promise<boolean> {
  const [row] = await tx
    .select({ id: unit.id })
    .from(unit)
    .where(and(or(eq(unit.slug, slug), eq(unit.ownSlug, slug)), ne(unit.id, butId), isNull(unit.struckAt)))
    .limit(1)
  return row !== undefined || reservedSlugs.has(slug)
}

async function numbered(tx: Tx, of: { id: string; number: number; ownSlug: string }): Promise<string> {
  const first = slugWith(of.ownSlug, `-${of.number}`, longestSlug)
  if (!(await isTaken(tx, first, of.id))) return first
  for (let n = 2; ; n++) {
    const next = slugWith(of.ownSlug, `-${of.number}-${n}`, longestSlug)
    if (!(await isTaken(tx, next, of.id))) return next
  }
}

async function pinnedNameOf(tx: Tx, unitId: string): Promise<{ pinned: string; spoken: string }> {
  const { stepRecord } = schema
  const [row] = await tx
    .select({ shape: stepRecord.shape, data: stepRecord.data })
    .from(stepRecord)
    .where(and(eq(stepRecord.unitId, unitId), eq(stepRecord.step, 'name'), isNull(stepRecord.struckAt)))
  const read = row ? readRecord('name', row.shape, row.data) : null
  const { pinned = '', spoken = '' } = read?.ok ? read.data : {}
  return { pinned: isSlug(pinned) && !reservedSlugs.has(pinned) ? pinned : '', spoken }
}

/** Gives the topic that is in the way to its unit's number, where that unit may still be renamed. */
async function makeWay(tx: Tx, slug: string, forUnit: UnitRow, insists: boolean): Promise<string | null> {
  const other = await holder(tx, slug, forUnit.id)
  if (!other) return null
  if (other.pinned || other.inService) {
    if (insists)
      throw new Refused(
        'slug-taken',
        `${slug} is the topic of unit ${two(other.number)}${other.inService ? ', which is in service' : ''}.`,
        'Pin another name.',
      )
    return null
  }
  await tx
    .update(unit)
    .set({ slug: await numbered(tx, other) })
    .where(eq(unit.id, other.id))
  return other.id
}

/** One unit that is left alone with its name gets the bare one back, unless it serves under its number already. */
async function freeAlone(tx: Tx, ownSlug: string): Promise<string | null> {
  const left = await tx
    .select()
    .from(unit)
    .where(and(eq(unit.ownSlug, ownSlug), isNull(unit.struckAt)))
    .limit(2)
  const [alone] = left
  if (!alone || left.length > 1 || alone.slug === ownSlug || alone.inService || alone.pinned) return null
  if (await isTaken(tx, ownSlug, alone.id)) return null
  await tx.update(unit).set({ slug: ownSlug }).where(eq(unit.id, alone.id))
  return alone.id
}

/**
 * A unit's own topic level, and who had to make way for it.
 * @param undoing a pin that somebody else took since is numbered like a name: undo is never refused for it
 */
async function settleSlug(
  tx: Tx,
  row: UnitRow,
  own: ReturnType<typeof nameOf>,
  undoing: boolean,
): Promise<{ slug: string; moved: string | null }> {
  if (own.pinned) {
    const moved = await makeWay(tx, own.ownSlug, row, !undoing)
    const free = moved !== null || !(await holder(tx, own.ownSlug, row.id))
    return { slug: free ? own.ownSlug : await numbered(tx, { ...row, ownSlug: own.ownSlug }), moved }
  }
  // In service its topic is fixed, whoever comes and whatever it is called from now on: only a pin changes it.
  if (row.inService && row.slug !== '') return { slug: row.slug, moved: null }
  const shared = await isTaken(tx, own.ownSlug, row.id)
  if (!shared) return { slug: own.ownSlug, moved: null }
  const moved = await makeWay(tx, own.ownSlug, row, false)
  return { slug: await numbered(tx, { ...row, ownSlug: own.ownSlug }), moved }
}

/**
 * The others of a bare name, where this one's coming or going changes what is said of them: somebody is no longer alone with
 * it, or is alone again. Among three or more nothing changes.
 */
async function toldAnew(tx: Tx, ownSlug: string, butId: string): Promise<string[]> {
  if (ownSlug === '') return []
  const others = await tx
    .select({ id: unit.id })
    .from(unit)
    .where(and(eq(unit.ownSlug, ownSlug), ne(unit.id, butId), isNull(unit.struckAt)))
    .limit(2)
  return others.length === 1 ? others.map((o) => o.id) : []
}

/**
 * Brings a unit's place in the topic tree up to date with its name. Returns the other units whose topic changed by it, or of
 * which something else is to be said. A struck unit gives its name free.
 */
export async function nameUnit(tx: Tx, unitId: string, undoing = false): Promise<string[]> {
  const [row] = await tx.select().from(unit).where(eq(unit.id, unitId)).for('update')
  if (!row) return []
  const moved: (string | null)[] = []
  if (row.struckAt) {
    await tx.update(unit).set({ slug: '', ownSlug: '', spoken: '', pinned: false }).where(eq(unit.id, unitId))
  } else {
    const own = nameOf({ number: row.number, name: row.name, ...(await pinnedNameOf(tx, unitId)) })
    const settled = await settleSlug(tx, row, own, undoing)
    moved.push(settled.moved)
    const same = settled.slug === row.slug && own.ownSlug === row.ownSlug && own.spoken === row.spoken
    if (same && own.pinned === row.pinned) return moved.filter((id) => id !== null)
    await tx
      .update(unit)
      .set({ ...own, slug: settled.slug })
      .where(eq(unit.id, unitId))
  }
  if (row.ownSlug !== '') moved.push(await freeAlone(tx, row.ownSlug))
  const [after] = await tx.select({ ownSlug: unit.ownSlug }).from(unit).where(eq(unit.id, unitId))
  for (const name of new Set([row.ownSlug, after?.ownSlug ?? ''])) moved.push(...(await toldAnew(tx, name, unitId)))
  await noteRipple(tx, 'name', unitId)
  return [...new Set(moved)].filter((id): id is string => id !== null && id !== unitId)
}
