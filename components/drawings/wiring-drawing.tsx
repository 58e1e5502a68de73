import { type Connection, leadColours, type PadRole, type WiringPlan } from '@fresh-coat/core/wiring/wiring'
import { leadInk, leadRim } from './lead-ink'

interface Lead extends Connection {
  y1: number
  y2: number
}

const pitch = 46
const top = 34

/** Where pins and pads stand: pads half a row lower where they would fall on the pins' rows, so that no lead runs along another. */
function placesOf(pins: number, pads: number) {
  const rows = Math.max(pins, pads)
  const shift = (pins - pads) % 2 === 0 ? pitch / 2 : 0
  return {
    height: top + rows * pitch + shift + 30,
    pin: (i: number) => top + i * pitch + ((rows - pins) * pitch) / 2,
    pad: (i: number) => top + i * pitch + ((rows - pads) * pitch) / 2 + shift,
  }
}

/** A lead's way: out of the pin, up or down in its own lane, into the pad. */
function pathOf({ y1, y2 }: Lead, lane: number, lanes: number): string {
  if (y1 === y2) return `M132 ${y1} H576`
  const turn = 220 + ((lane + 0.5) / lanes) * 280
  const r = Math.min(12, Math.abs(y2 - y1) / 2)
  const s = Math.sign(y2 - y1)
  return `M132 ${y1} H${turn - r} q${r} 0 ${r} ${s * r} V${y2 - s * r} q0 ${s * r} ${r} ${s * r} H576`
}

function LeadPath({
  lead,
  path,
  on,
  next,
  onToggle,
}: {
  lead: Lead
  path: string
  on: boolean
  next: boolean
  onToggle: () => void
}) {
  const colour = leadColours[lead.pad] ?? 'any colour'
  return (
    // biome-ignore lint/a11y/useSemanticElements: a lead in a drawing
    <g
      role="checkbox"
      aria-checked={on}
      aria-label={`Adapter ${lead.pin} (pin ${lead.adapter + 1}) to pad ${lead.pad}, ${colour}`}
      tabIndex={0}
      className="cursor-pointer"
      onClick={onToggle}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== ' ') return
        e.preventDefault()
        e.stopPropagation()
        onToggle()
      }}
    >
      <path d={path} fill="none" stroke="transparent" strokeWidth="20" />
      <path
        d={path}
        fill="none"
        stroke={next ? 'var(--ochre-line)' : leadRim(lead.pad)}
        strokeWidth={next ? 15 : 9}
        opacity={next ? 0.45 : 1}
      />
      <path
        d={path}
        fill="none"
        stroke={leadInk(lead.pad)}
        strokeWidth={on || next ? 5 : 4}
        strokeLinecap="round"
        strokeDasharray={on ? undefined : '2 9'}
      />
      <text x="150" y={lead.y1 - 8} fontSize="14.5" fill="var(--ink-2)">
        {on ? '✓ ' : ''}
        {colour}
      </text>
    </g>
  )
}

/** Letters of a name that stand under the adapter, and as many as there is room for up to the board's own. */
const asWideAsBody = 20
const asWideAsRoom = 60

/** The adapter on the left, the pads on the right, one lead per connection; a lead that is on is drawn through. */
export function WiringDrawing({
  pins,
  pads,
  contacts = [],
  plan,
  adapterName,
  boardName,
  family,
  joined,
  next,
  onToggle,
}: {
  pins: readonly string[]
  pads: readonly PadRole[]
  /** Numbers of the module's contacts, where the pads are those. */
  contacts?: readonly number[]
  plan: WiringPlan
  adapterName: string
  boardName: string
  family: string
  joined: readonly PadRole[]
  next: PadRole | null
  onToggle: (pad: PadRole) => void
}) {
  const at = placesOf(pins.length, pads.length)
  const used = new Set(plan.connections.map((c) => c.adapter))
  const leads = plan.connections.map((c) => ({ ...c, y1: at.pin(c.adapter), y2: at.pad(pads.indexOf(c.pad)) }))
  // Long leads turn nearest to the board, so that fewer of them cross.
  const lanes = [...leads].sort((a, b) => Math.abs(b.y1 - b.y2) - Math.abs(a.y1 - a.y2))
  const body = at.height - 34
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing whose parts are pressed
    <svg
      viewBox={`0 0 760 ${at.height}`}
      className="min-h-0 w-full flex-1"
      style={{ maxHeight: 430 }}
      role="group"
      aria-label={`Wiring of ${adapterName}: ${plan.connections.map((c) => `${c.pin} to ${c.pad}, ${leadColours[c.pad] ?? 'any colour'}`).join('; ')}`}
    >
      <rect x="8" y="6" width="138" height={body} rx="12" fill="var(--sheet-2)" stroke="var(--ink-3)" strokeWidth="2" />
      <rect
        x="550"
        y="6"
        width="202"
        height={body}
        rx="12"
        fill="var(--board)"
        stroke="var(--verdigris)"
        strokeWidth="2"
      />
      <rect x="662" y={body / 2 - 34} width="74" height="74" rx="6" fill="var(--sheet)" stroke="var(--verdigris)" />
      <text x="699" y={body / 2 + 8} textAnchor="middle" className="pin" style={{ fontSize: 13 }} fill="var(--ink)">
        {family}
      </text>
      {leads.map((lead) => (
        <LeadPath
          key={`${lead.adapter}-${lead.pad}`}
          lead={lead}
          path={pathOf(
            lead,
            lanes.findIndex((l) => l.adapter === lead.adapter),
            leads.length,
          )}
          on={joined.includes(lead.pad)}
          next={next === lead.pad}
          onToggle={() => onToggle(lead.pad)}
        />
      ))}
      {pins.map((name, i) => (
        <g key={i}>
          <rect
            x="118"
            y={at.pin(i) - 11}
            width="22"
            height="22"
            rx="4"
            fill="var(--sheet)"
            stroke={used.has(i) ? 'var(--ink)' : 'var(--rule)'}
            strokeWidth="2"
          />
          <text
            x="106"
            y={at.pin(i) + 6}
            textAnchor="end"
            className="pin"
            style={{ fontSize: 16 }}
            fontWeight={used.has(i) ? 700 : 400}
            fill={used.has(i) ? 'var(--ink)' : 'var(--ink-3)'}
          >
            {name}
          </text>
        </g>
      ))}
      {pads.map((role, i) => (
        <g key={i}>
          {i === 0 ? (
            <rect x="563" y={at.pad(i) - 13} width="26" height="26" fill="var(--copper)" stroke="#7a5d15" />
          ) : (
            <circle cx="576" cy={at.pad(i)} r="13" fill="var(--copper)" stroke="#7a5d15" />
          )}
          <circle cx="576" cy={at.pad(i)} r="5" fill="var(--sheet)" stroke="#7a5d15" />
          <text x="600" y={at.pad(i) + 6} className="pin" style={{ fontSize: 16 }} fontWeight="700" fill="var(--ink)">
            {role === 'UNKNOWN' ? '?' : role}
            {contacts[i] !== undefined && (
              <tspan fontWeight="400" fill="var(--ink-2)">
                {' '}
                {contacts[i]}
              </tspan>
            )}
          </text>
        </g>
      ))}
      <text
        x={adapterName.length > asWideAsBody ? 8 : 77}
        y={at.height - 8}
        textAnchor={adapterName.length > asWideAsBody ? 'start' : 'middle'}
        fontSize="15"
        fontWeight="600"
        fill="var(--ink-2)"
      >
        {adapterName.length > asWideAsRoom ? `${adapterName.slice(0, asWideAsRoom - 1)}…` : adapterName}
      </text>
      <text x="650" y={at.height - 8} textAnchor="middle" fontSize="15" fontWeight="600" fill="var(--ink-2)">
        {boardName}, parts side
      </text>
    </svg>
  )
}
