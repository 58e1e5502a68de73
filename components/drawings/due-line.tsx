'use client'
import { dayWords } from '@fresh-coat/core/edge/day'
import type { DueMeter } from '@fresh-coat/core/metering/due-line'
import dynamic from 'next/dynamic'

const Chart = dynamic(() => import('./due-chart'), { ssr: false, loading: () => <div className="h-[260px]" /> })

/** How far off every meter was after its last fit, over the day on which it is due again; the list below says the same. */
export function DueLine({ meters, today }: { meters: readonly DueMeter[]; today: string }) {
  const words = meters.map(
    (m) =>
      `unit ${m.number}: ${m.worstPct === null ? 'no point' : `${m.worstPct.toFixed(3)} %`}, ${m.due ? `due ${dayWords(m.due)}` : 'never calibrated'}`,
  )
  return (
    <div role="img" aria-label={`Meters over their due days: ${words.join('; ')}`}>
      <Chart meters={meters} today={today} />
    </div>
  )
}
