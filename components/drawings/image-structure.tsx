import { grouped, hexNumber, sizeWords } from '@fresh-coat/core/bytes/text'
import { outsideLabels, stripOf } from '@fresh-coat/core/dump/strip'
import type { Image } from '@fresh-coat/core/image/image'
import { isUnaligned, type LayoutRegion, type PartitionTable } from '@fresh-coat/core/image/partitions'
import { useId } from 'react'
import { Tag } from '@/components/paint/paint'
import { Scrolls } from '@/components/tables/scrolls'

/** Header fields in words, and the segments drawn to scale along the file. */
export function ImageStructure({ images, bytes }: { images: readonly Image[]; bytes: number }) {
  return (
    <div className="grid gap-4">
      {images.map((image) => (
        <section key={image.offset} className="grid gap-2 rounded-[10px] border border-rule p-3.5">
          <h3 className="font-title text-[1.02rem] font-semibold">
            Image at <span className="pin">{hexNumber(image.offset)}</span>
            {image.app && `: ${image.app.project} ${image.app.version}`}
          </h3>
          <p className="text-ink-2">
            {image.family ?? `chip id ${image.chipId}`} · mode {image.mode ?? `byte ${image.modeByte}`} · built for{' '}
            {image.flashBytes ? sizeWords(image.flashBytes) : 'an unknown size'}
            {image.flashMHz ? ` at ${image.flashMHz} MHz` : ''} · {image.segmentCount}{' '}
            {image.segmentCount === 1 ? 'segment' : 'segments'} ·{' '}
            {image.bytes ? `${grouped(image.bytes)} bytes` : 'cut off'}
            {image.app && ` · built ${image.app.date} ${image.app.time}`}
          </p>
          <svg
            viewBox="0 0 960 34"
            className="w-full"
            role="img"
            aria-label={`Segments of the image at ${hexNumber(image.offset)}: ${image.segments.map((s) => `${s.length} bytes to ${hexNumber(s.address)}`).join(', ')}`}
          >
            <rect x="0" y="4" width="960" height="26" rx="4" fill="var(--sheet-2)" stroke="var(--rule)" />
            {image.segments.map((s, i) => (
              <rect
                key={s.offset}
                x={(s.offset / bytes) * 960}
                y="4"
                width={Math.max(3, (s.length / bytes) * 960)}
                height="26"
                fill={i % 2 ? '#8fb3c4' : '#b6cfe0'}
                stroke="#41606f"
                strokeWidth="0.7"
              />
            ))}
          </svg>
          <div className="overflow-x-auto">
            <table className="plain pin">
              <thead>
                <tr>
                  <th>Segment</th>
                  <th>In the file</th>
                  <th>Loaded to</th>
                  <th>Bytes</th>
                </tr>
              </thead>
              <tbody>
                {image.segments.map((s, i) => (
                  <tr key={s.offset}>
                    <td>{i + 1}</td>
                    <td>{hexNumber(s.offset)}</td>
                    <td>{hexNumber(s.address)}</td>
                    <td>{grouped(s.length)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <p className="flex flex-wrap items-center gap-2">
            {image.checksum && (
              <Tag severity={image.checksum.ok ? 'ok' : 'error'}>
                {image.checksum.ok ? 'checksum agrees' : 'checksum wrong'}
              </Tag>
            )}
            {image.hash && (
              <Tag severity={image.hash.ok ? 'ok' : 'error'}>{image.hash.ok ? 'hash agrees' : 'hash wrong'}</Tag>
            )}
            {image.crc32 && (
              <Tag severity={image.crc32.ok ? 'ok' : 'error'}>{image.crc32.ok ? 'CRC agrees' : 'CRC wrong'}</Tag>
            )}
          </p>
        </section>
      ))}
    </div>
  )
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
}: {
  regions: readonly LayoutRegion[]
  chipBytes: number | null
  overlaps?: readonly { a: string; b: string; offset: number; length: number }[]
  /** Where regions begin that should begin elsewhere. */
  unaligned?: readonly number[]
  /** What is wrong, in words. */
  wrong?: readonly string[]
}) {
  const end = Math.max(chipBytes ?? 0, ...regions.map((r) => r.offset + r.length))
  const twice = end > crowded && regions.filter((r) => r.offset < crowded && r.kind !== 'gap').length > 1
  const first = { regions, overlaps, unaligned, chipBytes, wrong }
  return (
    <Scrolls label="Layout of the flash" className="grid gap-1">
      <Strip {...first} until={end} namedBelow={twice ? crowded : 0} />
      {twice && <Strip {...first} until={crowded} namedBelow={0} />}
    </Scrolls>
  )
}

function Strip({
  regions,
  until,
  namedBelow,
  overlaps,
  unaligned,
  chipBytes,
  wrong,
}: {
  regions: readonly LayoutRegion[]
  until: number
  /** Regions that end before this are named in the strip below. */
  namedBelow: number
  overlaps: readonly { a: string; b: string; offset: number; length: number }[]
  unaligned: readonly number[]
  chipBytes: number | null
  wrong: readonly string[]
}) {
  const hatch = useId()
  const x = (offset: number) => (offset / until) * stripWidth
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
  const rows = Math.max(0, ...labels.map((l) => l.row + 1))
  const foot = 36 + rows * 14
  const chipEnds = chipBytes !== null && chipBytes < until ? x(chipBytes) : null
  return (
    <svg
      viewBox={`0 0 ${stripWidth} ${foot + 18}`}
      className="w-full min-w-[760px]"
      role="img"
      aria-label={[
        `Layout up to ${hexNumber(until)}: ${regions.map((r) => `${r.label || 'free'} at ${hexNumber(r.offset)}, ${r.length} bytes`).join('; ')}`,
        ...wrong,
        ...(chipEnds === null ? [] : [`the chip ends at ${hexNumber(chipBytes ?? 0)}`]),
      ].join('; ')}
    >
      <defs>
        <pattern id={hatch} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="2.4" height="6" fill="var(--oxide)" />
        </pattern>
      </defs>
      {pieces.map(({ region: r, x: left, w, outside }, i) => (
        <g key={`${r.offset}-${i}`}>
          <rect
            x={left}
            y="4"
            width={w}
            height="30"
            fill={r.kind === 'gap' ? 'var(--sheet)' : r.kind === 'partition' ? '#b6cfe0' : '#d3dcd8'}
            stroke="#41606f"
            strokeWidth="0.8"
            strokeDasharray={r.kind === 'gap' ? '4 3' : undefined}
          />
          {!outside && (r.label !== '' || w >= 40) && (
            <text
              x={left + 5}
              y="23"
              className="pin"
              style={{ fontSize: 11 }}
              fill={r.kind === 'gap' ? 'var(--ink-3)' : '#12231f'}
            >
              {r.label || 'free'}
            </text>
          )}
        </g>
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
      {overlaps
        .filter((o) => o.offset < until)
        .map((o) => {
          const left = x(o.offset)
          const w = Math.max(6, x(Math.min(o.length, until - o.offset)))
          return (
            <g key={`${o.a}-${o.b}-${o.offset}`}>
              <rect
                x={left}
                y="2"
                width={w}
                height="34"
                fill={`url(#${hatch})`}
                stroke="var(--oxide)"
                strokeWidth="1.5"
              />
              <text x={left + w / 2} y="24" textAnchor="middle" fontSize="14" fontWeight="700" fill="var(--oxide)">
                !
              </text>
            </g>
          )
        })}
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
      {chipEnds !== null && (
        <>
          <path d={`M${chipEnds} 0v${foot}`} stroke="var(--oxide)" strokeWidth="2" strokeDasharray="5 3" />
          <text
            x={chipEnds - 4}
            y={foot + 12}
            textAnchor="end"
            className="pin"
            style={{ fontSize: 11 }}
            fill="var(--oxide)"
          >
            the chip ends
          </text>
        </>
      )}
      <text x="0" y={foot + 12} className="pin" style={{ fontSize: 10 }} fill="var(--ink-3)">
        0
      </text>
      <text x="958" y={foot + 12} textAnchor="end" className="pin" style={{ fontSize: 10 }} fill="var(--ink-3)">
        {hexNumber(until)}
      </text>
    </svg>
  )
}
