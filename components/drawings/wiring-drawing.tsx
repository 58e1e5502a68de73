import { leadColours, type PadRole, type WiringPlan } from '@fresh-coat/core/wiring/wiring'
import { leadInk } from './lead-ink'

/** Adapter on the left, pads on the right, one lead per connection; pins that stay free are grey. */
export function WiringDrawing({
  pins,
  pads,
  plan,
  adapterName,
  boardName,
  family,
}: {
  pins: readonly string[]
  pads: readonly PadRole[]
  plan: WiringPlan
  adapterName: string
  boardName: string
  family: string
}) {
  const rows = Math.max(pins.length, pads.length)
  const pitch = 40
  const top = 30
  // Pads sit half a row lower where they would fall on the pins' rows: a lead never runs along another one.
  const shift = (pins.length - pads.length) % 2 === 0 ? pitch / 2 : 0
  const height = top + rows * pitch + shift + 34
  const yPin = (i: number) => top + i * pitch + ((rows - pins.length) * pitch) / 2
  const yPad = (i: number) => top + i * pitch + ((rows - pads.length) * pitch) / 2 + shift
  const used = new Set(plan.connections.map((c) => c.adapter))
  // Long leads turn nearest to the board, so that fewer of them cross.
  const leads = plan.connections.map((c) => ({ ...c, y1: yPin(c.adapter), y2: yPad(pads.indexOf(c.pad)) }))
  const lanes = [...leads].sort((a, b) => Math.abs(b.y1 - b.y2) - Math.abs(a.y1 - a.y2))
  const sentence = plan.connections.map((c) => `${c.pin} to ${c.pad}, ${leadColours[c.pad] ?? 'any colour'}`).join('; ')
  return (
    <svg viewBox={`0 0 740 ${height}`} className="w-full max-w-[660px]" role="img" aria-label={`Wiring: ${sentence}`}>
      <rect
        x="12"
        y="6"
        width="122"
        height={height - 34}
        rx="10"
        fill="var(--sheet-2)"
        stroke="var(--ink-3)"
        strokeWidth="1.5"
      />
      <rect
        x="540"
        y="6"
        width="188"
        height={height - 34}
        rx="10"
        fill="var(--board)"
        stroke="var(--verdigris)"
        strokeWidth="1.5"
      />
      <rect
        x="638"
        y={(height - 34) / 2 - 34}
        width="72"
        height="72"
        rx="5"
        fill="var(--sheet)"
        stroke="var(--verdigris)"
      />
      <text x="674" y={(height - 34) / 2 + 7} textAnchor="middle" className="pin" fontSize="13" fill="var(--ink)">
        {family}
      </text>
      {leads.map((c) => {
        const lane = lanes.findIndex((l) => l.adapter === c.adapter)
        const turn = 210 + ((lane + 0.5) / leads.length) * 270
        const r = Math.min(12, Math.abs(c.y2 - c.y1) / 2)
        const s = Math.sign(c.y2 - c.y1)
        const path =
          c.y1 === c.y2
            ? `M118 ${c.y1} H566`
            : `M118 ${c.y1} H${turn - r} q${r} 0 ${r} ${s * r} V${c.y2 - s * r} q0 ${s * r} ${r} ${s * r} H566`
        const colour = leadColours[c.pad] ?? 'black'
        return (
          <g key={`${c.adapter}-${c.pad}`}>
            <path d={path} fill="none" stroke="var(--sheet)" strokeWidth="8" />
            <path d={path} fill="none" stroke={leadInk(c.pad)} strokeWidth="3.6" strokeLinecap="round" />
            <text x="142" y={c.y1 - 7} fontSize="12.5" fill="var(--ink-2)">
              {colour}
            </text>
          </g>
        )
      })}
      {pins.map((name, i) => (
        <g key={i}>
          <rect
            x="108"
            y={yPin(i) - 10}
            width="20"
            height="20"
            rx="4"
            fill="var(--sheet)"
            stroke={used.has(i) ? 'var(--ink)' : 'var(--rule)'}
            strokeWidth="2"
          />
          <text
            x="98"
            y={yPin(i) + 5}
            textAnchor="end"
            className="pin"
            fontSize="14"
            fontWeight={used.has(i) ? 600 : 400}
            fill={used.has(i) ? 'var(--ink)' : 'var(--ink-3)'}
          >
            {name}
          </text>
        </g>
      ))}
      {pads.map((role, i) => (
        <g key={i}>
          {i === 0 ? (
            <rect x="556" y={yPad(i) - 12} width="24" height="24" fill="var(--copper)" stroke="#7a5d15" />
          ) : (
            <circle cx="568" cy={yPad(i)} r="12" fill="var(--copper)" stroke="#7a5d15" />
          )}
          <circle cx="568" cy={yPad(i)} r="5" fill="var(--sheet)" stroke="#7a5d15" />
          <text x="590" y={yPad(i) + 5} className="pin" fontSize="14" fontWeight="600" fill="var(--ink)">
            {role === 'UNKNOWN' ? '?' : role}
          </text>
        </g>
      ))}
      <text x="73" y={height - 8} textAnchor="middle" fontSize="14" fontWeight="600" fill="var(--ink-2)">
        {adapterName.length > 22 ? `${adapterName.slice(0, 21)}…` : adapterName}
      </text>
      <text x="634" y={height - 8} textAnchor="middle" fontSize="14" fontWeight="600" fill="var(--ink-2)">
        {boardName}, parts side
      </text>
    </svg>
  )
}
