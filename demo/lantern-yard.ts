import { assess } from '@fresh-coat/core/unit/assess'
import { type StepId, stepIds } from '@fresh-coat/core/unit/way'
import { eq } from 'drizzle-orm'
import type { Db } from '../server/db/client'
import { unit } from '../server/db/schema'
import { type Cast, cast } from './cast'
import { Hands, work } from './hands'
import { happenings } from './happenings'
import { furnish, type Things, Yard } from './yard'

/**
 * Lantern Yard, a volunteer puppet theatre: its boards, kit and units, made through the same commands that a person
 * uses. `now` is the present of the story; everything else lies before it.
 */

/** When work on a unit began: ten in the morning of an earlier day, or today after midnight. A gate holds for one day. */
function startOf(daysAgo: number, now: Date): Date {
  const start = new Date(now.getTime() - daysAgo * 86_400_000)
  if (daysAgo >= 1) {
    start.setHours(10, 0, 0, 0)
    return start
  }
  const midnight = new Date(now)
  midnight.setHours(0, 0, 0, 0)
  return start < midnight ? midnight : start
}

const minutesOf: { [S in StepId]?: number } = { open: 11, identify: 8, pads: 14, wire: 9, pins: 12, meter: 15 }

/** Leads a unit along its way, as far as it has come. */
async function lead(at: Hands): Promise<void> {
  const { yard, role, design } = at
  for (const step of stepIds) {
    if (step === role.until || step === 'watch') break
    if (assess(await at.load()).steps.find((s) => s.id === step)?.state === 'skipped') continue
    yard.pass(at.pace * (minutesOf[step] ?? 4))
    const own = work[step]
    if (own) await own(at, yard)
    else if (design.records[step] || role.records?.[step]) await at.enter(step)
    await at.confirm(step)
    await yard.run('finish-step', { unitId: at.unitId, step })
  }
  if (role.records?.[role.until] && role.until !== 'watch') await at.enter(role.until)
}

async function arrive(yard: Yard, things: Things, role: Cast): Promise<Hands> {
  yard.clock = startOf(role.daysAgo, yard.now)
  const { number, name, place } = role
  const unitId = await yard.idOf('create-unit', { number, name, place, boardId: things.boards[role.design] })
  return new Hands(yard, things, role, unitId)
}

/** The next version, ring by ring: the ticket desk first, heaters among the rest, nothing on the nights of the show. */
async function planUpdate(yard: Yard): Promise<void> {
  const day = 86_400_000
  const show = new Date(yard.now.getTime() + 4 * day)
  show.setUTCHours(18, 0, 0, 0)
  const [first] = await yard.db.select({ id: unit.id }).from(unit).where(eq(unit.number, 1))
  await yard.run('set-campaign', {
    firmware: 'Plainsong',
    version: '9.5.0',
    start: yard.now.toISOString(),
    utcOffset: 'Z',
    rings: [{ name: 'Trial', count: 1 }, { name: 'First ring', sharePct: 34 }, { name: 'The rest' }],
    soakHours: [48, 24],
    window: { days: ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'], from: '22:30', to: '00:30' },
    blackouts: [
      { from: show.toISOString(), to: new Date(show.getTime() + 7 * 3_600_000).toISOString(), what: 'The show' },
    ],
    units: first ? { [first.id]: { canary: true } } : {},
  })
}

export async function loadLanternYard(db: Db, now: Date, say: (line: string) => void): Promise<void> {
  const yard = new Yard(db, now)
  const things = await furnish(yard)
  for (const role of cast) {
    const at = await arrive(yard, things, role)
    await lead(at)
    await happenings[role.number]?.(at)
    say(`${String(role.number).padStart(2, '0')} ${role.name}`)
  }
  await planUpdate(yard)
}
