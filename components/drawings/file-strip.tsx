import type { Run } from '@fresh-coat/core/dump/sectors'
import { classesOf } from '@fresh-coat/core/dump/sectors'
import type { Image } from '@fresh-coat/core/image/image'

const width = 400

/** A file to scale as a thin strip: its programs' segments, or the classes of its sectors where it is a read. */
export function FileStrip({
  bytes,
  images,
  runs,
  most,
  label,
}: {
  bytes: number
  images: readonly Image[]
  runs: readonly Run[]
  /** Bytes of the largest file on the page: it is as wide as there is room. */
  most: number
  label: string
}) {
  const end = (bytes / Math.max(1, most)) * width
  const x = (offset: number) => (offset / Math.max(1, bytes)) * end
  const classes = classesOf(runs)
  const step = Math.max(1, Math.ceil(classes.length / 200))
  return (
    <svg
      viewBox={`0 0 ${width} 22`}
      preserveAspectRatio="none"
      className="h-[20px] w-full"
      role="img"
      aria-label={label}
    >
      <rect
        x="0"
        y="1"
        width={Math.max(3, end)}
        height="20"
        fill="var(--prussian)"
        opacity={runs.length > 0 ? 0.15 : 1}
      />
      {images.flatMap((image) =>
        image.segments.map((s, i) => (
          <rect
            key={`${image.offset} ${s.offset}`}
            x={x(s.offset)}
            y="3"
            width={Math.max(0.8, x(s.length) - 0.6)}
            height="16"
            fill={i % 2 ? 'var(--sector-mid)' : 'var(--sector-low)'}
          />
        )),
      )}
      {images.length === 0 &&
        classes
          .filter((_, i) => i % step === 0)
          .map((kind, i) => (
            <rect
              key={i}
              x={(i * step * end) / classes.length}
              y="1"
              width={(step * end) / classes.length + 0.3}
              height="20"
              fill={`var(--sector-${kind})`}
            />
          ))}
      <rect
        x="0.4"
        y="1"
        width={Math.max(3, end) - 0.8}
        height="20"
        fill="none"
        stroke="var(--ink-3)"
        strokeWidth="0.8"
      />
    </svg>
  )
}
