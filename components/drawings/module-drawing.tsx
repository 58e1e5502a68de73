import type { KeyboardEvent } from 'react'

export interface DrawnPin {
  pin: string
  /** What it does; empty while nobody knows. */
  does: string
  /** How sure, in a word. */
  sure: 'confirmed' | 'seen' | 'assumed' | 'inherited' | ''
  /** Something speaks against it. */
  wrong: boolean
  /** Not to be used, by its family. */
  closed: boolean
}

const fill = {
  confirmed: 'var(--verdigris)',
  seen: 'var(--prussian)',
  assumed: 'var(--copper)',
  inherited: 'var(--copper)',
  '': 'var(--sheet)',
}
const width = 860

/** "GPIO12: relay 1, confirmed" */
const pinWords = (pin: DrawnPin) =>
  `${pin.pin}: ${pin.does || 'nobody knows'}${pin.sure ? `, ${pin.sure}` : ''}${pin.wrong ? ', something speaks against it' : ''}`

function Contact({
  pin,
  x,
  y,
  right,
  chosen,
  onChoose,
  hatch,
  letters,
}: {
  pin: DrawnPin
  x: number
  y: number
  right: boolean
  chosen: boolean
  onChoose: (() => void) | null
  hatch: string
  /** Size of its words. */
  letters: number
}) {
  const press = (e: KeyboardEvent) => {
    if (e.key !== 'Enter' && e.key !== ' ') return
    e.preventDefault()
    e.stopPropagation()
    onChoose?.()
  }
  const inner = right ? x - 18 : x + 18
  const outer = right ? x + 26 : x - 26
  return (
    <g
      {...(onChoose
        ? {
            role: 'button',
            tabIndex: 0,
            'aria-pressed': chosen,
            'aria-label': pinWords(pin),
            className: 'cursor-pointer',
            onClick: onChoose,
            onKeyDown: press,
          }
        : {})}
    >
      <rect x={right ? x - 120 : x - 240} y={y - 16} width="360" height="32" fill="transparent" />
      {chosen && (
        <rect
          x={x - 21}
          y={y - 17}
          width="42"
          height="34"
          rx="8"
          fill="none"
          stroke="var(--ochre-line)"
          strokeWidth="4"
        />
      )}
      <rect
        x={x - 15}
        y={y - 11}
        width="30"
        height="22"
        rx="4"
        fill={pin.closed ? `url(#${hatch})` : fill[pin.sure]}
        stroke={pin.wrong ? 'var(--oxide)' : 'var(--ink)'}
        strokeWidth={pin.wrong ? 3 : 1.3}
      />
      <text
        x={inner}
        y={y + letters / 3}
        textAnchor={right ? 'end' : 'start'}
        className="pin"
        style={{ fontSize: letters }}
        fontWeight="700"
        fill={pin.closed ? 'var(--ink-3)' : 'var(--ink)'}
      >
        {pin.pin}
      </text>
      <text
        x={outer}
        y={y + letters / 3}
        textAnchor={right ? 'start' : 'end'}
        fontSize={letters}
        fill={pin.wrong ? 'var(--oxide)' : 'var(--ink)'}
      >
        {pin.does.length > 30 ? `${pin.does.slice(0, 29)}…` : pin.does}
        {pin.sure && pin.sure !== 'confirmed' ? ` · ${pin.sure}` : pin.sure === 'confirmed' ? ' ✓' : ''}
      </text>
    </g>
  )
}

/** The module with its pins at both sides, each with what it does; a pressed one is asked about. */
export function ModuleDrawing({
  pins,
  chip,
  chosen,
  lit = [],
  bare = false,
  onChoose,
}: {
  pins: readonly DrawnPin[]
  chip: string
  chosen: string | null
  /** Pins that are driven now. */
  lit?: readonly string[]
  /** The module alone, without what its pins do beside it. */
  bare?: boolean
  /** Left out where the pins are only shown. */
  onChoose?: (pin: string) => void
}) {
  const half = Math.ceil(pins.length / 2)
  const pitch = 34
  const height = 90 + half * pitch
  const y = (row: number) => 92 + row * pitch
  // A long module is drawn smaller, as high as the sheet: its words grow with it, and take the room beside it.
  const letters = Math.min(26, Math.max(15, Math.round(height / 30)))
  const beside = (letters - 15) * 25
  return (
    <svg
      viewBox={bare ? `245 0 370 ${height}` : `${-beside} 0 ${width + 2 * beside} ${height}`}
      className="min-h-0 w-full flex-1"
      style={{ maxHeight: 460 }}
      role={onChoose ? 'group' : 'img'}
      aria-label={
        onChoose
          ? `Pins of the ${chip}`
          : `Pins of the ${chip}: ${pins
              .filter((p) => p.does)
              .map(pinWords)
              .join('; ')}`
      }
    >
      <defs>
        <pattern id="closed-pin" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="2" height="6" fill="var(--ink-3)" />
        </pattern>
      </defs>
      <rect
        x="270"
        y="6"
        width="320"
        height={height - 12}
        rx="14"
        fill="var(--board)"
        stroke="var(--verdigris)"
        strokeWidth="2.5"
      />
      <path d="M300 26h260M300 42h50v14h50V42h50v14h50V42h60" fill="none" stroke="var(--ink-3)" strokeWidth="3" />
      <rect x="385" y={height / 2 - 24} width="90" height="60" rx="5" fill="var(--sheet)" stroke="var(--verdigris)" />
      <text
        x="430"
        y={height / 2 + 11}
        textAnchor="middle"
        className="pin"
        style={{ fontSize: letters }}
        fontWeight="700"
        fill="var(--ink)"
      >
        {chip}
      </text>
      {pins.map((pin, i) => (
        <Contact
          key={pin.pin}
          pin={pin}
          x={i < half ? 270 : 590}
          y={y(i < half ? i : i - half)}
          right={i >= half}
          chosen={chosen === pin.pin || lit.includes(pin.pin)}
          onChoose={onChoose ? () => onChoose(pin.pin) : null}
          hatch="closed-pin"
          letters={letters}
        />
      ))}
    </svg>
  )
}
