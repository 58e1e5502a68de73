export interface Way {
  /** "On and off from the hub, seen at the load". */
  does: string
  state: 'stands' | 'stale' | 'failed' | 'none'
  /** When, and what was seen. */
  note: string
  /** Of a unit with several channels, how each of them stands. */
  channels: readonly { channel: number; state: Way['state'] }[]
}

const ink = { stands: 'var(--verdigris)', stale: 'var(--ochre-line)', failed: 'var(--oxide)', none: 'var(--rule)' }
const word = { stands: 'stands', stale: 'stale', failed: 'failed', none: 'not tested' }

/** "stands on all 4"; of several that differ, how many stand: "2 of 4 stand, 3 failed". */
function standingWords({ state, channels }: Way): string {
  if (channels.length < 2) return word[state]
  if (channels.every((c) => c.state === state))
    return state === 'none' ? word.none : `${word[state]} on all ${channels.length}`
  const failed = channels.filter((c) => c.state === 'failed').map((c) => c.channel)
  const stand = `${channels.filter((c) => c.state === 'stands').length} of ${channels.length} stand`
  return failed.length > 0 ? `${stand}, ${failed.join(' and ')} failed` : stand
}

/** On its arrow every channel has its number. */
function Channels({ channels, y }: { channels: Way['channels']; y: number }) {
  const apart = Math.min(46, 240 / Math.max(1, channels.length - 1))
  return channels.map(({ channel, state }, i) => {
    const x = 415 + (i - (channels.length - 1) / 2) * apart
    return (
      <g key={channel}>
        <circle
          cx={x}
          cy={y}
          r="13"
          fill={state === 'stands' || state === 'failed' ? ink[state] : 'var(--sheet)'}
          stroke={state === 'none' ? 'var(--ink-3)' : ink[state]}
          strokeWidth="3"
          strokeDasharray={state === 'none' ? '3 4' : undefined}
        />
        <text
          x={x}
          y={y + 5}
          textAnchor="middle"
          fontSize="14"
          fontWeight="800"
          fill={state === 'stands' || state === 'failed' ? 'var(--sheet)' : 'var(--ink)'}
        >
          {channel}
        </text>
      </g>
    )
  })
}

function Arrow({ way, y, left }: { way: Way; y: number; left: boolean }) {
  const [from, to] = left ? [580, 250] : [250, 580]
  const tip = left ? 1 : -1
  // Numbers on the arrow want room above it.
  const up = way.channels.length > 1 ? 11 : 0
  return (
    <g>
      <path
        d={`M${from} ${y}H${to}M${to + tip * 16} ${y - 11}L${to} ${y}L${to + tip * 16} ${y + 11}`}
        fill="none"
        stroke={ink[way.state]}
        strokeWidth="5"
        strokeDasharray={way.state === 'none' ? '4 9' : undefined}
      />
      <text x="415" y={y - 34 - up} textAnchor="middle" fontSize="17" fontWeight="700" fill="var(--ink)">
        {way.does}
      </text>
      <text
        x="415"
        y={y - 13 - up}
        textAnchor="middle"
        fontSize="15"
        fill={way.state === 'none' ? 'var(--ink-2)' : ink[way.state]}
        fontWeight="700"
      >
        {standingWords(way)}
      </text>
      {way.channels.length > 1 && <Channels channels={way.channels} y={y} />}
      <text x="415" y={y + 32} textAnchor="middle" fontSize="14.5" fill="var(--ink-2)">
        {way.note.length > 52 ? `${way.note.slice(0, 51)}…` : way.note}
      </text>
    </g>
  )
}

function Box({ x, title, note }: { x: number; title: string; note: string }) {
  const cut = (s: string, n: number) => (s.length > n ? `${s.slice(0, n - 1)}…` : s)
  return (
    <g>
      <rect x={x} y="40" width="220" height="280" rx="20" fill="var(--sheet-2)" stroke="var(--ink)" strokeWidth="3" />
      <text
        x={x + 110}
        y="185"
        textAnchor="middle"
        className="font-title"
        fontSize="27"
        fontWeight="800"
        fill="var(--ink)"
      >
        {cut(title, 14)}
      </text>
      <text x={x + 110} y="212" textAnchor="middle" fontSize="14.5" fill="var(--ink-2)">
        {cut(note, 28)}
      </text>
    </g>
  )
}

export interface Station {
  name: string
  state: Way['state']
  /** When it was seen, or why it does not stand any more. */
  note: string
}

/** How far the two are with each other: the states one after the other, each on what was seen of it. */
function Stations({ stations, y }: { stations: readonly Station[]; y: number }) {
  const x = (i: number) => 70 + i * 138
  return (
    <g>
      {stations.slice(1).map((s, i) => (
        <path
          key={s.name}
          d={`M${x(i) + 15} ${y}H${x(i + 1) - 15}`}
          stroke={s.state === 'stands' ? ink.stands : 'var(--rule)'}
          strokeWidth="3"
        />
      ))}
      {stations.map((s, i) => (
        <g key={s.name}>
          <circle
            cx={x(i)}
            cy={y}
            r="13"
            fill={s.state === 'stands' ? ink.stands : 'var(--sheet)'}
            stroke={s.state === 'none' ? 'var(--ink-3)' : ink[s.state]}
            strokeWidth="3"
            strokeDasharray={s.state === 'none' ? '3 5' : undefined}
          />
          <text
            x={x(i)}
            y={y + 5}
            textAnchor="middle"
            fontSize="15"
            fontWeight="800"
            fill={s.state === 'stands' ? 'var(--sheet)' : ink[s.state]}
          >
            {{ stands: '✓', stale: '!', failed: '×', none: '' }[s.state]}
          </text>
          <text x={x(i)} y={y + 35} textAnchor="middle" fontSize="14.5" fontWeight="700" fill="var(--ink)">
            {s.name}
          </text>
          <text x={x(i)} y={y + 53} textAnchor="middle" fontSize="12.5" fill="var(--ink-2)">
            {s.note.length > 20 ? `${s.note.slice(0, 19)}…` : s.note}
          </text>
        </g>
      ))}
    </g>
  )
}

/** The hub and the unit, what was tried between them in each direction, and how far they are with each other. */
export function HubDrawing({
  hub,
  number,
  unit,
  toUnit,
  toHub,
  stations,
}: {
  hub: string
  /** Number on the case. */
  number: string
  unit: string
  toUnit: Way
  /** Null when the unit has nothing to press. */
  toHub: Way | null
  stations: readonly Station[]
}) {
  return (
    <svg
      viewBox="0 30 830 410"
      className="min-h-0 w-full flex-1"
      style={{ maxHeight: 450 }}
      role="img"
      aria-label={`Between ${hub} and ${number} ${unit}: from the hub ${standingWords(toUnit)}${toUnit.note ? `, ${toUnit.note}` : ''}; ${toHub ? `from the unit ${standingWords(toHub)}${toHub.note ? `, ${toHub.note}` : ''}` : 'the unit has nothing to press'}. ${stations.map((s) => `${s.name}: ${s.state === 'none' ? 'not yet' : word[s.state]}`).join(', ')}`}
    >
      <Stations stations={stations} y={372} />
      <Box x={20} title={hub} note="hub" />
      <Box x={590} title={number} note={unit} />
      <Arrow way={toUnit} y={118} left={false} />
      {toHub ? (
        <Arrow way={toHub} y={250} left />
      ) : (
        <text x="415" y="250" textAnchor="middle" fontSize="16" fill="var(--ink-2)">
          It has no button or switch to press.
        </text>
      )}
    </svg>
  )
}
