'use client'
import dynamic from 'next/dynamic'

const Chart = dynamic(() => import('./error-chart'), { ssr: false, loading: () => <div className="h-[260px]" /> })

export interface ErrorPoint {
  x: number
  before: number | null
  after: number | null
}

/** Errors before and after the fit against the reference, with the limit; the same numbers stand in the table below it. */
export function ErrorPlot({
  points,
  limitPct,
  unit,
}: {
  points: readonly ErrorPoint[]
  limitPct: number
  unit: string
}) {
  const sentence = points
    .map((p) => `at ${p.x} ${unit}: before ${p.before?.toFixed(2)} %, after ${p.after?.toFixed(3)} %`)
    .join('; ')
  return (
    <div role="img" aria-label={`Errors: ${sentence}. Limit ${limitPct} %.`}>
      <Chart points={points} limitPct={limitPct} unit={unit} />
    </div>
  )
}
