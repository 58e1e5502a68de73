import type { Run } from '@fresh-coat/core/dump/sectors'
import { classesOf } from '@fresh-coat/core/dump/sectors'
import type { Image } from '@fresh-coat/core/image/image'

const width = 400

interface Band {
  kind: string
  x: number
  w: number
}

const tenth = (n: number) => Math.round(n * 10) / 10

/** One path for each class, neighbours joined: a page of fifty strips is sent as fifty lines of text, not ten thousand boxes. */
function pathsOf(bands: readonly Band[]): [kind: string, d: string][] {
  const joined: Band[] = []
  for (const band of bands) {
    const last = joined.at(-1)
    if (last && last.kind === band.kind && Math.abs(last.x + last.w - band.x) < 0.05) last.w += band.w
    else joined.push({ ...band })
  }
  const kinds = [...new Set(joined.map((b) => b.kind))]
  return kinds.map((kind) => [
    kind,
    joined
      .filter((b) => b.kind === kind)
      .map((b) => `M${tenth(b.x)} 2h${tenth(b.w)}v18h${-tenth(b.w)}z`)
      .join(''),
  ])
}

/** A file drawn to scale. */
export interface Strip {
  /** Where it ends, of the width there is. */
  end: number
  /** Is it a read of a chip, or a program? */
  read: boolean
  paths: [kind: string, d: string][]
}

/**
 * A file to scale: its programs' segments, or the classes of its sectors where it is a read.
 * @param most bytes of the largest file on the page: it is as wide as there is room
 */
export function stripOf({
  bytes,
  images,
  runs,
  most,
}: {
  bytes: number
  images: readonly Pick<Image, 'segments'>[]
  runs: readonly Run[]
  most: number
}): Strip {
  const end = (bytes / Math.max(1, most)) * width
  const x = (offset: number) => (offset / Math.max(1, bytes)) * end
  const classes = classesOf(runs)
  const step = Math.max(1, Math.ceil(classes.length / 200))
  const cell = end / Math.max(1, classes.length)
  const bands: Band[] =
    images.length > 0
      ? images.flatMap((image) =>
          image.segments.map((s, i) => ({
            kind: i % 2 ? 'mid' : 'low',
            x: x(s.offset),
            w: Math.max(0.8, x(s.length) - 0.6),
          })),
        )
      : classes.filter((_, i) => i % step === 0).map((kind, i) => ({ kind, x: i * step * cell, w: step * cell }))
  return { end: tenth(end), read: runs.length > 0, paths: pathsOf(bands) }
}

/** A file as a thin strip. */
export function FileStrip({ strip: { end, read, paths }, label }: { strip: Strip; label: string }) {
  return (
    <svg
      viewBox={`0 0 ${width} 22`}
      preserveAspectRatio="none"
      className="h-[20px] w-full"
      role="img"
      aria-label={label}
    >
      <rect x="0" y="1" width={Math.max(3, end)} height="20" fill="var(--prussian)" opacity={read ? 0.15 : 1} />
      {paths.map(([kind, d]) => (
        <path key={kind} d={d} fill={`var(--sector-${kind})`} />
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
