import { grouped, hexNumber, sizeWords } from '@fresh-coat/core/bytes/text'
import type { Image } from '@fresh-coat/core/image/image'
import { Tag } from '@/components/paint/paint'

/** What a header says of its image, in one line. */
function HeaderWords({ image }: { image: Image }) {
  return (
    <p className="text-ink-2">
      {image.family ?? `chip id ${image.chipId}`} · mode {image.mode ?? `byte ${image.modeByte}`} · built for{' '}
      {image.flashBytes ? sizeWords(image.flashBytes) : 'an unknown size'}
      {image.flashMHz ? ` at ${image.flashMHz} MHz` : ''} · {image.segmentCount}{' '}
      {image.segmentCount === 1 ? 'segment' : 'segments'} · {image.bytes ? `${grouped(image.bytes)} bytes` : 'cut off'}
      {image.app && ` · built ${image.app.date} ${image.app.time}`}
    </p>
  )
}

function SegmentStrip({ image, bytes }: { image: Image; bytes: number }) {
  return (
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
  )
}

function SegmentTable({ segments }: Pick<Image, 'segments'>) {
  return (
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
          {segments.map((s, i) => (
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
  )
}

/** Whether a check of the image agrees; nothing where it has none. */
function Agrees({
  check,
  agrees,
  wrong,
}: {
  check: { ok: boolean } | null | undefined
  agrees: string
  wrong: string
}) {
  return check ? <Tag severity={check.ok ? 'ok' : 'error'}>{check.ok ? agrees : wrong}</Tag> : null
}

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
          <HeaderWords image={image} />
          <SegmentStrip image={image} bytes={bytes} />
          <SegmentTable segments={image.segments} />
          <p className="flex flex-wrap items-center gap-2">
            <Agrees check={image.checksum} agrees="checksum agrees" wrong="checksum wrong" />
            <Agrees check={image.hash} agrees="hash agrees" wrong="hash wrong" />
            <Agrees check={image.crc32} agrees="CRC agrees" wrong="CRC wrong" />
          </p>
        </section>
      ))}
    </div>
  )
}
