/** Trials beside each other: what was driven, what was seen above it, and at the right how likely each pin is by now. */

export interface RollSign {
  id: string
  name: string
  kind: 'edge' | 'level'
}
export interface RollTrial {
  on: readonly string[]
  saw: readonly string[]
  reset: boolean
}
export interface RollPin {
  pin: string
  /** What it was found to be; empty while nobody knows. */
  does: string
  /** How likely it is for each sign, in their order. */
  shares: readonly number[]
  suspect: boolean
}

const rowPitch = 36
const columnPitch = 50
const nameWidth = 92
const signPitch = 26
const barWidth = 110
const mostColumns = 9
const colours = ['var(--ink)', 'var(--ochre-line)', 'var(--prussian)', 'var(--verdigris)']

/** A click as a stroke, a light as a dot: full where it was seen. */
function Seen({
  kind,
  seen,
  x,
  y,
  colour,
}: {
  kind: RollSign['kind']
  seen: boolean
  x: number
  y: number
  colour: string
}) {
  if (kind === 'edge')
    return seen ? (
      <path
        d={`M${x - 10} ${y + 6}L${x - 3} ${y - 7}L${x + 2} ${y + 4}L${x + 9} ${y - 9}`}
        fill="none"
        stroke={colour}
        strokeWidth="3"
      />
    ) : (
      <path d={`M${x - 8} ${y}H${x + 8}`} stroke="var(--rule)" strokeWidth="3" />
    )
  return (
    <circle cx={x} cy={y} r="8" fill={seen ? colour : 'none'} stroke={seen ? colour : 'var(--rule)'} strokeWidth="2" />
  )
}

const inWords = (signs: readonly RollSign[], trials: readonly RollTrial[], pins: readonly RollPin[]): string => {
  const last = trials.at(-1)
  const found = pins.filter((p) => p.does).map((p) => `${p.pin} ${p.does}`)
  const saw = last?.saw.map((id) => signs.find((s) => s.id === id)?.name ?? id).join(' and ') || 'nothing'
  return `${trials.length} trials. ${last ? `The last: ${last.on.join(', ') || 'all off'}, ${last.reset ? 'it restarted' : saw}. ` : ''}${found.length > 0 ? `Found: ${found.join(', ')}.` : 'Nothing found yet.'}`
}

export function TrialRoll({
  signs,
  trials,
  now,
  pins,
}: {
  signs: readonly RollSign[]
  trials: readonly RollTrial[]
  /** Pins of the trial that waits for its answer; null where none does. */
  now: readonly string[] | null
  pins: readonly RollPin[]
}) {
  const left = trials.length - Math.min(trials.length, now === null ? mostColumns : mostColumns - 1)
  const shown = trials.slice(left)
  const columns = shown.length + (now === null ? 0 : 1)
  const top = 20 + signs.length * signPitch
  const height = top + pins.length * rowPitch + 40
  const barsAt = nameWidth + Math.max(columns, 2) * columnPitch + 24
  const width = barsAt + barWidth + 12
  const x = (i: number) => nameWidth + i * columnPitch + columnPitch / 2
  const y = (row: number) => top + row * rowPitch + rowPitch / 2
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="min-h-0 w-full"
      // What stands above and below it on a desk’s screen takes 430 of its height.
      style={{ maxHeight: 'min(470px, max(300px, calc(100dvh - 430px)))', maxWidth: width * 1.15 }}
      role="img"
      aria-label={inWords(signs, trials, pins)}
    >
      {signs.map((s, i) => (
        <g key={s.id}>
          <text x="0" y={24 + i * signPitch} fontSize="14" fill="var(--ink-2)">
            {s.name}
          </text>
          <rect x={barsAt} y={14 + i * signPitch} width="12" height="12" rx="3" fill={colours[i]} />
          <text x={barsAt + 18} y={25 + i * signPitch} fontSize="13" fill="var(--ink-2)">
            {s.name}
          </text>
        </g>
      ))}
      {Array.from({ length: columns }, (_, i) => {
        const trial = shown[i]
        const driven = trials.slice(0, left + i + 1).filter((t) => t.on.length > 0).length
        const name = trial ? (trial.on.length === 0 ? 'off' : String(driven)) : 'now'
        return (
          <g key={left + i}>
            <rect
              x={x(i) - 21}
              y={top}
              width="42"
              height={pins.length * rowPitch}
              rx="6"
              fill={trial ? 'var(--sheet-2)' : 'var(--ochre-soft)'}
            />
            <text
              x={x(i)}
              y={top + pins.length * rowPitch + 22}
              textAnchor="middle"
              className="pin"
              style={{ fontSize: 13 }}
              fill="var(--ink-2)"
            >
              {name}
            </text>
            {trial?.reset && (
              <text x={x(i)} y={18} textAnchor="middle" fontSize="13" fontWeight="700" fill="var(--oxide)">
                restart
              </text>
            )}
            {trial &&
              !trial.reset &&
              signs.map((s, k) => (
                <Seen
                  key={s.id}
                  kind={s.kind}
                  seen={trial.saw.includes(s.id)}
                  x={x(i)}
                  y={20 + k * signPitch}
                  colour={colours[k] ?? 'var(--ink)'}
                />
              ))}
            {!trial && (
              <text x={x(i)} y={top - 10} textAnchor="middle" fontSize="24" fontWeight="700" fill="var(--ochre-line)">
                ?
              </text>
            )}
          </g>
        )
      })}
      {pins.map((p, row) => (
        <g key={p.pin}>
          <text
            x="0"
            y={y(row) + 5}
            className="pin"
            style={{ fontSize: 15 }}
            fontWeight={p.does ? 700 : 500}
            fill={p.suspect ? 'var(--oxide)' : 'var(--ink)'}
          >
            {p.pin}
          </text>
          {Array.from({ length: columns }, (_, i) => {
            const on = shown[i]?.on ?? now ?? []
            return on.includes(p.pin) ? (
              <rect
                key={left + i}
                x={x(i) - 13}
                y={y(row) - 13}
                width="26"
                height="26"
                rx="5"
                fill={shown[i] ? (p.does ? 'var(--prussian)' : 'var(--ink)') : 'var(--ochre-line)'}
              />
            ) : null
          })}
          {p.shares.map((share, k) => (
            <g key={signs[k]?.id ?? k}>
              <rect
                x={barsAt}
                y={y(row) - 4 * p.shares.length + k * 8}
                width={barWidth}
                height="6"
                rx="2"
                fill="var(--sheet-2)"
              />
              <rect
                x={barsAt}
                y={y(row) - 4 * p.shares.length + k * 8}
                width={Math.max(1, share * barWidth)}
                height="6"
                rx="2"
                fill={colours[k]}
              />
            </g>
          ))}
        </g>
      ))}
    </svg>
  )
}
