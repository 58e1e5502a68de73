import Link from '@/components/link'
import { twoDigits } from '@/components/paint/paint'

/** Who is on the air: each message of the last quarter of an hour a stroke, so that a rhythm and its breaking off are seen. */

export interface AirRow {
  number: number
  name: string
  place: string
  state: string
  on: boolean
  /** Nobody can say whether that is still so. */
  unsure: boolean
  watts: string
  beats: readonly number[]
  /** When it came (true) and went. */
  changes: readonly { at: number; came: boolean }[]
  /** What its line says over the strokes; empty: the strokes say it. */
  says: string
  /** Silence that is too long began then. */
  silentFrom: number | null
  watch: boolean
}

const span = 15 * 60_000
const [width, height] = [560, 34]
const x = (at: number, now: number): number => ((at - (now - span)) / span) * width

function Line({ row, now }: { row: AirRow; now: number }) {
  const inside = (at: number) => at > now - span && at <= now + 2000
  const silent = row.silentFrom === null ? null : Math.max(0, x(row.silentFrom, now))
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="h-[34px] w-full" preserveAspectRatio="none" aria-hidden="true">
      {[0, 1, 2, 3].map((i) => (
        <path key={i} d={`M${(i * width) / 3} 0V${height}`} stroke="var(--rule-2)" vectorEffect="non-scaling-stroke" />
      ))}
      {silent !== null && (
        <path
          d={`M${silent} ${height / 2}H${width}`}
          stroke="var(--ochre-line)"
          strokeWidth="2"
          strokeDasharray="6 5"
          vectorEffect="non-scaling-stroke"
        />
      )}
      <path
        d={row.beats
          .filter(inside)
          .map((b) => `M${x(b, now).toFixed(1)} 9V25`)
          .join('')}
        stroke="var(--prussian)"
        strokeWidth="2"
        vectorEffect="non-scaling-stroke"
        fill="none"
      />
      {row.changes
        .filter((c) => inside(c.at))
        .map((c) => (
          <path
            key={c.at}
            d={`M${x(c.at, now) - 4} ${c.came ? 27 : 7}L${x(c.at, now)} ${c.came ? 7 : 27}L${x(c.at, now) + 4} ${c.came ? 27 : 7}Z`}
            fill={c.came ? 'var(--verdigris)' : 'var(--oxide)'}
          />
        ))}
    </svg>
  )
}

function State({ row }: { row: AirRow }) {
  if (row.unsure) return <span className="pin text-ochre">{row.state || 'not sure'}</span>
  if (row.state === '') return <span className="text-ink-2">…</span>
  return (
    <span
      className={`pin inline-block min-w-[3.6rem] rounded-[6px] px-2 py-0.5 text-center ${row.on ? 'bg-verdigris text-sheet' : 'border border-ink-3'}`}
    >
      {row.state}
    </span>
  )
}

export function AirRows({ rows, now }: { rows: readonly AirRow[]; now: number }) {
  return (
    <div>
      <div className="grid grid-cols-[2.6rem_minmax(0,1fr)_auto] gap-x-3 text-[0.85rem] text-ink-2 md:grid-cols-[2.6rem_13rem_6rem_5rem_minmax(0,1fr)]">
        <span className="hidden md:col-start-5 md:flex md:justify-between" aria-hidden="true">
          <span className="pin">−15 min</span>
          <span className="pin">−10</span>
          <span className="pin">−5</span>
          <span className="pin">now</span>
        </span>
      </div>
      <ul aria-label="Units on the air">
        {rows.map((row) => (
          <li key={row.number} className="border-b border-rule-2">
            <Link
              href={`/units/${row.number}/watch`}
              className="grid min-h-[2.6rem] grid-cols-[2.6rem_minmax(0,1fr)_auto] items-center gap-x-3 hover:bg-sheet-2 md:grid-cols-[2.6rem_13rem_6rem_5rem_minmax(0,1fr)]"
            >
              <span
                className={`pin grid h-[1.8rem] place-items-center rounded-[7px] border-2 border-ink font-bold ${row.watch ? 'bg-ochre-soft' : ''}`}
              >
                {twoDigits(row.number)}
              </span>
              <span className="min-w-0 leading-tight">
                <span className="block truncate font-semibold" dir="auto">
                  {row.name}
                </span>
                <span className="block truncate text-[0.85rem] text-ink-2" dir="auto">
                  {row.place}
                </span>
              </span>
              <State row={row} />
              <span className="pin hidden text-right md:block">{row.watts}</span>
              <span className="relative col-span-3 md:col-span-1">
                <Line row={row} now={now} />
                {row.says && (
                  <span
                    className={`block text-[0.85rem] md:absolute md:inset-y-0 md:right-0 md:my-auto md:h-fit md:bg-sheet md:px-2 ${row.watch ? 'text-ochre' : 'text-ink-2 md:left-0 md:mx-auto md:w-fit'}`}
                  >
                    {row.says}
                  </span>
                )}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </div>
  )
}
