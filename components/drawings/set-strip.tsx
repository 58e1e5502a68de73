import { grouped, hexNumber, sizeWords } from '@fresh-coat/core/bytes/text'

export interface DrawnPart {
  name: string
  /** Null while nobody knows where it goes. */
  offset: number | null
  bytes: number
  /** What it was found to be: "boot loader". */
  kind: string
  /** Something speaks against where it lies. */
  wrong: boolean
}

const width = 800
const left = 20
const top = 34
const rowHeight = 40

/** Several files as they will lie on one chip, each with its line to the strip; those without a place stand below. */
export function SetStrip({ parts, chipBytes }: { parts: readonly DrawnPart[]; chipBytes: number | null }) {
  const order = [...parts].sort((a, b) => (a.offset ?? Number.MAX_SAFE_INTEGER) - (b.offset ?? Number.MAX_SAFE_INTEGER))
  const end = Math.max(chipBytes ?? 0, 1, ...parts.map((p) => (p.offset ?? 0) + p.bytes))
  const x = (offset: number) => left + (Math.min(offset, end) / end) * width
  const first = top + 96
  return (
    <svg
      viewBox={`0 0 ${width + 2 * left} ${first + order.length * rowHeight + 8}`}
      className="min-h-0 w-full flex-1"
      style={{ maxHeight: 420 }}
      role="img"
      aria-label={`A chip of ${chipBytes === null ? 'unknown size' : sizeWords(chipBytes)}: ${order
        .map((p) => `${p.name}, ${p.bytes} bytes, ${p.offset === null ? 'no place yet' : `at ${hexNumber(p.offset)}`}`)
        .join('; ')}`}
    >
      <text x={left} y="22" className="pin" style={{ fontSize: 13 }} fill="var(--ink-2)">
        0x0
      </text>
      <text x={left + width} y="22" textAnchor="end" className="pin" style={{ fontSize: 13 }} fill="var(--ink-2)">
        {chipBytes === null ? 'size not known' : hexNumber(end)}
      </text>
      <rect x={left} y={top} width={width} height="62" rx="4" fill="var(--sheet-2)" stroke="var(--ink-3)" />
      {order.map((part, i) => {
        const y = first + i * rowHeight + 16
        const at = part.offset
        const from = at === null ? null : x(at)
        const colour = part.wrong ? 'var(--oxide)' : i % 2 ? 'var(--verdigris)' : 'var(--prussian)'
        return (
          <g key={`${part.name} ${part.offset} ${i}`}>
            {from !== null && at !== null && (
              <>
                <rect
                  x={from}
                  y={top + 4}
                  width={Math.max(3, x(at + part.bytes) - from)}
                  height="54"
                  fill={colour}
                  opacity={part.wrong ? 0.75 : 1}
                />
                <path
                  d={`M${from + 1.5} ${top + 60}V${y - 5}H${from + 14}`}
                  fill="none"
                  stroke={colour}
                  strokeWidth="2"
                />
              </>
            )}
            <text
              x={Math.min((from ?? left) + 20, left + width - 430)}
              y={y}
              fontSize="16"
              fontWeight="700"
              fill={part.wrong ? 'var(--oxide)' : 'var(--ink)'}
            >
              {part.name.length > 30 ? `${part.name.slice(0, 29)}…` : part.name}
              <tspan dx="10" fontWeight="400" fontSize="14" fill="var(--ink-2)">
                {part.kind}, {grouped(part.bytes)} bytes {at === null ? 'with no place yet' : `at ${hexNumber(at)}`}
              </tspan>
            </text>
          </g>
        )
      })}
    </svg>
  )
}
