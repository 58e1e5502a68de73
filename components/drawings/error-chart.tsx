'use client'
import ReactApexChart from 'react-apexcharts'
import type { ErrorPoint } from './error-plot'

export default function ErrorChart({
  points,
  limitPct,
  unit,
}: {
  points: readonly ErrorPoint[]
  limitPct: number
  unit: string
}) {
  const series = (pick: (p: ErrorPoint) => number | null) =>
    [...points]
      .sort((a, b) => a.x - b.x)
      .flatMap((p) => (pick(p) === null ? [] : [{ x: p.x, y: Number((pick(p) as number).toFixed(4)) }]))
  const ink = 'var(--ink-2)'
  return (
    <ReactApexChart
      type="line"
      height={260}
      series={[
        { name: 'before', data: series((p) => p.before) },
        { name: 'after', data: series((p) => p.after) },
      ]}
      options={{
        chart: {
          fontFamily: 'inherit',
          animations: { enabled: false },
          toolbar: { show: false },
          zoom: { enabled: false },
          foreColor: ink,
        },
        colors: ['var(--ochre-line)', 'var(--ink)'],
        stroke: { width: [2, 2], dashArray: [5, 0] },
        markers: { size: [6, 5], shape: ['square', 'circle'] as never, strokeWidth: 0 },
        dataLabels: { enabled: false },
        legend: { position: 'top', horizontalAlign: 'left' },
        grid: { borderColor: 'var(--rule-2)' },
        xaxis: { type: 'numeric', title: { text: `reference, ${unit}` }, tickAmount: 6, decimalsInFloat: 0 },
        yaxis: { title: { text: 'error, %' }, decimalsInFloat: 1, forceNiceScale: true },
        annotations: {
          yaxis: [
            {
              y: -limitPct,
              y2: limitPct,
              fillColor: 'var(--rule)',
              opacity: 0.35,
              borderColor: 'transparent',
              label: {
                text: `limit ±${limitPct} %`,
                style: { background: 'transparent', color: ink },
                borderColor: 'transparent',
              },
            },
          ],
        },
        tooltip: { enabled: false },
      }}
    />
  )
}
