'use client'
import { useId } from 'react'
import { type Packed, usePacked } from '@/components/packed'
import { twoDigits } from '@/components/paint/paint'

export interface AddressedUnit {
  ip: string
  number: number
  name: string
  reserved: boolean
}

const [columns, rows] = [32, 8]
/** Of an address. */
const [w, h] = [30, 24]
const [left, top] = [42, 2]

/** The 256 addresses of a subnet as a grid of 32 to a row; ours carry their case number, reserved ones a solid rim. */
export function AddressMap({ subnet, given }: { subnet: string; given: Packed<AddressedUnit[]> }) {
  const units = usePacked(given)
  const free = useId()
  const byLast = new Map<number, AddressedUnit[]>()
  for (const u of units) {
    const last = Number(u.ip.slice(subnet.length + 1))
    byLast.set(last, [...(byLast.get(last) ?? []), u])
  }
  const words = units.map((u) => `unit ${u.number} at ${u.ip}${u.reserved ? ', reserved' : ''}`).join('; ')
  return (
    <figure className="sheet grid gap-2 p-4">
      <figcaption>
        <span className="pin font-semibold">{subnet}.0/24</span>{' '}
        <span className="text-ink-2">Solid rim: reserved. Dashed: not yet. Struck: two units on one address.</span>
      </figcaption>
      <div className="overflow-x-auto">
        <svg
          viewBox={`0 0 ${columns * w + 44} ${rows * h + 4}`}
          className="w-full min-w-[640px]"
          role="img"
          aria-label={`Addresses of ${subnet}.0/24: ${words}`}
        >
          {/* The free ones are one pattern: two hundred boxes would be most of the page. */}
          <defs>
            <pattern id={free} x={left} y={top} width={w} height={h} patternUnits="userSpaceOnUse">
              <rect x="1" y="1" width={w - 3} height={h - 3} rx="4" fill="var(--sheet-2)" stroke="var(--rule-2)" />
            </pattern>
          </defs>
          <rect x={left} y={top} width={columns * w} height={rows * h} fill={`url(#${free})`} />
          {Array.from({ length: rows }, (_, row) => (
            <text
              key={row * columns}
              x={left - 8}
              y={top + row * h + 16}
              textAnchor="end"
              className="pin"
              fontSize="11"
              fill="var(--ink-3)"
            >
              .{row * columns}
            </text>
          ))}
          {[...byLast].map(([last, here]) => {
            const [first] = here
            if (!first) return null
            const x = left + (last % columns) * w
            const y = top + Math.floor(last / columns) * h
            return (
              <g key={last}>
                <rect
                  x={x + 1}
                  y={y + 1}
                  width={w - 3}
                  height={h - 3}
                  rx="4"
                  fill="var(--ok-soft)"
                  stroke="var(--ink)"
                  strokeWidth="1.8"
                  strokeDasharray={first.reserved ? undefined : '3 2.5'}
                />
                <text
                  x={x + w / 2 - 0.5}
                  y={y + 16}
                  textAnchor="middle"
                  fontSize="12.5"
                  fontWeight="700"
                  className="font-title"
                  fill="var(--ink)"
                >
                  {twoDigits(first.number)}
                </text>
                {here.length > 1 && (
                  <path d={`M${x + 1} ${y + h - 2} L${x + w - 2} ${y + 1}`} stroke="var(--oxide)" strokeWidth="2.5" />
                )}
              </g>
            )
          })}
        </svg>
      </div>
    </figure>
  )
}
