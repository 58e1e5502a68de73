import { settingsSectorsAtEnd } from '../families/families'
import type { Image } from '../image/image'
import type { LayoutRegion, PartitionTable } from '../image/partitions'
import { classesOf, type Run, sectorBytes } from './sectors'

/** The flash drawn to scale: what lies where as pieces of a strip. */

export interface StripPiece {
  region: LayoutRegion
  x: number
  w: number
  /** The label does not fit into the piece: it stands outside. */
  outside: boolean
}

const leastWidth = 3
const letterWidth = 6

/**
 * Pieces of a strip of `width` that shows the flash from 0 to `until`: x = offset / until × width, and as wide as it is
 * long, but never under 3.
 */
export function stripOf(regions: readonly LayoutRegion[], until: number, width: number): StripPiece[] {
  return regions
    .filter((r) => r.offset < until)
    .map((region) => {
      const x = (region.offset / until) * width
      const w = Math.max(leastWidth, (Math.min(region.length, until - region.offset) / until) * width)
      return { region, x, w, outside: w < letterWidth * region.label.length }
    })
}

export interface OutsideLabel {
  x: number
  row: number
  label: string
}

/** Rows for the labels that stand outside, so that none covers another; each begins below its piece where there is room. */
export function outsideLabels(pieces: readonly StripPiece[], width: number): OutsideLabel[] {
  const ends: number[] = []
  return pieces
    .filter((p) => p.outside && p.region.label !== '')
    .map(({ x: left, region: { label } }) => {
      const long = label.length * letterWidth + letterWidth
      const x = Math.max(0, Math.min(left, width - long))
      let row = ends.findIndex((end) => end <= x)
      if (row < 0) row = ends.length
      ends[row] = x + long
      return { x, row, label }
    })
}

/**
 * An LX106 has no partition table: its programs from their headers, what else is in use, free space, and the last five
 * sectors, which are settings.
 */
function lx106Regions(images: readonly Image[], runs: readonly Run[], flashBytes: number): LayoutRegion[] {
  const settings = Math.max(0, flashBytes - settingsSectorsAtEnd('LX106') * sectorBytes)
  const out: LayoutRegion[] = []
  let end = 0
  const put = (kind: LayoutRegion['kind'], label: string, from: number, to: number) => {
    if (to <= from) return
    if (from > end) out.push({ kind: 'gap', label: '', offset: end, length: from - end })
    out.push({ kind, label, offset: from, length: to - from })
    end = to
  }
  for (const [i, image] of images.entries()) {
    const to = Math.min(settings, image.offset + (image.bytes ?? 0))
    put('partition', images.length > 1 && i === 0 ? 'loader' : 'program', Math.max(end, image.offset), to)
  }
  const classes = classesOf(runs)
  const inUse = (sector: number) => classes[sector] !== 'blank' && classes[sector] !== 'zero'
  const last = Math.min(classes.length, settings / sectorBytes)
  for (let from = Math.ceil(end / sectorBytes); from < last; ) {
    let to = from
    while (to < last && inUse(to)) to++
    put('partition', 'files', from * sectorBytes, to * sectorBytes)
    from = Math.max(to, from + 1)
  }
  put('partition', 'settings', settings, flashBytes)
  return out
}

/** What lies where in a file of a whole chip: by its partition table, or as an LX106 has it; nothing for other files. */
export function regionsOf(
  found: { family?: string | null; images?: readonly Image[]; partitions?: PartitionTable | null } | null,
  runs: readonly Run[],
  bytes: number,
): LayoutRegion[] {
  if (found?.partitions) return found.partitions.layout
  return found?.family === 'LX106' ? lx106Regions(found.images ?? [], runs, bytes) : []
}
