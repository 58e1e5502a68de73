import type { RawMap } from '@fresh-coat/core/metering/raw-map'
import { naturalOrder } from '@fresh-coat/core/pins/words'

const rowHeight = 34
const width = 760
const left = 50
const column = 172
const quantities = ['voltage', 'current', 'power'] as const
const names = { voltage: 'volts', current: 'amperes', power: 'watts' }
const otherNames: Record<string, string> = {
  switch: 'the switch',
  frequency: 'frequency',
  powerFactor: 'power factor',
  countdown: 'a countdown',
  constant: 'never moves',
  energy: 'energy',
  unknown: 'nobody knows',
}

/** Every raw value in a row, with how likely it is each of the three; the ones that are taken are full. */
export function RawRows({ map, last }: { map: RawMap; last: Readonly<Record<string, number | boolean>> }) {
  const taken: Record<string, string> = Object.fromEntries(quantities.map((q) => [map.best[q].key, q]))
  const keys = [...new Set([...Object.keys(map.keys), ...Object.keys(map.others)])].sort(naturalOrder)
  const height = keys.length * rowHeight + 30
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full min-w-[560px]"
      role="img"
      aria-label={`${keys.length} raw values. ${quantities.map((q) => `${names[q]}: ${map.best[q].key}`).join('; ')}; ${Math.round(map.best.probability * 100)} % likely.`}
    >
      {quantities.map((q, i) => (
        <text key={q} x={left + 80 + i * column} y={14} fontSize="13" fontWeight="600" fill="var(--ink-2)">
          {names[q]}
        </text>
      ))}
      {keys.map((key, row) => {
        const y = row * rowHeight + 24
        const shares = map.keys[key]
        const other = map.others[key]
        return (
          <g key={key}>
            <text
              x={left - 12}
              y={y + 19}
              textAnchor="end"
              className="pin"
              fontSize="15"
              fontWeight="700"
              fill="var(--ink)"
            >
              {key}
            </text>
            <text x={left} y={y + 19} className="pin" fontSize="13" fill="var(--ink-2)">
              {String(last[key] ?? '')}
            </text>
            {shares &&
              quantities.map((q, i) => {
                const x = left + 80 + i * column
                const p = shares[q]
                const is = taken[key] === q
                return (
                  <g key={q}>
                    <rect x={x} y={y + 5} width={column - 40} height={18} rx="3" fill="var(--unpainted)" />
                    <rect
                      x={x}
                      y={y + 5}
                      width={Math.max(p > 0.001 ? 2 : 0, p * (column - 40))}
                      height={18}
                      rx="3"
                      fill={is ? (map.settled ? 'var(--verdigris)' : 'var(--ochre-line)') : 'var(--prussian)'}
                    />
                    {is && (
                      <text
                        x={x + 8}
                        y={y + 19}
                        fontSize="13"
                        fontWeight="700"
                        fill={map.settled ? 'var(--sheet)' : 'var(--ink)'}
                      >
                        ÷ {10 ** map.best[q].k}
                      </text>
                    )}
                  </g>
                )
              })}
            {other && other.quantity !== 'unknown' && (
              <text x={width - 4} y={y + 19} textAnchor="end" fontSize="13" fill="var(--ink)">
                {otherNames[other.quantity]}
              </text>
            )}
          </g>
        )
      })}
    </svg>
  )
}
