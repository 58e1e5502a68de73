import { fitMeter } from '@fresh-coat/core/metering/fit'
import { fitInputOf } from '@fresh-coat/core/steps/meter/facts'
import { firmwareOf } from '@fresh-coat/core/steps/write/facts'
import { and, eq } from 'drizzle-orm'
import { z } from 'zod'
import type { Change } from '../db/change'
import { command } from '../db/command'
import { localDay, two } from '../db/day'
import { Refused } from '../db/fault'
import { id } from '../db/fields'
import * as schema from '../db/schema'
import { instrumentData } from '../kit/stored'
import { viewOf } from '../units/one'

async function instrumentOf(c: Change, instrumentId: string | null) {
  const [row] = instrumentId
    ? await c.live('kit', and(eq(schema.kit.id, instrumentId), eq(schema.kit.kind, 'instrument')))
    : []
  if (!row) throw new Refused('no-instrument', 'No reference meter is chosen.', 'Choose one, or add it under Meters.')
  return instrumentData(row.data)
}

const saveCalibration = command(z.object({ unitId: id }), async (c, { unitId }) => {
  const view = await viewOf(c, unitId)
  const reference = await instrumentOf(c, view.records.meter.data.instrumentId)
  const input = fitInputOf(view, reference, localDay(c.now))
  const fit = fitMeter(input)
  if (!fit.ok)
    throw new Refused('no-fit', fit.faults[0]?.message ?? 'These points cannot be fitted.', 'Correct the points.')
  const row = await c.insert('calibration', {
    unitId,
    input,
    result: fit.value,
    firmware: firmwareOf(view),
    at: c.now,
  })
  const worst = Math.max(...fit.value.points.map((p) => Math.abs(p.errAfterPct ?? 0)))
  await c.tell({
    kind: 'calibrated',
    unitId,
    step: 'meter',
    sentence: `${two(view.number)} meter fitted, worst point ${worst.toFixed(2)} %`,
  })
  return { id: row.id }
})

export const meterCommands = { 'save-calibration': saveCalibration }
