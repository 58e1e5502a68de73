import type { GateId, StepId } from '@fresh-coat/core/unit/way'
import { and, asc, isNull } from 'drizzle-orm'
import { type CommandName, runCommand } from '../commands'
import { keepFile } from '../files/keep'
import type { Db } from './client'
import type { CommandResult } from './fault'
import * as schema from './schema'
import { type AnyRow, anyTable, type TableName, tables, toldOf } from './tables'
import { heldVersion } from './testing'

/** Random work on a small workshop, for tests of what must hold whatever people do. */

/** Mulberry32: the same seed, the same walk. */
export function dice(seed: number) {
  let a = seed >>> 0
  const next = () => {
    a = (a + 0x6d2b79f5) >>> 0
    let t = Math.imul(a ^ (a >>> 15), 1 | a)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
  return {
    next,
    int: (n: number) => Math.floor(next() * n),
    of: <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T,
  }
}
type Dice = ReturnType<typeof dice>

const names = ['Lamp', 'Lamp', 'Glue pot', 'Footlight', 'Footlights', 'Moon 1', 'Moon 2', '大道具']
const bytesOf = (d: Dice) => new Uint8Array(2048).map(() => d.int(256))

interface World {
  db: Db
  d: Dice
  now: Date
  run: (command: CommandName, input: object) => Promise<CommandResult>
}

const liveUnits = (db: Db) =>
  db.select().from(schema.unit).where(isNull(schema.unit.struckAt)).orderBy(asc(schema.unit.number))
const liveIds = async (db: Db, table: TableName): Promise<AnyRow[]> => {
  const t = anyTable(table)
  return (await db.select().from(t).where(isNull(t.struckAt)).orderBy(asc(t.id))) as AnyRow[]
}

/** What a person might type at a step; the fields of a record that tests can make up. */
const typed: { [S in StepId]?: (d: Dice) => object } = {
  arrive: (d) => ({
    route: d.of(['wires-in-place', 'built', 'ready-flashed']),
    triedAsSold: 'works',
    load: 'undecided',
    note: `n${d.int(9)}`,
  }),
  open: (d) => ({ damage: `scratch ${d.int(5)}`, minutes: d.int(40) }),
  identify: (d) => ({
    printed: d.of(['PW-1', 'pw 1', 'QB 27', '']),
    decision: { family: 'LX106', reason: 'seen on the chip itself' },
  }),
  pads: (d) => ({
    readings: Array.from({ length: d.int(5) }, () => ({ volts: d.int(4), square: d.int(2) === 1 })),
    pads: ['GND', 'TX'].slice(0, d.int(3)),
  }),
  start: (d) => ({ log: d.of(['', 'boot text one', 'boot text two'.repeat(40)]) }),
  join: (d) => ({ address: `192.168.71.${d.int(200)}`, confirmedBy: 'by hand' }),
  meter: (d) => ({
    points: Array.from({ length: d.int(4) }, (_, i) => ({
      id: `p${i}`,
      indicated: d.int(90),
      reference: d.int(90),
      role: 'fit',
    })),
  }),
  name: (d) => ({ pinned: d.of(['', '', 'stage-left', `pin-${d.int(4)}`]), reserved: true }),
  watch: (d) => ({ note: `seen ${d.int(7)}` }),
}

async function saveSomething({ db, d, run }: World, unitId: string) {
  const step = d.of(Object.keys(typed) as StepId[])
  const version = await heldVersion(db, unitId, step)
  return run('save-step', { unitId, step, version, data: (typed[step] as (d: Dice) => object)(d) })
}

/** One command of many kinds; some are refused, as a person's would be. */
export async function oneStep(world: World): Promise<CommandResult | null> {
  const { db, d, run, now } = world
  const units = await liveUnits(db)
  const unit = units.length > 0 ? d.of(units) : null
  const roll = d.int(24)
  if (!unit || roll === 0) return run('create-unit', { number: 1 + d.int(400), name: d.of(names), place: 'attic' })
  const unitId = unit.id
  if (roll < 9) return saveSomething(world, unitId)
  const boards = await liveIds(db, 'board')
  switch (roll) {
    case 9:
      return run('edit-unit', { unitId, version: unit.version, name: d.of(names) })
    case 10:
      return run('edit-unit', { unitId, version: unit.version, boardId: boards.length > 0 ? d.of(boards).id : null })
    case 11:
      return run('create-board', { maker: 'Harkle', product: `H${d.int(6)}`, mains: d.int(2) === 1, hasMeter: true })
    case 12: {
      const board = boards.length > 0 ? d.of(boards) : null
      return board && run('edit-board', { boardId: board.id, version: board.version, note: `note ${d.int(99)}` })
    }
    case 13:
      return run('confirm-gate', {
        unitId,
        gate: d.of<GateId>(['mains-off', 'discharged', 'current-limit', 'licensed']),
        measured: '0.2',
        early: true,
      })
    case 14:
      return run('log-attempt', {
        unitId,
        action: 'read',
        outcome: 'no-answer',
        minutes: d.int(9),
        verify: 'none',
        verified: false,
      })
    case 15:
      return run('finish-step', { unitId, step: d.of<StepId>(['arrive', 'identify', 'join', 'name', 'meter']) })
    case 16:
      return run('reopen-step', { unitId, step: d.of<StepId>(['arrive', 'identify', 'join']) })
    case 17:
      return run('take-in-hand', { unitId })
    case 18:
      return run('open-trouble', { unitId, step: 'write', symptom: 'no_answer' })
    case 19:
      return run('keep-secret', { unitId, name: 'Wi-Fi', value: `made up ${d.int(99)}` })
    case 20:
      return keepFile(db, { kind: 'dump', name: 'read.bin', unitId, read: d.of([1, 2]), tag: null }, bytesOf(d), now)
    case 21:
      return run('set-site', { name: 'Yard', base: d.of(['yard', 'home']), slug: d.of(['lantern', 'main']) })
    case 22:
      return run('add-kit', {
        kind: 'load',
        name: `Lamp ${d.int(9)}`,
        data: { watts: 1 + d.int(100), kind: 'resistive' },
      })
    default:
      return run('another-unit', { unitId, number: 1 + d.int(400), name: d.of(names) })
  }
}

/** A world for one seed: a clock that goes on by minutes, and commands that happen at its time. */
export function worldOf(db: Db, seed: number): { step: () => Promise<CommandResult | null>; d: Dice; at: () => Date } {
  const d = dice(seed)
  let now = new Date(Date.now() - 3 * 86_400_000)
  return {
    d,
    at: () => now,
    step: () => {
      now = new Date(now.getTime() + 1000 + d.int(15 * 60_000))
      const at = now
      return oneStep({ db, d, now: at, run: (command, input) => runCommand(db, command, input, at) })
    },
  }
}

/** Everything that is not struck, as events tell it; confirmations apart, which undo never brings back. */
export async function told(db: Db): Promise<Record<string, unknown>> {
  const all: Record<string, unknown> = {}
  for (const table of Object.keys(tables) as TableName[])
    if (table !== 'gate')
      for (const row of await liveIds(db, table)) all[`${table} ${row.id}`] = withoutClock(toldOf(table, row))
  return all
}
/** When a record was last written is not taken back: undoing is writing too. */
const withoutClock = ({ updatedAt: _, ...row }: Record<string, unknown>) => row

export const openGates = (db: Db) =>
  db
    .select()
    .from(schema.gate)
    .where(and(isNull(schema.gate.clearedAt), isNull(schema.gate.struckAt)))
