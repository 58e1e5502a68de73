import { type Digest, sha256Hex } from '../bytes/digests'
import { hexNumber } from '../bytes/text'
import { hasError } from '../edge/finding'
import { type Family, hasPartitions } from '../families/families'
import { overSerial } from './fit'
import { at, bootOffsetOfChip, type FileFinding, type Image } from './image'
import { type ImageInspection, inspectImage, largestFile, sortFindings } from './inspect'
import { defaultTableOffset, type Partition } from './partitions'
import type { FileKind } from './structure'

/** One file of several that go into a chip together, with the flash address it goes to. */
export interface GivenPart {
  file: string
  offset: number
  bytes: Uint8Array
  sha256: string
}

export interface SetPart {
  file: string
  offset: number
  bytes: number
  /** First address behind it. */
  end: number
  sha256: string
  kind: FileKind
}

export interface ImageSet {
  family: Family
  parts: SetPart[]
  /** All parts as one file from 0, FF where none is; null where two lie on each other. */
  merged: { bytes: number; sha256: string } | null
  findings: FileFinding[]
}

interface Read extends SetPart {
  content: Uint8Array
  inspection: ImageInspection
}

/** The largest flash chip in use: no merged file is longer. */
const largestChip = 2 ** 28
const sector = 4096

/** What a part says of itself, at flash addresses. Data have no header, and erased bytes may be meant. */
function ownFindings({ inspection, offset }: Read): FileFinding[] {
  return inspection.findings.map(overSerial).map((f) => ({
    ...f,
    at: offset + (f.at ?? 0),
    ...(f.code === 'unknown-format' || f.code === 'blank-file'
      ? { severity: 'watch' as const, next: 'Make sure that these data are meant.' }
      : {}),
  }))
}

const lieOnEachOther = (a: SetPart, b: SetPart): boolean => a.offset < b.end && b.offset < a.end

function placeFindings(parts: readonly Read[], limit: number): FileFinding[] {
  const out: FileFinding[] = []
  let highest: number | null = null
  for (const [i, part] of parts.entries()) {
    const { file, offset, end } = part
    const before = parts.slice(0, i)
    for (const other of before)
      if (lieOnEachOther(other, part))
        out.push(
          at(
            offset,
            'overlap',
            'error',
            `${file} lies on ${other.file}.`,
            `${other.file} ends at ${hexNumber(other.end)}, ${file} begins at ${hexNumber(offset)}.`,
            'Correct an offset, or leave one of them out.',
          ),
        )
    if (offset % sector)
      out.push(
        at(
          offset,
          'unaligned',
          'error',
          `${file} does not begin at the start of a sector.`,
          'Flash is erased in sectors of 4096 bytes.',
          'Choose a multiple of 0x1000.',
        ),
      )
    if (end > limit)
      out.push(
        at(
          offset,
          'past-end',
          'error',
          `${file} would end ${end - limit} bytes past the end of the chip.`,
          `The chip ends at ${hexNumber(limit)}.`,
          'Correct the offset, or the size of the chip.',
        ),
      )
    const same = before.find((other) => other.sha256 === part.sha256)
    if (same)
      out.push(
        at(
          offset,
          'duplicate-part',
          'watch',
          `${file} is the same file as ${same.file}.`,
          'Their hashes are equal.',
          'Check that both places are meant.',
        ),
      )
    if (highest !== null && offset > highest)
      out.push(at(highest, 'gap', 'ok', `${offset - highest} bytes stay blank before ${file}.`))
    highest = Math.max(highest ?? 0, end)
  }
  return out
}

interface PlacedApp {
  file: string
  offset: number
  bytes: number
}

/** Programs of the parts; those in a whole-chip part at 0 count with it. */
function appsOf(parts: readonly Read[]): PlacedApp[] {
  return parts.flatMap(({ file, offset, bytes, kind, inspection }): PlacedApp[] => {
    if (kind === 'app') return [{ file, offset, bytes }]
    if (kind !== 'merged' || offset !== 0) return []
    return inspection.images.slice(1).map((i: Image) => ({ file, offset: i.offset, bytes: i.bytes ?? 0 }))
  })
}

/** The partition table that will stand at 0x8000. */
function tableOf(parts: readonly Read[]): readonly Partition[] | null {
  const holds = parts.find(
    (p) =>
      p.inspection.partitions !== null &&
      (p.kind === 'partition-table' ? p.offset === defaultTableOffset : p.kind === 'merged' && p.offset === 0),
  )
  return holds?.inspection.partitions?.entries ?? null
}

function appFindings(app: PlacedApp, table: readonly Partition[]): FileFinding[] {
  const slot = table.find((e) => e.type === 0 && e.offset === app.offset)
  if (!slot)
    return [
      at(
        app.offset,
        'app-outside-slot',
        'error',
        `${app.file} does not begin where the table has a program.`,
        `Programs begin at ${
          table
            .filter((e) => e.type === 0)
            .map((e) => hexNumber(e.offset))
            .join(', ') || 'no place'
        }.`,
        'Correct its offset, or take the table that belongs to it.',
      ),
    ]
  if (app.bytes <= slot.length) return []
  return [
    at(
      app.offset,
      'app-larger-than-slot',
      'error',
      `${app.file} has ${app.bytes} bytes; partition “${slot.label}” has room for ${slot.length}.`,
      '',
      'Use a smaller build, or another table.',
    ),
  ]
}

/** LX6, LX7, RV32: loader, table and program, each where the chip looks for it. */
function partitionedFindings(parts: readonly Read[], family: Family): FileFinding[] {
  const chipId = parts.map((p) => p.inspection.chipId).find((id) => id !== null) ?? (family === 'LX6' ? 0 : null)
  const loader = parts.some(({ kind, offset, inspection }) =>
    kind === 'bootloader' ? offset === bootOffsetOfChip(inspection.chipId) : kind === 'merged' && offset === 0,
  )
  const [table, apps] = [tableOf(parts), appsOf(parts)]
  const due = bootOffsetOfChip(chipId)
  const out: FileFinding[] = []
  if (!loader)
    out.push(
      at(
        due,
        'boot-missing',
        'error',
        `There is no boot loader at ${hexNumber(due)}.`,
        '',
        'Add it, or write a program alone.',
      ),
    )
  if (!table)
    out.push(
      at(
        defaultTableOffset,
        'table-missing',
        'error',
        `There is no partition table at ${hexNumber(defaultTableOffset)}.`,
        '',
        'Add the table of this build.',
      ),
    )
  if (apps.length === 0)
    out.push(at(null, 'app-missing', 'error', 'None of the files is a program.', '', 'Add the program.'))
  return [...out, ...(table ? apps.flatMap((app) => appFindings(app, table)) : [])]
}

function wholeFindings(parts: readonly Read[], family: Family): FileFinding[] {
  if (hasPartitions(family)) return partitionedFindings(parts, family)
  if (family !== 'LX106' || parts.some((p) => p.offset === 0 && p.inspection.images.length > 0)) return []
  return [at(0, 'app-missing', 'error', 'There is no image at 0x0: the chip starts from there.', '', 'Add it.')]
}

/** All parts in one, FF before and between; null where two lie on each other, or no chip is so large. */
export function mergeParts(parts: readonly Pick<GivenPart, 'offset' | 'bytes'>[]): Uint8Array | null {
  const order = [...parts].sort((a, b) => a.offset - b.offset)
  let end = 0
  for (const part of order) {
    if (part.offset < end && part.bytes.length > 0) return null
    end = Math.max(end, part.offset + part.bytes.length)
  }
  if (end > largestChip) return null
  const merged = new Uint8Array(end).fill(0xff)
  for (const { offset, bytes } of order) merged.set(bytes, offset)
  return merged
}

/**
 * Several files as one: each judged by itself and all of them together (brief 07 §5).
 * @param options `flashBytes`: size of the chip where it is known, else 16 MiB are taken
 * @returns also the merged bytes, to be written where no error speaks against it
 */
export function judgeSet(
  given: readonly GivenPart[],
  options: { family: Family; flashBytes: number | null; digest?: Digest },
): ImageSet & { content: Uint8Array | null } {
  const { family, flashBytes, digest = sha256Hex } = options
  const parts = given
    .map(({ file, offset, bytes, sha256 }): Read => {
      const inspection = inspectImage(
        bytes,
        { family: family === 'OTHER' ? null : family, flashBytes },
        { sha256, digest },
      )
      const kind = inspection.kind
      return { file, offset, bytes: bytes.length, end: offset + bytes.length, sha256, kind, content: bytes, inspection }
    })
    .sort((a, b) => a.offset - b.offset)
  const findings = sortFindings([
    ...parts.flatMap(ownFindings),
    ...placeFindings(parts, flashBytes ?? largestFile),
    ...wholeFindings(parts, family),
  ])
  const content = mergeParts(parts.map((p) => ({ offset: p.offset, bytes: p.content })))
  return {
    family,
    parts: parts.map(({ content: _, inspection: __, ...part }) => part),
    merged: content && { bytes: content.length, sha256: digest(content) },
    findings,
    content: hasError(findings) ? null : content,
  }
}
