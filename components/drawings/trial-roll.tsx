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

/** Where the columns of trials, the rows of pins and the bars stand. */
function placesOf(signs: number, pins: number, columns: number) {
  const top = 20 + signs * signPitch
  const barsAt = nameWidth + Math.max(columns, 2) * columnPitch + 24
  return {
    top,
    barsAt,
    tall: pins * rowPitch,
    height: top + pins * rowPitch + 40,
    width: barsAt + barWidth + 12,
    x: (column: number) => nameWidth + column * columnPitch + columnPitch / 2,
    y: (row: number) => top + row * rowPitch + rowPitch / 2,
  }
}
type Places = ReturnType<typeof placesOf>

/** A sign: its row above the trials, and its bars beside them. */
function SignName({ name, at: i, barsAt }: { name: string; at: number; barsAt: number }) {
  return (
    <g>
      <text x="0" y={24 + i * signPitch} fontSize="14" fill="var(--ink-2)">
        {name}
      </text>
      <rect x={barsAt} y={14 + i * signPitch} width="12" height="12" rx="3" fill={colours[i]} />
      <text x={barsAt + 18} y={25 + i * signPitch} fontSize="13" fill="var(--ink-2)">
        {name}
      </text>
    </g>
  )
}

/** What was seen at a trial; a question where it waits for its answer. */
function Answer({
  trial,
  signs,
  x,
  top,
}: {
  trial: RollTrial | undefined
  signs: readonly RollSign[]
  x: number
  top: number
}) {
  if (!trial)
    return (
      <text x={x} y={top - 10} textAnchor="middle" fontSize="24" fontWeight="700" fill="var(--ochre-line)">
        ?
      </text>
    )
  if (trial.reset)
    return (
      <text x={x} y={18} textAnchor="middle" fontSize="13" fontWeight="700" fill="var(--oxide)">
        restart
      </text>
    )
  return signs.map((s, k) => (
    <Seen
      key={s.id}
      kind={s.kind}
      seen={trial.saw.includes(s.id)}
      x={x}
      y={20 + k * signPitch}
      colour={colours[k] ?? 'var(--ink)'}
    />
  ))
}

/** @param name what stands under the column */
function Column({
  trial,
  name,
  signs,
  x,
  at: { top, tall },
}: {
  trial: RollTrial | undefined
  name: string
  signs: readonly RollSign[]
  x: number
  at: Places
}) {
  return (
    <g>
      <rect x={x - 21} y={top} width="42" height={tall} rx="6" fill={trial ? 'var(--sheet-2)' : 'var(--ochre-soft)'} />
      <text x={x} y={top + tall + 22} textAnchor="middle" className="pin" style={{ fontSize: 13 }} fill="var(--ink-2)">
        {name}
      </text>
      <Answer trial={trial} signs={signs} x={x} top={top} />
    </g>
  )
}

/** How likely a pin is for each sign. */
function Shares({ shares, x, y }: { shares: readonly number[]; x: number; y: number }) {
  const bar = (k: number) => ({ x, y: y - 4 * shares.length + k * 8, height: 6, rx: 2 })
  return shares.map((share, k) => (
    <g key={k}>
      <rect {...bar(k)} width={barWidth} fill="var(--sheet-2)" />
      <rect {...bar(k)} width={Math.max(1, share * barWidth)} fill={colours[k]} />
    </g>
  ))
}

/** A pin: its name, a square at every trial that drove it, and how likely it is for each sign. */
function PinRow({
  pin: { pin, does, shares, suspect },
  row,
  driven,
  at,
}: {
  pin: RollPin
  row: number
  /** Of each column: `now` for the trial that waits; null where it did not drive this pin. */
  driven: readonly ('now' | 'before' | null)[]
  at: Places
}) {
  const y = at.y(row)
  return (
    <g>
      <text
        x="0"
        y={y + 5}
        className="pin"
        style={{ fontSize: 15 }}
        fontWeight={does ? 700 : 500}
        fill={suspect ? 'var(--oxide)' : 'var(--ink)'}
      >
        {pin}
      </text>
      {driven.map(
        (when, i) =>
          when && (
            <rect
              key={i}
              x={at.x(i) - 13}
              y={y - 13}
              width="26"
              height="26"
              rx="5"
              fill={when === 'now' ? 'var(--ochre-line)' : does ? 'var(--prussian)' : 'var(--ink)'}
            />
          ),
      )}
      <Shares shares={shares} x={at.barsAt} y={y} />
    </g>
  )
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
  const columns: (RollTrial | undefined)[] = [...trials.slice(left), ...(now === null ? [] : [undefined])]
  const at = placesOf(signs.length, pins.length, columns.length)
  const nameOf = (trial: RollTrial | undefined, i: number): string => {
    if (!trial) return 'now'
    const driven = trials.slice(0, left + i + 1).filter((t) => t.on.length > 0).length
    return trial.on.length === 0 ? 'off' : String(driven)
  }
  const drivenOf = (pin: string) =>
    columns.map((trial) => ((trial?.on ?? now ?? []).includes(pin) ? (trial ? 'before' : 'now') : null))
  return (
    <svg
      viewBox={`0 0 ${at.width} ${at.height}`}
      className="min-h-0 w-full"
      // What stands above and below it on a desk’s screen takes 430 of its height.
      style={{ maxHeight: 'min(470px, max(300px, calc(100dvh - 430px)))', maxWidth: at.width * 1.15 }}
      role="img"
      aria-label={inWords(signs, trials, pins)}
    >
      {signs.map((s, i) => (
        <SignName key={s.id} name={s.name} at={i} barsAt={at.barsAt} />
      ))}
      {columns.map((trial, i) => (
        <Column key={left + i} trial={trial} name={nameOf(trial, i)} signs={signs} x={at.x(i)} at={at} />
      ))}
      {pins.map((p, row) => (
        <PinRow key={p.pin} pin={p} row={row} driven={drivenOf(p.pin)} at={at} />
      ))}
    </svg>
  )
}
