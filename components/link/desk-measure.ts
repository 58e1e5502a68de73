import { newLine } from '@fresh-coat/core/link/flow'
import type { Identity } from '@fresh-coat/core/link/identity'
import { type LineMeasure, measureLine } from '@fresh-coat/core/link/measure'
import { type DeskBase, firstRate, type OpenPort, timeoutMs } from './desk-base'

/** Measuring at the desk what a line is worth. */

export interface MeasureJob {
  unitId: string | null
  open: OpenPort
  byLines: boolean
  note: (measured: LineMeasure, who: Identity) => Promise<unknown>
}

/** How long an answer waits over this line, and the highest rate that holds; nothing is read of the flash, and nothing written. */
export async function measureAt(desk: DeskBase, job: MeasureJob): Promise<void> {
  if (desk.busy) return
  desk.begin('measure', job.unitId, job.byLines)
  const line = newLine(firstRate, timeoutMs)
  try {
    await desk.opened(job.open, firstRate)
    const nothing = { family: null, mac: null, flashId: null, flashBytes: null }
    const who = await desk.called(line, nothing)
    const measured = await desk.run(measureLine(line, who, desk.raises(who)), line)
    await job.note(measured, who)
    await desk.finish({ words: measureWords(measured), good: measured.bestRate !== null })
  } catch (cause) {
    await desk.endedBy(cause, async () => {})
  }
}

const slowMs = 8
/** What was measured, and what would help. */
export function measureWords({ latencyMs, bestRate, rates }: LineMeasure): string {
  if (bestRate === null) return 'The line does not hold even at its first rate: shorten the wires, join the grounds.'
  const failed = rates.find((r) => !r.holds)
  const rate = `It holds ${bestRate} baud${failed ? `, and not ${failed.rate}` : ''}`
  if (latencyMs === null) return `${rate}.`
  const wait = `an answer waits ${latencyMs.toFixed(1)} ms`
  return latencyMs >= slowMs
    ? `${rate}; ${wait} in the adapter. Its driver has a latency setting: 1 ms would make reading several times faster.`
    : `${rate}; ${wait}.`
}
