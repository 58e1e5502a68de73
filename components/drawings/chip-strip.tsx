import { grouped, hexNumber, sizeWords } from '@fresh-coat/core/bytes/text'
import type { WritePlan } from '@fresh-coat/core/flash/preflight/question'
import type { Image } from '@fresh-coat/core/image/image'
import type { PartitionTable } from '@fresh-coat/core/image/partitions'
import { useId } from 'react'

const width = 800
const left = 20

/** A file as it lies on a chip, and what goes before it does. */
export interface OnChip {
  fileName: string
  bytes: number
  offset: number | null
  /** Null while nobody knows how large the chip is. */
  chipBytes: number | null
  plan: WritePlan | null
  images: readonly Image[]
  layout: PartitionTable | null
  /** It does not fit, or goes nowhere: drawn so. */
  stopped: boolean
}

const scaleOf = (chip: OnChip) => {
  const end = Math.max(chip.chipBytes ?? 0, (chip.offset ?? 0) + chip.bytes, 1)
  return { end, x: (offset: number) => left + (offset / end) * width }
}

function Erased({ chip, hatch }: { chip: OnChip; hatch: string }) {
  const { x, end } = scaleOf(chip)
  if (!chip.plan) return null
  const whole = chip.plan.erase === 'chip'
  const areas = whole
    ? [{ eraseOffset: 0, eraseBytes: chip.chipBytes ?? end }]
    : chip.plan.regions.map((r) => ({ eraseOffset: r.eraseOffset, eraseBytes: r.eraseBytes }))
  return (
    <g>
      {areas.map((a) => (
        <rect
          key={a.eraseOffset}
          x={x(a.eraseOffset)}
          y="52"
          width={Math.max(4, x(a.eraseOffset + a.eraseBytes) - x(a.eraseOffset))}
          height="120"
          fill={`url(#${hatch})`}
        />
      ))}
      <text x={x(areas[0]?.eraseOffset ?? 0)} y="44" fontSize="15" fill="var(--ink-2)">
        {whole
          ? 'The whole chip is erased first'
          : `Erased: ${chip.plan.eraseSectors} ${chip.plan.eraseSectors === 1 ? 'sector' : 'sectors'}; the rest stays`}
      </text>
    </g>
  )
}

/** The file with its segments, where it goes. */
function File({ chip }: { chip: OnChip }) {
  const { x } = scaleOf(chip)
  const at = chip.offset ?? 0
  const from = x(at)
  const w = Math.max(10, x(at + chip.bytes) - from)
  const middle = Math.min(left + width - 150, Math.max(left + 150, from + w / 2))
  return (
    <g>
      <rect
        x={from}
        y="72"
        width={w}
        height="80"
        rx="4"
        fill="var(--prussian)"
        stroke={chip.stopped ? 'var(--oxide)' : 'var(--ink)'}
        strokeWidth={chip.stopped ? 4 : 1.5}
      />
      {chip.images.flatMap((image) =>
        image.segments.map((s, i) => (
          <rect
            key={`${image.offset} ${s.offset}`}
            x={x(at + s.offset)}
            y="78"
            width={Math.max(1.5, x(at + s.offset + s.length) - x(at + s.offset) - 1)}
            height="68"
            fill={i % 2 ? 'var(--sector-mid)' : 'var(--sector-low)'}
          />
        )),
      )}
      {chip.stopped && <path d={`M${from} 152L${from + w} 72`} stroke="var(--oxide)" strokeWidth="4" />}
      <path
        d={`M${from + Math.min(w / 2, 40)} 156V200H${middle}`}
        fill="none"
        stroke="var(--ink-3)"
        strokeWidth="1.5"
      />
      <text x={middle + 6} y="205" fontSize="16" fontWeight="700" fill="var(--ink)">
        {chip.fileName.length > 32 ? `${chip.fileName.slice(0, 31)}…` : chip.fileName}
      </text>
      <text x={middle + 6} y="225" className="pin" style={{ fontSize: 13 }} fill="var(--ink-2)">
        {chip.offset === null ? 'place not known' : hexNumber(at)}, {grouped(chip.bytes)} bytes
      </text>
    </g>
  )
}

/** The partitions that lie on the chip now, above its edge. */
function Layout({ chip }: { chip: OnChip }) {
  const { x } = scaleOf(chip)
  return (
    <g>
      {(chip.layout?.entries ?? []).map((p) => {
        const w = Math.max(3, x(p.offset + p.length) - x(p.offset))
        return (
          <g key={`${p.offset} ${p.label}`}>
            <rect x={x(p.offset)} y="252" width={w} height="30" fill="var(--sheet-2)" stroke="var(--ink-3)" />
            {w > 8 * p.label.length && (
              <text x={x(p.offset) + 5} y="272" className="pin" style={{ fontSize: 13 }} fill="var(--ink)">
                {p.label}
              </text>
            )}
          </g>
        )
      })}
      {chip.layout && (
        <text x={left} y="304" fontSize="14.5" fill="var(--ink-2)">
          what lies there now
        </text>
      )}
    </g>
  )
}

const ticks = [0, 0.25, 0.5, 0.75, 1]

/** The file on the chip, to scale, with what will be erased before it is written. */
export function ChipStrip({ chip }: { chip: OnChip }) {
  const hatch = useId()
  const { end, x } = scaleOf(chip)
  const chipEnd = chip.chipBytes ?? end
  const height = chip.layout ? 316 : 244
  return (
    <svg
      viewBox={`0 0 ${width + 2 * left} ${height}`}
      className="min-h-0 w-full flex-1"
      style={{ maxHeight: 340 }}
      role="img"
      aria-label={`${chip.fileName}, ${chip.bytes} bytes at ${chip.offset === null ? 'a place nobody knows' : hexNumber(chip.offset)} of a chip of ${chip.chipBytes === null ? 'unknown size' : sizeWords(chip.chipBytes)}; ${chip.plan ? (chip.plan.erase === 'chip' ? 'the whole chip is erased' : `${chip.plan.eraseSectors} sectors are erased`) : 'nothing is planned'}`}
    >
      <defs>
        <pattern id={hatch} width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="2.5" height="9" fill="var(--ochre-line)" opacity="0.75" />
        </pattern>
      </defs>
      <rect
        x={left}
        y="52"
        width={x(chipEnd) - left}
        height="120"
        rx="6"
        fill="var(--board)"
        stroke="var(--verdigris)"
        strokeWidth="2"
        strokeDasharray={chip.chipBytes === null ? '8 6' : undefined}
      />
      <Erased chip={chip} hatch={hatch} />
      <File chip={chip} />
      {ticks.map((t) => (
        <g key={t}>
          <path d={`M${x(t * chipEnd)} 172v8`} stroke="var(--ink-3)" />
          <text
            x={x(t * chipEnd)}
            y="24"
            textAnchor={t === 0 ? 'start' : t === 1 ? 'end' : 'middle'}
            className="pin"
            style={{ fontSize: 13 }}
            fill="var(--ink-2)"
          >
            {hexNumber(Math.round(t * chipEnd))}
          </text>
        </g>
      ))}
      <Layout chip={chip} />
    </svg>
  )
}

const check = (name: string, ok: boolean) => ({ ok, words: `${name} ${ok ? 'agrees' : 'is wrong'}` })

/** The header of a file in words. */
export function HeaderWords({ images }: { images: readonly Image[] }) {
  const [image] = images
  if (!image) return null
  const checks = [
    ...(image.checksum ? [check('checksum', image.checksum.ok)] : []),
    ...(image.hash ? [check('hash', image.hash.ok)] : []),
    ...(image.crc32 ? [check('CRC', image.crc32.ok)] : []),
  ]
  return (
    <p className="text-[1.02rem]">
      {image.app && (
        <strong>
          {image.app.project} {image.app.version}:{' '}
        </strong>
      )}
      {image.family ?? `chip id ${image.chipId}`}, mode {image.mode ?? `byte ${image.modeByte}`}, built for{' '}
      {image.flashBytes ? sizeWords(image.flashBytes) : 'an unknown size'}, {image.segmentCount}{' '}
      {image.segmentCount === 1 ? 'segment' : 'segments'}
      {checks.map((c) => (
        <span key={c.words} className={c.ok ? '' : 'font-semibold text-oxide'}>
          , {c.words}
        </span>
      ))}
      .{images.length > 1 && ` ${images.length - 1} more ${images.length === 2 ? 'image lies' : 'images lie'} in it.`}
    </p>
  )
}
