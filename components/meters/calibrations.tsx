'use client'
import { dayWords } from '@fresh-coat/core/edge/day'
import { SmallErrors, spanOf } from '@/components/drawings/small-errors'
import Link from '@/components/link'
import { Tag, twoDigits } from '@/components/paint/paint'
import { useFirstScreen } from '@/components/tables/first-screen'
import { UnitCell } from '@/components/units/unit-cell'

/** Calibrations of many units beside each other. */

/** What is shown of a unit with a meter. */
export interface MeteredUnit {
  id: string
  number: number
  name: string
  calibration: {
    quantity: string
    model: string
    gain: number
    worstAfterPct: number | null
    passed: boolean | null
    due: string | null
  } | null
}

/** What a calibration did, point by point, in per cent. */
interface CalibrationPlot {
  unitId: string
  points: { x: number; before: number | null; after: number | null; verify: boolean }[]
}

function worstWords({ points }: CalibrationPlot): string {
  const after = points.flatMap((p) => (p.after === null ? [] : [Math.abs(p.after)]))
  return after.length === 0 ? 'not fitted' : `worst after ${Math.max(...after).toFixed(2)} %`
}

/** Each calibration small, on one scale: what stands out is seen without reading. */
export function Plots({ units, plots }: { units: readonly MeteredUnit[]; plots: readonly CalibrationPlot[] }) {
  const place = (p: CalibrationPlot) => units.findIndex((u) => u.id === p.unitId)
  const drawn = plots.filter((p) => p.points.length > 0).sort((a, b) => place(a) - place(b))
  if (drawn.length === 0) return null
  const span = spanOf(drawn)
  return (
    <ul
      className="grid grid-cols-[repeat(auto-fill,minmax(9rem,1fr))] gap-x-5 gap-y-2 py-2"
      aria-label={`Calibrations, each within ${span.toFixed(1)} %`}
    >
      {drawn.map((p) => {
        const unit = units.find((u) => u.id === p.unitId)
        return (
          unit && (
            <li key={p.unitId}>
              <Link href={`/units/${unit.number}/meter`} className="block hover:bg-ok-soft">
                <SmallErrors
                  points={p.points}
                  spanPct={span}
                  label={`Unit ${unit.number}: ${p.points.length} ${p.points.length === 1 ? 'point' : 'points'}, ${worstWords(p)}`}
                />
                <span className="flex items-baseline gap-2 text-[0.93rem]">
                  <strong className="pin shrink-0">{twoDigits(unit.number)}</strong>
                  <span className="truncate">{unit.name}</span>
                </span>
              </Link>
            </li>
          )
        )
      })}
    </ul>
  )
}

/** The table begins under the line of days and the small plots. */
const rowsAtFirst = 12

/** A row for each unit: what was fitted, how well, and when it is due again. @param today yyyy-mm-dd */
export function CalibrationTable({ rows, today }: { rows: readonly MeteredUnit[]; today: string }) {
  const drawn = useFirstScreen(rows.length, rowsAtFirst)
  return (
    <table className="plain">
      <thead>
        <tr>
          <th>Unit</th>
          <th>Fit</th>
          <th>Factor</th>
          <th>Worst point after</th>
          <th>Verified</th>
          <th>Due again</th>
        </tr>
      </thead>
      <tbody>
        {rows.slice(0, drawn).map((u) => {
          const c = u.calibration
          const over = c?.due != null && c.due < today
          return (
            <tr key={u.id}>
              <td>
                <UnitCell number={u.number} name={u.name} href={`/units/${u.number}/meter`} />
              </td>
              <td>{c ? `${c.quantity}, ${c.model === 'gain' ? 'gain' : 'gain and offset'}` : 'not calibrated'}</td>
              <td className="pin">{c ? c.gain.toFixed(5) : '–'}</td>
              <td className="pin">{c?.worstAfterPct != null ? `${c.worstAfterPct.toFixed(3)} %` : '–'}</td>
              <td>
                {c ? (
                  <Tag severity={c.passed === true ? 'ok' : c.passed === false ? 'error' : 'watch'}>
                    {c.passed === true ? 'within limits' : c.passed === false ? 'outside' : 'no verify point'}
                  </Tag>
                ) : (
                  '–'
                )}
              </td>
              <td className="whitespace-nowrap">
                {c?.due ? dayWords(c.due) : '–'} {over && <Tag severity="watch">due</Tag>}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
