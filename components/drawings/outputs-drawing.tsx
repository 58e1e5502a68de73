export interface DrawnOutput {
  ch: number
  name: string
  pins: string
  onPower: 'off' | 'on' | 'last'
  tried: boolean
}

const left = 190
const right = 820
const cutFrom = 430
const cutTo = 560

/** What an output does through a power cut: the level before, none during, and what it is set to after. */
function Line({ o, y }: { o: DrawnOutput; y: number }) {
  const before = { on: y - 22, off: y + 12 }
  const after = o.onPower === 'off' ? before.off : before.on
  return (
    <g>
      <text x="20" y={y - 4} fontSize="17" fontWeight="700" fill="var(--ink)">
        {o.name}
      </text>
      <text x="20" y={y + 15} className="pin" style={{ fontSize: 12.5 }} fill="var(--ink-2)">
        {o.pins.slice(0, 22)}
      </text>
      <rect x={left} y={before.on} width={cutFrom - left} height={34} fill="var(--verdigris)" opacity="0.25" />
      <path
        d={`M${left} ${before.on}H${cutFrom}V${before.off}H${cutTo}V${after}H${right}`}
        fill="none"
        stroke="var(--verdigris)"
        strokeWidth="4"
      />
      {after === before.on && (
        <rect x={cutTo} y={before.on} width={right - cutTo} height={34} fill="var(--verdigris)" opacity="0.25" />
      )}
      <text x={cutTo + 12} y={after === before.on ? y + 6 : y - 4} fontSize="15" fill="var(--ink)">
        {o.onPower === 'last' ? 'as before' : o.onPower}
        {o.tried ? ', tried on the unit' : ', not tried'}
      </text>
    </g>
  )
}

/** Every output over a power cut: what it is set to do, drawn as it would happen. */
export function OutputsDrawing({ outputs }: { outputs: readonly DrawnOutput[] }) {
  const pitch = outputs.length > 6 ? 54 : 84
  const height = 60 + Math.max(1, outputs.length) * pitch
  return (
    <svg
      viewBox={`0 0 840 ${height}`}
      className="min-h-0 w-full flex-1"
      style={{ maxHeight: 440 }}
      role="img"
      aria-label={`After a power cut: ${outputs.map((o) => `${o.name} ${o.onPower === 'last' ? 'as before' : o.onPower}, ${o.tried ? 'tried' : 'not tried'}`).join('; ')}`}
    >
      <rect x={cutFrom} y="34" width={cutTo - cutFrom} height={height - 40} fill="var(--unpainted)" opacity="0.5" />
      <text x={left} y="24" fontSize="15" fill="var(--ink-2)">
        switched on
      </text>
      <text x={(cutFrom + cutTo) / 2} y="24" textAnchor="middle" fontSize="15" fontWeight="700" fill="var(--ink)">
        power cut
      </text>
      <text x={cutTo + 12} y="24" fontSize="15" fill="var(--ink-2)">
        power is back
      </text>
      {outputs.map((o, i) => (
        <Line key={o.ch} o={o} y={80 + i * pitch} />
      ))}
    </svg>
  )
}
