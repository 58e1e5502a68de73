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

type Places = ReturnType<typeof placesOf>

function AdapterPin({ name, y, used }: { name: string; y: number; used: boolean }) {
  return (
    <g>
      <rect
        x="118"
        y={y - 11}
        width="22"
        height="22"
        rx="4"
        fill="var(--sheet)"
        stroke={used ? 'var(--ink)' : 'var(--rule)'}
        strokeWidth="2"
      />
      <text
        x="106"
        y={y + 6}
        textAnchor="end"
        className="pin"
        style={{ fontSize: 16 }}
        fontWeight={used ? 700 : 400}
        fill={used ? 'var(--ink)' : 'var(--ink-3)'}
      >
        {name}
      </text>
    </g>
  )
}

/** The first pad of a row is square, as on most boards. @param contact its number on the module, where it has one */
function Pad({ role, y, first, contact }: { role: PadRole; y: number; first: boolean; contact: number | undefined }) {
  return (
    <g>
      {first ? (
        <rect x="563" y={y - 13} width="26" height="26" fill="var(--copper)" stroke="#7a5d15" />
      ) : (
        <circle cx="576" cy={y} r="13" fill="var(--copper)" stroke="#7a5d15" />
      )}
      <circle cx="576" cy={y} r="5" fill="var(--sheet)" stroke="#7a5d15" />
      <text x="600" y={y + 6} className="pin" style={{ fontSize: 16 }} fontWeight="700" fill="var(--ink)">
        {role === 'UNKNOWN' ? '?' : role}
        {contact !== undefined && (
          <tspan fontWeight="400" fill="var(--ink-2)">
            {' '}
            {contact}
          </tspan>
        )}
      </text>
    </g>
  )
}

/** Letters of a name that stand under the adapter, and as many as there is room for up to the board's own. */
const asWideAsBody = 20
const asWideAsRoom = 60

function Names({ adapter, board, y }: { adapter: string; board: string; y: number }) {
  const isLong = adapter.length > asWideAsBody
  return (
    <>
      <text
        x={isLong ? 8 : 77}
        y={y}
        textAnchor={isLong ? 'start' : 'middle'}
        fontSize="15"
        fontWeight="600"
        fill="var(--ink-2)"
      >
        {adapter.length > asWideAsRoom ? `${adapter.slice(0, asWideAsRoom - 1)}…` : adapter}
      </text>
      <text x="650" y={y} textAnchor="middle" fontSize="15" fontWeight="600" fill="var(--ink-2)">
        {board}, parts side
      </text>
    </>
  )
}

/** Adapter and board, with the chip. */
function Bodies({ height, family }: { height: number; family: string }) {
  return (
    <>
      <rect
        x="8"
        y="6"
        width="138"
        height={height}
        rx="12"
        fill="var(--sheet-2)"
        stroke="var(--ink-3)"
        strokeWidth="2"
      />
      <rect
        x="550"
        y="6"
        width="202"
        height={height}
        rx="12"
        fill="var(--board)"
        stroke="var(--verdigris)"
        strokeWidth="2"
      />
      <rect x="662" y={height / 2 - 34} width="74" height="74" rx="6" fill="var(--sheet)" stroke="var(--verdigris)" />
      <text x="699" y={height / 2 + 8} textAnchor="middle" className="pin" style={{ fontSize: 13 }} fill="var(--ink)">
        {family}
      </text>
    </>
  )
}

/** The leads of a plan, each with its way. */
function leadsOf({ connections }: WiringPlan, pads: readonly PadRole[], at: Places): { lead: Lead; path: string }[] {
  const leads = connections.map((c) => ({ ...c, y1: at.pin(c.adapter), y2: at.pad(pads.indexOf(c.pad)) }))
  // Long leads turn nearest to the board, so that fewer of them cross.
  const lanes = [...leads].sort((a, b) => Math.abs(b.y1 - b.y2) - Math.abs(a.y1 - a.y2))
  return leads.map((lead) => {
    const lane = lanes.findIndex((l) => l.adapter === lead.adapter)
    return { lead, path: pathOf(lead, lane, leads.length) }
  })
}

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
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing whose parts are pressed
    <svg
      viewBox={`0 0 760 ${at.height}`}
      className="min-h-0 w-full flex-1"
      style={{ maxHeight: 430 }}
      role="group"
      aria-label={`Wiring of ${adapterName}: ${plan.connections.map((c) => `${c.pin} to ${c.pad}, ${leadColours[c.pad] ?? 'any colour'}`).join('; ')}`}
    >
      <Bodies height={at.height - 34} family={family} />
      {leadsOf(plan, pads, at).map(({ lead, path }) => (
        <LeadPath
          key={`${lead.adapter}-${lead.pad}`}
          lead={lead}
          path={path}
          on={joined.includes(lead.pad)}
          next={next === lead.pad}
          onToggle={() => onToggle(lead.pad)}
        />
      ))}
      {pins.map((name, i) => (
        <AdapterPin key={i} name={name} y={at.pin(i)} used={used.has(i)} />
      ))}
      {pads.map((role, i) => (
        <Pad key={i} role={role} y={at.pad(i)} first={i === 0} contact={contacts[i]} />
      ))}
      <Names adapter={adapterName} board={boardName} y={at.height - 8} />
    </svg>
  )
}
