import type { UnitView } from '@fresh-coat/core/unit/view'
import { type StepId, stepIds } from '@fresh-coat/core/unit/way'
import type { TouchedParts } from '../db/change'
import { type Db, inSnapshot } from '../db/client'
import { type LogLine, recentEvents } from '../db/log'
import type { TableName } from '../db/tables'
import { together } from '../db/together'
import { loadUnit } from './load'
import { logLength, trimmed, wantedAt } from './page'

/** What a command changed in the unit on screen: the page draws that, and nothing is loaded again. */
export interface UnitParts {
  /** Null: the unit is not there any more. */
  view: Partial<Omit<UnitView, 'records'>> | null
  records: Partial<UnitView['records']>
  log: LogLine[]
}

/** Which fields of the view follow from rows of a table. */
const fieldsOf: Partial<Record<TableName, (keyof UnitView)[]>> = {
  unit: ['number', 'name', 'place', 'version', 'inHand', 'inService', 'ended', 'board', 'topic', 'slugClash'],
  gate: ['gates'],
  attempt: ['attempts', 'reads', 'struck', 'board'],
  trouble: ['troubles'],
  calibration: ['calibrations'],
  hubTest: ['hubTests'],
  toolWords: ['words'],
  file: ['files', 'image'],
  stepRecord: ['route', 'adapter', 'module', 'image', 'boots', 'topic', 'slugClash'],
}

/** A record that was written, or, where nobody wrote one yet, what the board fills in: another board fills in other things. */
const changed = (step: StepId, view: UnitView, touched: TouchedParts): boolean =>
  touched.steps.has(step) || (touched.tables.has('unit') && view.records[step].version === 0)

export async function unitParts(
  db: Db,
  unitId: string,
  touched: TouchedParts,
  step: StepId,
  now = new Date(),
): Promise<UnitParts> {
  return inSnapshot(db, async (tx) => {
    const { loaded, log } = await together({
      loaded: loadUnit(tx, unitId, now, wantedAt(step)),
      log: recentEvents(tx, logLength, unitId),
    })
    if (!loaded) return { view: null, records: {}, log }
    const view = trimmed(loaded, step)
    const fields = new Set<keyof UnitView>(['today', 'now'])
    for (const table of touched.tables) for (const field of fieldsOf[table] ?? []) fields.add(field)
    return {
      view: Object.fromEntries([...fields].map((field) => [field, view[field]])),
      records: Object.fromEntries(
        stepIds.filter((id) => changed(id, view, touched)).map((id) => [id, view.records[id]]),
      ) as UnitParts['records'],
      log,
    }
  })
}
