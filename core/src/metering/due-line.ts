/** A meter on the line of due days. */
export interface DueMeter {
  number: number
  name: string
  /** The worst point after the last fit, %; null while none is known. */
  worstPct: number | null
  limitPassed: boolean | null
  /** ISO day on which it is to be checked again; null while it was never calibrated. */
  due: string | null
}

const dayMs = 86_400_000

/** Days from one day to another, negative when it is past. @param day and today ISO days */
export const daysUntil = (day: string, today: string): number =>
  Math.round((Date.parse(`${day}T00:00:00Z`) - Date.parse(`${today}T00:00:00Z`)) / dayMs)

const steps = [10, 30, 60, 90, 180, 365, 730]
const mostTicks = 9

/** From how many days ago to how many days ahead the line goes, and its ticks: all that is dated fits, and at least a month each way. */
export function dueSpan(meters: readonly DueMeter[], today: string): { from: number; to: number; step: number } {
  const days = meters.flatMap((m) => (m.due === null ? [] : [daysUntil(m.due, today)]))
  const [least, greatest] = [Math.min(-30, ...days), Math.max(30, ...days)]
  const step = steps.find((s) => (greatest - least) / s <= mostTicks - 2) ?? 1825
  return { from: Math.floor(least / step) * step, to: Math.ceil(greatest / step) * step, step }
}
