'use client'
import { type DueMeter, daysUntil, dueSpan } from '@fresh-coat/core/metering/due-line'
import ReactApexChart from 'react-apexcharts'

const two = (n: number) => String(n).padStart(2, '0')
const ink = 'var(--ink-2)'

/** The chart itself; loaded when it is shown. */
export default function DueChart({ meters, today }: { meters: readonly DueMeter[]; today: string }) {
  const dated = meters.filter((m): m is DueMeter & { due: string } => m.due !== null)
  const { from, to, step } = dueSpan(meters, today)
  const pointOf = (m: DueMeter & { due: string }) => ({
    x: daysUntil(m.due, today),
    y: Number((m.worstPct ?? 0).toFixed(4)),
    label: two(m.number),
  })
  const over = dated.filter((m) => m.due < today).map(pointOf)
  const ahead = dated.filter((m) => m.due >= today).map(pointOf)
  return (
    <ReactApexChart
      type="scatter"
      height={260}
      series={[
        { name: 'over its day', data: over },
        { name: 'still good', data: ahead },
      ]}
      options={{
        chart: {
          fontFamily: 'inherit',
          animations: { enabled: false },
          toolbar: { show: false },
          zoom: { enabled: false },
          foreColor: ink,
        },
        colors: ['var(--ochre-line)', 'var(--verdigris)'],
        markers: { size: 9, shape: ['square', 'circle'] as never, strokeWidth: 0 },
        dataLabels: {
          enabled: true,
          offsetY: -10,
          style: { fontSize: '14px', colors: ['var(--ink)'] },
          background: { enabled: false },
          formatter: (_, { seriesIndex, dataPointIndex }) =>
            (seriesIndex === 0 ? over : ahead)[dataPointIndex]?.label ?? '',
        },
        legend: { position: 'top', horizontalAlign: 'left' },
        grid: { borderColor: 'var(--rule-2)' },
        xaxis: {
          type: 'numeric',
          min: from,
          max: to,
          tickAmount: (to - from) / step,
          decimalsInFloat: 0,
          title: { text: 'days until it is due again' },
        },
        yaxis: { min: 0, title: { text: 'worst point after the fit, %' }, decimalsInFloat: 2, forceNiceScale: true },
        annotations: {
          xaxis: [
            {
              x: 0,
              borderColor: 'var(--ink)',
              label: { text: 'today', style: { color: ink, background: 'transparent' }, borderColor: 'transparent' },
            },
          ],
        },
        tooltip: { enabled: false },
      }}
    />
  )
}
