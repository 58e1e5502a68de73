'use client'
import type { ContactRole, ModuleContact } from '@fresh-coat/core/module/map'
import type { RefitEdge } from '@fresh-coat/core/refit/refit'
import type { KeyboardEvent } from 'react'

export interface DrawnContact extends ModuleContact {
  /** How sure the meter is of its role, 0 to 1; null where nobody measured it. */
  sure: number | null
  /** The meter speaks against it. */
  wrong: boolean
  /** What was read here, short. */
  note: string
}

const pitch = 42
const body = { left: 230, right: 630, top: 64 }
const roleWord = (role: ContactRole, pin: string | null) => (role === 'UNKNOWN' ? (pin ?? '?') : role)
const wordsOf = (c: DrawnContact) =>
  `contact ${c.n}: ${c.role === 'UNKNOWN' ? 'not known' : c.role}${c.pin ? `, ${c.pin}` : ''}${c.sure === null ? '' : `, ${Math.round(c.sure * 100)} % by the meter`}${c.wrong ? ', the meter says no' : ''}`

/** Where contact `i` of `count` on an edge stands, and which way its words go. */
function place(edge: RefitEdge, i: number, count: number, height: number) {
  const along = (length: number) => ((i + 0.5) * length) / count
  if (edge === 'left' || edge === 'right')
    return { x: edge === 'left' ? body.left : body.right, y: body.top + along(height), side: edge }
  return { x: body.left + along(body.right - body.left), y: edge === 'top' ? body.top : body.top + height, side: edge }
}

function colourOf({ sure, wrong, role }: DrawnContact): string {
  if (wrong) return 'var(--oxide)'
  if (sure !== null) return sure >= 0.9 ? 'var(--verdigris)' : 'var(--prussian)'
  return role === 'NC' || role === 'UNKNOWN' ? 'var(--sheet)' : 'var(--copper)'
}

function Contact({
  contact,
  at,
  chosen,
  onChoose,
}: {
  contact: DrawnContact
  at: ReturnType<typeof place>
  chosen: boolean
  onChoose: (() => void) | null
}) {
  const { x, y, side } = at
  const level = side === 'left' || side === 'right'
  const press = (e: KeyboardEvent) => {
    if (e.key !== 'Enter' && e.key !== ' ') return
    e.preventDefault()
    e.stopPropagation()
    onChoose?.()
  }
  const out = side === 'left' || side === 'top' ? -1 : 1
  const word = `${roleWord(contact.role, contact.pin)}${contact.role !== 'UNKNOWN' && contact.pin ? ` ${contact.pin}` : ''}`
  const anchor = level ? (side === 'left' ? 'end' : 'start') : 'middle'
  return (
    <g
      {...(onChoose
        ? {
            role: 'button',
            tabIndex: 0,
            'aria-pressed': chosen,
            'aria-label': wordsOf(contact),
            className: 'cursor-pointer',
            onClick: onChoose,
            onKeyDown: press,
          }
        : {})}
    >
      <rect
        x={level ? (side === 'left' ? x - 226 : x - 20) : x - 22}
        y={level ? y - 16 : y - 30}
        width={level ? 246 : 44}
        height={level ? 42 : 60}
        fill={chosen ? 'var(--sheet)' : 'transparent'}
        stroke={chosen ? 'var(--ochre-line)' : 'none'}
        strokeWidth="3"
        rx="9"
      />
      <rect
        x={x - (level ? 16 : 11)}
        y={y - (level ? 11 : 16)}
        width={level ? 32 : 22}
        height={level ? 22 : 32}
        rx="3"
        fill={colourOf(contact)}
        stroke="var(--ink)"
        strokeWidth="1.3"
        strokeDasharray={contact.role === 'UNKNOWN' ? '4 3' : undefined}
      />
      <text
        x={level ? x - out * 26 : x}
        y={level ? y + 5 : y - out * 26 + 5}
        textAnchor={level ? (side === 'left' ? 'start' : 'end') : 'middle'}
        className="pin"
        style={{ fontSize: 14 }}
        fill="var(--ink-2)"
      >
        {contact.n}
      </text>
      <text
        x={level ? x + out * 26 : x}
        y={level ? y + (contact.note ? 3 : 6) : y + out * 28 + 5}
        textAnchor={anchor}
        className="pin"
        style={{ fontSize: contact.role === 'NC' ? 13 : 17 }}
        fontWeight={contact.role === 'NC' || contact.role === 'UNKNOWN' ? 400 : 700}
        fill={contact.wrong ? 'var(--oxide)' : contact.role === 'NC' ? 'var(--ink-3)' : 'var(--ink)'}
      >
        {word}
      </text>
      {level && contact.note && (
        <text x={x + out * 26} y={y + 21} textAnchor={anchor} fontSize="13" fill="var(--ink-2)">
          {contact.note.length > 34 ? `${contact.note.slice(0, 33)}…` : contact.note}
        </text>
      )}
    </g>
  )
}

/** A module from its parts side: every contact at its edge, in its order, with its number, its role and what the meter says. */
export function ContactMap({
  contacts,
  name,
  chosen = null,
  onChoose,
}: {
  contacts: readonly DrawnContact[]
  /** Of the module. */
  name: string
  /** Number of a contact. */
  chosen?: number | null
  /** Left out where the map is only shown. */
  onChoose?: (n: number) => void
}) {
  const of = (edge: RefitEdge) => contacts.filter((c) => c.edge === edge)
  const tallest = Math.max(of('left').length, of('right').length, 4)
  const height = tallest * pitch
  const below = of('bottom').length > 0 ? 60 : 20
  return (
    <svg
      viewBox={`0 0 860 ${body.top + height + below}`}
      className="min-h-0 w-full flex-1"
      style={{ maxHeight: 470 }}
      role={onChoose ? 'group' : 'img'}
      aria-label={`${name}, parts side${onChoose ? '' : `: ${contacts.map(wordsOf).join('; ')}`}`}
    >
      <rect
        x={body.left}
        y={of('top').length > 0 ? body.top : 8}
        width={body.right - body.left}
        height={height + (of('top').length > 0 ? 0 : body.top - 8)}
        rx="10"
        fill="var(--board)"
        stroke="var(--verdigris)"
        strokeWidth="2.5"
      />
      {of('top').length === 0 && (
        <path
          d="M290 20h280M290 20v26h56v-14h56v14h56v-14h56v14h56V20"
          fill="none"
          stroke="var(--ink-3)"
          strokeWidth="3"
        />
      )}
      <rect
        x="326"
        y={body.top + height / 2 - 34}
        width="208"
        height="68"
        rx="6"
        fill="var(--sheet)"
        stroke="var(--verdigris)"
      />
      <text
        x="430"
        y={body.top + height / 2 + 6}
        textAnchor="middle"
        className="pin"
        style={{ fontSize: 15 }}
        fontWeight="700"
        fill="var(--ink)"
      >
        {name.length > 22 ? `${name.slice(0, 21)}…` : name}
      </text>
      {contacts.map((contact) => {
        const edge = of(contact.edge)
        return (
          <Contact
            key={contact.n}
            contact={contact}
            at={place(contact.edge, edge.indexOf(contact), edge.length, height)}
            chosen={chosen === contact.n}
            onChoose={onChoose ? () => onChoose(contact.n) : null}
          />
        )
      })}
    </svg>
  )
}
