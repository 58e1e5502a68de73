import { grouped, hexNumber, sizeWords } from '@fresh-coat/core/bytes/text'
import type { Image } from '@fresh-coat/core/image/image'
import type { PartitionTable } from '@fresh-coat/core/image/partitions'
import { Tag } from '../paint'

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

/** The layout of the chip to scale, with a second strip for the crowded first 64 KiB. */
export function LayoutStrip({ table }: { table: PartitionTable }) {
  const end = Math.max(table.flashBytes ?? 0, ...table.layout.map((r) => r.offset + r.length))
  const doubled = table.overlaps.map((o) => `${o.a} and ${o.b} overlap by ${o.length} bytes`).join('; ')
  const strip = (until: number, key: string) => (
    <svg
      key={key}
      viewBox="0 0 960 56"
      className="w-full"
      role="img"
      aria-label={`Layout up to ${hexNumber(until)}: ${table.layout.map((r) => `${r.label || 'free'} at ${hexNumber(r.offset)}, ${r.length} bytes`).join('; ')}${doubled ? `; ${doubled}` : ''}`}
    >
      <defs>
        <pattern id="overlap" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="2.4" height="6" fill="var(--oxide)" />
        </pattern>
      </defs>
      {table.layout
        .filter((r) => r.offset < until)
        .map((r, i) => {
          const x = (r.offset / until) * 960
          const w = Math.max(3, (Math.min(r.length, until - r.offset) / until) * 960)
          return (
            <g key={`${r.offset}-${i}`}>
              <rect
                x={x}
                y="4"
                width={w}
                height="30"
                fill={r.kind === 'gap' ? 'var(--sheet)' : r.kind === 'partition' ? '#b6cfe0' : '#d3dcd8'}
                stroke="#41606f"
                strokeWidth="0.8"
                strokeDasharray={r.kind === 'gap' ? '4 3' : undefined}
              />
              {w >= 6 * Math.max(4, r.label.length) && (
                <text x={x + 5} y="23" fontSize="12" className="pin" fill="#12231f">
                  {r.label || 'free'}
                </text>
              )}
            </g>
          )
        })}
      {table.overlaps
        .filter((o) => o.offset < until)
        .map((o) => {
          const x = (o.offset / until) * 960
          const w = Math.max(6, (Math.min(o.length, until - o.offset) / until) * 960)
          return (
            <g key={`${o.a}-${o.b}-${o.offset}`}>
              <rect x={x} y="2" width={w} height="34" fill="url(#overlap)" stroke="var(--oxide)" strokeWidth="1.5" />
              <text x={x + w / 2} y="24" textAnchor="middle" fontSize="14" fontWeight="700" fill="var(--oxide)">
                !
              </text>
            </g>
          )
        })}
      <text x="0" y="50" fontSize="11" className="pin" fill="var(--ink-3)">
        0
      </text>
      <text x="958" y="50" fontSize="11" textAnchor="end" className="pin" fill="var(--ink-3)">
        {hexNumber(until)}
      </text>
    </svg>
  )
  return (
    <div className="grid gap-1">
      {strip(end, 'all')}
      {end > 0x10000 && strip(0x10000, 'first')}
    </div>
  )
}
