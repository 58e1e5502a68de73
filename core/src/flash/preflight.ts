import { hexNumber, sizeWords } from '../bytes/text'
import { type Finding, finding, worstOf } from '../edge/finding'
import { type Family, isArm968 } from '../families/families'
import type { FamilyVerdict } from '../identify/identify'
import { arm968aStart } from '../image/addresses'
import { at, bootOffsetOfChip, type FileFinding } from '../image/image'
import { fitFindings, headerless, type ImageInspection, sortFindings } from '../image/inspect'
import type { PartitionTable } from '../image/partitions'
import { flashIdFindings, parseFlashId } from './flash-id'

export interface PreflightUnit {
  family: Family
  /** Verdict of identification; null when none was made. */
  familyVerdict: FamilyVerdict | null
  flashBytes: number | null
  flashId: string | null
  dataLines: 2 | 4 | null
  inPackageFlash: boolean
  provenModes: readonly string[]
  backup: { state: 'verified' | 'single' | 'skipped' | 'none'; bytes: number | null; reason: string | null }
  /** The layout on the chip, when it is known, and what is wrong with it. */
  layout: PartitionTable | null
  layoutFindings?: readonly FileFinding[]
}

export interface WriteWish {
  fileName: string
  /** Where it is to be written; null for where it belongs. */
  offset: number | null
  eraseAll: boolean
  baud: number
  verify: 'digest' | 'readback' | 'none'
  /** What the person chose, null for no choice. */
  variant: string | null
  language: string | null
  /** Start offset that the firmware profile gives for a family without a boot header. */
  profileOffset: number | null
}

export interface WritePlan {
  erase: 'chip' | 'regions'
  regions: {
    offset: number
    length: number
    eraseOffset: number
    eraseBytes: number
    /** Name of the file it comes from. */
    source: string
    sha256: string
  }[]
  payloadBytes: number
  eraseSectors: number
  seconds: { erase: number; write: number; verify: number; total: number }
}

export interface Preflight {
  verdict: 'go' | 'warn' | 'stop'
  kind: string
  expectedOffset: number | null
  findings: FileFinding[]
  plan: WritePlan | null
}

const sector = 4096
/** Below this lies the boot loader of ARM968-A; an unsplit ARM968 is worked as A. */
const skipReasonLength = 15
const roundTenth = (x: number) => Math.round(x * 10) / 10

function familyFindings(unit: PreflightUnit): Finding[] {
  const { family, familyVerdict: verdict } = unit
  const arm = isArm968(family)
  const oneMore = 'Make one more check under Identify, or only read.'
  if (verdict === 'conflict' || verdict === 'undecided' || family === 'OTHER' || (verdict === 'arm968_unsplit' && !arm))
    return [
      finding(
        'family-unproven',
        'error',
        'The family is not certain enough to write.',
        `Verdict: ${verdict ?? 'none'}, family ${family}.`,
        oneMore,
      ),
    ]
  if (verdict === 'likely')
    return [
      finding('family-likely', 'watch', `The family is likely ${family}, not certain.`, 'Verdict: likely.', oneMore),
    ]
  if (verdict === 'arm968_unsplit')
    return [
      finding(
        'variant-unproven',
        'watch',
        'ARM968 variant A or B is not proven: nothing below 0x11000 is touched.',
        'Both variants look the same.',
        'Name the variant the image is made for.',
      ),
    ]
  return []
}

function modeFindings(unit: PreflightUnit, image: ImageInspection): Finding[] {
  const first = image.images[0]
  // The boot ROM reads the mode from the header at the chip's boot offset: an app alone carries one without effect.
  if (!first?.mode || (first.format === 'extended' && image.kind === 'app')) return []
  const patch = 'Use a DOUT build of the same file.'
  const impossible = (because: string) => [
    finding(
      'mode-not-possible',
      'error',
      `${first.mode} cannot work here: it would write and verify, and then never start.`,
      because,
      patch,
    ),
  ]
  if (first.family === 'LX106' && unit.inPackageFlash && first.mode !== 'DOUT')
    return impossible('The flash is inside the package and has two data lines in output mode only.')
  if (unit.dataLines === 2 && (first.mode === 'QIO' || first.mode === 'QOUT'))
    return impossible('Only two data lines go to the flash.')
  if (first.mode === 'DOUT' || unit.provenModes.includes(first.mode)) return []
  return [
    finding(
      'mode-unproven',
      'watch',
      `${first.mode} has not been seen starting on this board.`,
      `Proven modes: ${unit.provenModes.join(', ') || 'none yet'}.`,
      `${patch} DOUT works nearly everywhere.`,
    ),
  ]
}

function expectedOffset(
  unit: PreflightUnit,
  image: ImageInspection,
  wish: WriteWish,
  asA: boolean,
  out: Finding[],
): number | null {
  if (asA) return arm968aStart
  if (unit.family === 'CM3') {
    const place = wish.profileOffset ?? wish.offset
    if (place === null)
      out.push(
        finding(
          'offset-unknown',
          'error',
          'Nobody has said where this file belongs.',
          'The first sectors may hold the unit’s own parameters.',
          'Choose a firmware profile that gives the offset.',
        ),
      )
    return place
  }
  const first = image.images[0]
  if (first?.format === 'lx106-2') {
    out.push(
      finding(
        'needs-boot-loader',
        'error',
        'This image cannot start alone.',
        'It lives at 0x1000 behind a loader at 0.',
        'Choose the whole file, with its loader.',
      ),
    )
    return 0x1000
  }
  if (image.kind === 'bootloader') return bootOffsetOfChip(image.chipId)
  if (image.kind === 'partition-table') return 0x8000
  if (image.kind === 'app' && first?.format === 'extended') {
    const apps = (unit.layout?.entries ?? []).filter((e) => e.type === 0)
    if (!unit.layout) {
      out.push(
        finding(
          'layout-missing',
          'error',
          'An app alone goes into an app partition, and the layout of this chip is not known.',
          '',
          'Choose the whole-chip file, or keep a backup so that the layout is known.',
        ),
      )
      return null
    }
    const chosen = apps.find((e) => e.offset === wish.offset) ?? [...apps].sort((a, b) => a.offset - b.offset)[0]
    const length = first.bytes ?? image.bytes
    if (chosen && length > chosen.length)
      out.push(
        finding(
          'slot-too-small',
          'error',
          `The app has ${length} bytes, partition “${chosen.label}” has room for ${chosen.length}.`,
          '',
          'Use a smaller build, or another layout.',
        ),
      )
    return chosen?.offset ?? null
  }
  return 0
}

function placeFindings(
  unit: PreflightUnit,
  image: ImageInspection,
  wish: WriteWish,
  asA: boolean,
): { expected: number | null; offset: number; findings: Finding[] } {
  const out: Finding[] = []
  const expected = expectedOffset(unit, image, wish, asA, out)
  const offset = wish.offset ?? expected ?? 0
  const tooLow = asA && (offset < arm968aStart || wish.eraseAll)
  if (tooLow)
    out.push(
      finding(
        'keeps-boot-loader',
        'error',
        'Below 0x11000 lies the only way back in: it is never erased or written.',
        wish.eraseAll ? 'The whole chip was to be erased.' : `The offset given is ${hexNumber(offset)}.`,
        'Write from 0x11000 up, by regions.',
      ),
    )
  else if (expected !== null && offset !== expected)
    out.push(
      finding(
        'offset-wrong',
        'error',
        `The file belongs at ${hexNumber(expected)}, not at ${hexNumber(offset)}.`,
        '',
        `Set the offset to ${hexNumber(expected)}.`,
      ),
    )
  if (offset % sector)
    out.push(
      finding(
        'offset-unaligned',
        'error',
        `The offset ${hexNumber(offset)} is not the start of a sector.`,
        'Flash is erased in sectors of 4096 bytes.',
        'Choose a multiple of 0x1000.',
      ),
    )
  if (unit.flashBytes !== null && offset + image.bytes > unit.flashBytes)
    out.push(
      finding(
        'past-end',
        'error',
        `The file would end ${offset + image.bytes - unit.flashBytes} bytes past the end of the chip.`,
        `Chip ${sizeWords(unit.flashBytes)}.`,
        'Choose a smaller build, or check the flash size.',
      ),
    )
  return { expected, offset, findings: out }
}

function backupFindings(unit: PreflightUnit): Finding[] {
  const { state, bytes, reason } = unit.backup
  if (state === 'none')
    return [
      finding(
        'no-backup',
        'error',
        'There is no copy of the stock firmware.',
        'Without one, a wrong guess is scrap.',
        'Read it twice, or record why not.',
      ),
    ]
  if (state === 'skipped') {
    const length = (reason ?? '').trim().length
    if (length < skipReasonLength)
      return [
        finding(
          'skip-reason',
          'error',
          'The reason for having no backup is too short.',
          `${length} characters; ${skipReasonLength} are the least.`,
          'Write a sentence.',
        ),
      ]
    return [
      finding(
        'backup-skipped',
        'watch',
        'The stock firmware is not kept.',
        reason ?? '',
        'There will be no way back to it.',
      ),
    ]
  }
  const out: Finding[] = []
  if (state === 'single')
    out.push(
      finding(
        'backup-single',
        'watch',
        'The stock firmware was read only once.',
        'One read may hold a fault nobody sees.',
        'Read it a second time and compare.',
      ),
    )
  if (bytes !== null && unit.flashBytes !== null && bytes !== unit.flashBytes)
    out.push(
      finding(
        'backup-size',
        'error',
        `The backup has ${bytes} bytes, the chip ${unit.flashBytes}.`,
        '',
        'Read the whole chip.',
      ),
    )
  return out
}

function eraseFindings(unit: PreflightUnit, image: ImageInspection, wish: WriteWish, asA: boolean): Finding[] {
  if (!wish.eraseAll)
    return headerless(unit.family)
      ? []
      : [
          finding(
            'old-settings-stay',
            'ok',
            'Leftovers of the other firmware stay on the chip and may be read as settings.',
            'Only the written sectors are erased.',
            'Erase the whole chip when another firmware moves in.',
          ),
        ]
  const out: Finding[] = []
  if (!asA && headerless(unit.family))
    out.push(
      finding(
        'erase-loses-calibration',
        unit.backup.state === 'verified' ? 'watch' : 'error',
        'Erasing the whole chip loses the unit’s own address and radio calibration.',
        'Nothing makes them again.',
        'Erase by regions, or have a verified backup first.',
      ),
    )
  const first = image.images[0]
  const alone =
    image.kind === 'bootloader' ||
    image.kind === 'partition-table' ||
    (image.kind === 'app' && first?.format === 'extended')
  if (alone)
    out.push(
      finding(
        'erase-removes-boot',
        'error',
        'Erasing the whole chip removes what this file needs to start.',
        `The file is only a part: ${image.kind}.`,
        'Erase by regions, or write the whole-chip file.',
      ),
    )
  return out
}

const sizeNames: Record<string, number> = {
  '256k': 2 ** 18,
  '512k': 2 ** 19,
  '1m': 2 ** 20,
  '2m': 2 ** 21,
  '4m': 2 ** 22,
  '8m': 2 ** 23,
  '16m': 2 ** 24,
}
const familyNames: Record<string, Family> = {
  lx106: 'LX106',
  lx6: 'LX6',
  lx7: 'LX7',
  rv32: 'RV32',
  arm968a: 'ARM968-A',
  arm968b: 'ARM968-B',
  cm3: 'CM3',
}
export const variantNames: readonly string[] = ['small', 'full', 'radio', 'sensors', 'display']
export const languageNames: readonly string[] =
  'bg cs da de el en es et fi fr he hr hu it ja ko lt lv nb nl pl pt ro ru sk sl sv tr uk vi zh'.split(' ')

/** Hints in a file name that do not fit the unit or the choice. The name is a hint, the header is the fact. */
function nameFindings(unit: PreflightUnit, image: ImageInspection, wish: WriteWish): Finding[] {
  const words = wish.fileName
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter(Boolean)
  const out: Finding[] = []
  const complain = (
    code: string,
    found: string[],
    fits: (word: string) => boolean,
    message: string,
    because: string,
  ) => {
    if (found.length > 0 && !found.some(fits))
      out.push(
        finding(
          code,
          'watch',
          message.replace('%', found.join(', ')),
          because,
          'Check that this is the build you want.',
        ),
      )
  }
  const sizes = words.map((w) => w.replace(/^(\d+[km])b$/, '$1')).filter((w) => w in sizeNames)
  const header = image.images[0]?.flashBytes
  if (unit.flashBytes !== null)
    complain(
      'name-size',
      sizes,
      (w) => sizeNames[w] === unit.flashBytes,
      `The name says %, the unit has ${sizeWords(unit.flashBytes)}.`,
      header ? `The header says ${sizeWords(header)}.` : '',
    )
  complain(
    'name-family',
    words.filter((w) => w in familyNames),
    (w) => familyNames[w] === unit.family,
    `The name says %, the unit is ${unit.family}.`,
    '',
  )
  if (wish.variant)
    complain(
      'name-variant',
      words.filter((w) => variantNames.includes(w)),
      (w) => w === wish.variant,
      `The name says %, you chose ${wish.variant}.`,
      '',
    )
  if (wish.language)
    complain(
      'name-language',
      words.filter((w) => languageNames.includes(w)),
      (w) => w === wish.language,
      `The name says %, you chose ${wish.language}.`,
      'Two-letter words are languages, not countries.',
    )
  return out
}

function chipFindings(unit: PreflightUnit): Finding[] {
  if (!unit.flashId) return []
  const id = parseFlashId(unit.flashId)
  if (!id)
    return [
      finding(
        'flash-id-capacity',
        'watch',
        `“${unit.flashId}” is no chip id.`,
        'Three bytes in hex are due.',
        'Read the chip id again.',
      ),
    ]
  const wrong = flashIdFindings(id)
  if (wrong.length > 0 || id.flashBytes === null) return wrong
  if (unit.flashBytes !== null && id.flashBytes !== unit.flashBytes)
    return [
      finding(
        'flash-id-mismatch',
        'error',
        `The chip id says ${sizeWords(id.flashBytes)}, the record says ${sizeWords(unit.flashBytes)}.`,
        '',
        'Correct the record, or look for a re-marked chip.',
      ),
    ]
  return []
}

/** k: framing, escapes and waits, until the good writes with an adapter have taught a better one. */
export const usualOverhead = 1.12
/** Seconds on the link for `bytes`: ten bits a byte, times k for framing, escapes and waits. */
export const linkSeconds = (bytes: number, baud: number, k = usualOverhead): number => (bytes * 10 * k) / baud

function planOf(unit: PreflightUnit, image: ImageInspection, wish: WriteWish, offset: number, k: number): WritePlan {
  const length = image.bytes
  const eraseOffset = offset - (offset % sector)
  const eraseBytes = Math.ceil((offset + length - eraseOffset) / sector) * sector
  const whole = wish.eraseAll && unit.flashBytes !== null
  const erase = whole ? ((unit.flashBytes as number) / 65536) * 0.15 : (eraseBytes / sector) * 0.045
  const link = linkSeconds(length, wish.baud, k)
  const write = Math.max(link, (length / 256) * 0.0007)
  const verify = wish.verify === 'digest' ? length / 1048576 : wish.verify === 'readback' ? link : 0
  return {
    erase: wish.eraseAll ? 'chip' : 'regions',
    regions: [{ offset, length, eraseOffset, eraseBytes, source: wish.fileName, sha256: image.sha256 ?? '' }],
    payloadBytes: length,
    eraseSectors: whole ? (unit.flashBytes as number) / sector : eraseBytes / sector,
    seconds: {
      erase: roundTenth(erase),
      write: roundTenth(write),
      verify: roundTenth(verify),
      total: roundTenth(erase + write + verify),
    },
  }
}

/**
 * Everything that speaks for and against writing this file to this unit, and the plan when nothing stops it.
 * @param k overhead of the link, from the last good writes with the adapter
 */
export function preflight(unit: PreflightUnit, image: ImageInspection, wish: WriteWish, k = usualOverhead): Preflight {
  const asA = unit.family === 'ARM968-A' || (unit.familyVerdict === 'arm968_unsplit' && isArm968(unit.family))
  const place = placeFindings(unit, image, wish, asA)
  const content = image.gzip?.bytes ?? image.bytes
  const fit = fitFindings(image, content, {
    family: unit.family === 'OTHER' ? null : unit.family,
    flashBytes: unit.flashBytes,
  })
  const known = new Set(image.findings.map((f) => f.code))
  const overSerial = [...image.findings, ...fit.filter((f) => !known.has(f.code))].map((f): FileFinding => {
    if (f.code === 'gzip-ota-only')
      return at(f.at, 'gzip-over-serial', 'error', 'A packed file cannot go over wires.', f.because, 'Unpack it first.')
    if (f.code === 'ota-container')
      return at(
        f.at,
        'container-over-serial',
        'error',
        'An over-the-air container cannot go over wires.',
        f.because,
        'Choose the serial file.',
      )
    // A stored inspection knows no unit: files of these families have no header to miss.
    if (f.code === 'unknown-format' && headerless(unit.family))
      return at(
        f.at,
        f.code,
        'watch',
        f.message,
        f.because,
        'Files of this family have none: make sure where it came from.',
      )
    return f
  })
  const first = image.images[0]
  const consulted = image.kind === 'app' && first?.format === 'extended' && !asA && unit.layout !== null
  const unplaced = (f: Finding): FileFinding => ({ ...f, at: null })
  const findings = [
    ...familyFindings(unit).map(unplaced),
    ...overSerial,
    ...(consulted ? (unit.layoutFindings ?? []) : []),
    ...chipFindings(unit).map(unplaced),
    ...modeFindings(unit, image).map(unplaced),
    ...place.findings.map(unplaced),
    ...backupFindings(unit).map(unplaced),
    ...eraseFindings(unit, image, wish, asA).map(unplaced),
    ...nameFindings(unit, image, wish).map(unplaced),
  ]
  const worst = worstOf(findings)
  const verdict = worst === 'error' ? 'stop' : worst === 'watch' ? 'warn' : 'go'
  return {
    verdict,
    kind: image.kind,
    expectedOffset: place.expected,
    findings: sortFindings(findings),
    plan: verdict === 'stop' ? null : planOf(unit, image, wish, place.offset, k),
  }
}
