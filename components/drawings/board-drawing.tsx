import type { ReactNode } from 'react'

/** What was seen on the board, in the words of the checks; null while nobody looked. */
export interface SeenOnBoard {
  crystal: string | null
  flash: 'external8' | 'none' | null
  /** Contacts along the edges: how many are drawn; null while nobody counted, 0 where there is no module. */
  contacts: number | null
  printed: string
  /** What is thought of the chip: "LX106". */
  chip: string
  chipNote: string
}

const pcb = { x: 40, y: 30, w: 400, h: 300 }

/** A part one may look at: pressed, it is asked about. */
function Part({
  name,
  known,
  asked,
  onPick,
  children,
}: {
  name: string
  known: boolean
  asked: boolean
  onPick: () => void
  children: ReactNode
}) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: a part of a drawing
    <g
      role="button"
      tabIndex={0}
      aria-label={name}
      className="cursor-pointer"
      opacity={known || asked ? 1 : 0.72}
      onClick={onPick}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== ' ') return
        e.preventDefault()
        e.stopPropagation()
        onPick()
      }}
    >
      {children}
    </g>
  )
}

const strokeOf = (known: boolean, asked: boolean) => ({
  stroke: asked ? 'var(--ochre-line)' : 'var(--ink)',
  strokeWidth: asked ? 4 : 2,
  ...(known ? {} : { strokeDasharray: '6 4' }),
})

function Contacts({ count, known, asked }: { count: number; known: boolean; asked: boolean }) {
  const side = Math.min(9, Math.ceil(count / 2.4))
  const foot = Math.max(0, Math.min(9, count - 2 * side))
  const look = {
    fill: known ? 'var(--copper)' : 'var(--sheet)',
    ...strokeOf(known, asked),
    strokeWidth: asked ? 3 : 1.2,
  }
  const along = (n: number, i: number, from: number, length: number) => from + ((i + 0.5) * length) / n
  return (
    <g>
      {Array.from({ length: side }, (_, i) => (
        <g key={i}>
          <rect x={pcb.x - 9} y={along(side, i, 96, 224) - 7} width="18" height="14" rx="3" {...look} />
          <rect x={pcb.x + pcb.w - 9} y={along(side, i, 96, 224) - 7} width="18" height="14" rx="3" {...look} />
        </g>
      ))}
      {Array.from({ length: foot }, (_, i) => (
        <rect key={i} x={along(foot, i, 70, 340) - 7} y={pcb.y + pcb.h - 9} width="14" height="18" rx="3" {...look} />
      ))}
    </g>
  )
}

function Chip({ seen: { chip, chipNote, printed }, asked }: { seen: SeenOnBoard; asked: boolean }) {
  return (
    <>
      <rect x="176" y="128" width="150" height="140" rx="6" fill="var(--sheet)" {...strokeOf(true, asked)} />
      <circle cx="192" cy="144" r="5" fill="none" stroke="var(--ink-3)" strokeWidth="2" />
      <text x="251" y="192" textAnchor="middle" className="font-title" fontSize="25" fontWeight="700" fill="var(--ink)">
        {chip}
      </text>
      <text x="251" y="214" textAnchor="middle" fontSize="14" fill="var(--ink-2)">
        {chipNote}
      </text>
      <text x="251" y="252" textAnchor="middle" className="pin" style={{ fontSize: 13 }} fill="var(--ink-3)">
        {printed.slice(0, 18) || 'print?'}
      </text>
    </>
  )
}

function Crystal({ crystal, asked }: { crystal: string | null; asked: boolean }) {
  return (
    <>
      <rect
        x="76"
        y="146"
        width="76"
        height="44"
        rx="14"
        fill="var(--sheet-2)"
        {...strokeOf(crystal !== null, asked)}
      />
      <text x="114" y="174" textAnchor="middle" className="pin" style={{ fontSize: 16 }} fill="var(--ink)">
        {crystal ?? '? MHz'}
      </text>
    </>
  )
}

function FlashChip({ flash, asked }: { flash: SeenOnBoard['flash']; asked: boolean }) {
  const isNone = flash === 'none'
  return (
    <>
      {!isNone && (
        <path
          d="M352 158h-8M352 174h-8M352 190h-8M352 206h-8M412 158h8M412 174h8M412 190h8M412 206h8"
          stroke="var(--ink)"
          strokeWidth="4"
          opacity={flash === null ? 0.5 : 1}
        />
      )}
      <rect
        x="352"
        y="148"
        width="60"
        height="68"
        rx="4"
        fill={isNone ? 'none' : 'var(--sheet-2)'}
        {...strokeOf(flash !== null, asked)}
        {...(isNone ? { strokeDasharray: '3 5' } : {})}
      />
      <text x="382" y="186" textAnchor="middle" fontSize="14" fill="var(--ink)">
        {isNone ? 'none' : 'flash'}
      </text>
      {flash === null && (
        <text x="382" y="204" textAnchor="middle" fontSize="14" fill="var(--ink-2)">
          ?
        </text>
      )}
    </>
  )
}

/** The board itself, with the track of its antenna. */
function Bare() {
  return (
    <>
      <rect
        x={pcb.x}
        y={pcb.y}
        width={pcb.w}
        height={pcb.h}
        rx="14"
        fill="var(--board)"
        stroke="var(--verdigris)"
        strokeWidth="2.5"
      />
      <path
        d="M70 52h300M70 66h40v18h40v-18h40v18h40v-18h40v18h40v-18h60"
        fill="none"
        stroke="var(--ink-3)"
        strokeWidth="3"
      />
    </>
  )
}

const flashWords = { none: 'none beside it', external8: '8-pin chip beside it' } as const
const inWords = ({ chip, crystal, flash, contacts }: SeenOnBoard): string =>
  `The board: chip ${chip}, crystal ${crystal ?? 'not looked at'}, flash ${flash === null ? 'not looked at' : flashWords[flash]}, ${contacts === null ? 'contacts not counted' : 'contacts counted'}`

/** Drawn while nobody counted. */
const usualContacts = 14

/** The board with what was seen on it: antenna, chip, crystal, flash, contacts. What nobody looked at is dashed. */
export function BoardDrawing({
  seen,
  asked,
  onAsk,
}: {
  seen: SeenOnBoard
  /** The check that is asked now. */
  asked: string | null
  onAsk: (kind: string) => void
}) {
  const part = (kind: string, known: boolean) => ({ known, asked: asked === kind, onPick: () => onAsk(kind) })
  const contacts = part('edge_contacts', seen.contacts !== null)
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing whose parts are pressed
    <svg
      viewBox="20 18 440 328"
      className="h-full max-h-[380px] min-h-0 w-full"
      role="group"
      aria-label={inWords(seen)}
    >
      <Bare />
      <Part name="Contacts of the module" {...contacts}>
        <Contacts count={seen.contacts ?? usualContacts} known={contacts.known} asked={contacts.asked} />
      </Part>
      <Part name="The chip" {...part('printed', seen.printed !== '')}>
        <Chip seen={seen} asked={asked === 'printed'} />
      </Part>
      <Part name="Crystal" {...part('crystal', seen.crystal !== null)}>
        <Crystal crystal={seen.crystal} asked={asked === 'crystal'} />
      </Part>
      <Part name="Flash chip" {...part('flash_chip', seen.flash !== null)}>
        <FlashChip flash={seen.flash} asked={asked === 'flash_chip'} />
      </Part>
    </svg>
  )
}
