import { hexNumber } from '@fresh-coat/core/bytes/text'
import { outsideLabels, type StripPiece, stripOf } from '@fresh-coat/core/dump/strip'
import { isUnaligned, type LayoutRegion, type PartitionTable } from '@fresh-coat/core/image/partitions'
import { useId } from 'react'
import { Scrolls } from '@/components/tables/scrolls'

/** The flash to scale: what lies where, and what lies wrong. */

interface Overlap {
  a: string
  b: string
  offset: number
  length: number
}
interface Laid {
  regions: readonly LayoutRegion[]
  chipBytes: number | null
  overlaps: readonly Overlap[]
  /** Where regions begin that should begin elsewhere. */
  unaligned: readonly number[]
  /** What is wrong, in words. */
  wrong: readonly string[]
}

const stripWidth = 960
const crowded = 0x10000

/** A partition table to scale. What lies wrong carries a sign of its own, and the program that starts is named so. */
export function LayoutStrip({ table }: { table: PartitionTable }) {
  const starts = table.active?.label ?? null
  const unaligned = table.entries.filter(isUnaligned)
  return (
    <FlashStrip
      regions={table.layout.map((r) =>
        r.kind === 'partition' && r.label === starts ? { ...r, label: `${r.label}, starts` } : r,
      )}
      chipBytes={table.flashBytes}
      overlaps={table.overlaps}
      unaligned={unaligned.map((e) => e.offset)}
      wrong={[
        ...table.overlaps.map((o) => `${o.a} and ${o.b} overlap by ${o.length} bytes`),
        ...unaligned.map((e) => `${e.label} is not aligned`),
      ]}
    />
  )
}

/** Regions of the flash to scale from 0 to its end, with a second strip for the crowded first 64 KiB. */
export function FlashStrip({
  regions,
  chipBytes,
  overlaps = [],
  unaligned = [],
  wrong = [],
}: Pick<Laid, 'regions' | 'chipBytes'> & Partial<Laid>) {
  const end = Math.max(chipBytes ?? 0, ...regions.map((r) => r.offset + r.length))
  const twice = end > crowded && regions.filter((r) => r.offset < crowded && r.kind !== 'gap').length > 1
  const laid = { regions, overlaps, unaligned, chipBytes, wrong }
  return (
    <Scrolls label="Layout of the flash" className="grid gap-1">
      <Strip laid={laid} until={end} namedBelow={twice ? crowded : 0} />
      {twice && <Strip laid={laid} until={crowded} namedBelow={0} />}
    </Scrolls>
  )
}

const usualFill = '#d3dcd8'
const fills: Partial<Record<LayoutRegion['kind'], string>> = { gap: 'var(--sheet)', partition: '#b6cfe0' }

/** A region, with its name where there is room for one. */
function Region({ region: r, x, w, outside }: StripPiece) {
  const isGap = r.kind === 'gap'
  return (
    <g>
      <rect
        x={x}
        y="4"
        width={w}
        height="30"
        fill={fills[r.kind] ?? usualFill}
        stroke="#41606f"
        strokeWidth="0.8"
        strokeDasharray={isGap ? '4 3' : undefined}
      />
      {!outside && (r.label !== '' || w >= 40) && (
        <text x={x + 5} y="23" className="pin" style={{ fontSize: 11 }} fill={isGap ? 'var(--ink-3)' : '#12231f'}>
          {r.label || 'free'}
        </text>
      )}
    </g>
  )
}

/** Two regions that claim the same bytes. */
function Twice({ left, width, hatch }: { left: number; width: number; hatch: string }) {
  return (
    <g>
      <rect x={left} y="2" width={width} height="34" fill={`url(#${hatch})`} stroke="var(--oxide)" strokeWidth="1.5" />
      <text x={left + width / 2} y="24" textAnchor="middle" fontSize="14" fontWeight="700" fill="var(--oxide)">
        !
      </text>
    </g>
  )
}

function ChipEnd({ x, foot }: { x: number; foot: number }) {
  return (
    <>
      <path d={`M${x} 0v${foot}`} stroke="var(--oxide)" strokeWidth="2" strokeDasharray="5 3" />
      <text x={x - 4} y={foot + 12} textAnchor="end" className="pin" style={{ fontSize: 11 }} fill="var(--oxide)">
        the chip ends
      </text>
    </>
  )
}

/** What lies wrong, over the regions: the same bytes twice, a beginning that should be elsewhere, the end of the chip. */
function Wrong({ laid, until, x, foot }: { laid: Laid; until: number; x: (offset: number) => number; foot: number }) {
  const hatch = useId()
  const { overlaps, unaligned, chipBytes } = laid
  return (
    <>
      <defs>
        <pattern id={hatch} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="2.4" height="6" fill="var(--oxide)" />
        </pattern>
      </defs>
      {overlaps
        .filter((o) => o.offset < until)
        .map((o) => (
          <Twice
            key={`${o.a}-${o.b}-${o.offset}`}
            left={x(o.offset)}
            width={Math.max(6, x(Math.min(o.length, until - o.offset)))}
            hatch={hatch}
          />
        ))}
      {unaligned
        .filter((offset) => offset < until)
        .map((offset) => (
          <path
            key={offset}
            d={`M${x(offset)} 0l5 4l-5 4z M${x(offset)} 0v38`}
            fill="var(--oxide)"
            stroke="var(--oxide)"
            strokeWidth="2"
          />
        ))}
      {chipBytes !== null && chipBytes < until && <ChipEnd x={x(chipBytes)} foot={foot} />}
    </>
  )
}

const inWords = ({ regions, wrong, chipBytes }: Laid, until: number): string =>
  [
    `Layout up to ${hexNumber(until)}: ${regions.map((r) => `${r.label || 'free'} at ${hexNumber(r.offset)}, ${r.length} bytes`).join('; ')}`,
    ...wrong,
    ...(chipBytes !== null && chipBytes < until ? [`the chip ends at ${hexNumber(chipBytes)}`] : []),
  ].join('; ')

/** Where the regions stand, and the names of those that have no room for one, in rows below. */
function placesOf({ regions, overlaps }: Laid, until: number, namedBelow: number, x: (offset: number) => number) {
  const covered = (left: number, right: number) =>
    overlaps.some((o) => left < x(o.offset) + Math.max(6, x(o.length)) && right > x(o.offset))
  // A name under the hatching could not be read.
  const pieces = stripOf(regions, until, stripWidth).map((p) => ({
    ...p,
    outside: p.outside || covered(p.x, p.x + 6 * p.region.label.length),
  }))
  const labels = outsideLabels(
    pieces.filter((p) => p.region.offset + p.region.length > namedBelow),
    stripWidth,
  )
  return { pieces, labels, foot: 36 + Math.max(0, ...labels.map((l) => l.row + 1)) * 14 }
}

/** @param namedBelow regions that end before this are named in the strip below */
function Strip({ laid, until, namedBelow }: { laid: Laid; until: number; namedBelow: number }) {
  const x = (offset: number) => (offset / until) * stripWidth
  const { pieces, labels, foot } = placesOf(laid, until, namedBelow, x)
  return (
    <svg
      viewBox={`0 0 ${stripWidth} ${foot + 18}`}
      className="w-full min-w-[760px]"
      role="img"
      aria-label={inWords(laid, until)}
    >
      {pieces.map((piece, i) => (
        <Region key={`${piece.region.offset}-${i}`} {...piece} />
      ))}
      {labels.map((l) => (
        <text
          key={`${l.label}-${l.x}`}
          x={l.x}
          y={46 + l.row * 14}
          className="pin"
          style={{ fontSize: 11 }}
          fill="var(--ink-2)"
        >
          {l.label}
        </text>
      ))}
      <Wrong laid={laid} until={until} x={x} foot={foot} />
      <text x="0" y={foot + 12} className="pin" style={{ fontSize: 10 }} fill="var(--ink-3)">
        0
      </text>
      <text x="958" y={foot + 12} textAnchor="end" className="pin" style={{ fontSize: 10 }} fill="var(--ink-3)">
        {hexNumber(until)}
      </text>
    </svg>
  )
}
