import { type Digest, sha256Hex } from '../bytes/digests'
import { hexNumber, sizeWords } from '../bytes/text'
import { headerless, settingsSectorsAtEnd } from '../families/families'
import type { InspectOptions } from '../image/fit'
import { at, type FileFinding, type Image, type ImageFamily } from '../image/image'
import { largestFile, sortFindings } from '../image/inspect'
import type { PartitionTable } from '../image/partitions'
import { allOneValue, type FileKind, structureOf } from '../image/structure'
import { findSecrets, type SecretsFound } from './secrets'
import { classesOf, type Run, type SectorClass, sectorBytes, sectorClasses, sectorRuns, wordsOf } from './sectors'

export interface DumpInspection {
  bytes: number
  sha256: string | null
  private: true
  sectorBytes: number
  sectors: number
  counts: Record<SectorClass, number>
  runs: Run[]
  /** The content repeats every so many bytes: the address wrapped round. */
  repeatsEvery: number | null
  kind: FileKind
  family: ImageFamily | null
  chipId: number | null
  images: Image[]
  partitions: PartitionTable | null
  secrets: SecretsFound & { settingsSectors: number[] }
  findings: FileFinding[]
}

const smallestMirror = 65_536

/** Bytes p..2p against 0..p, by words where that is possible. */
function equalHalves(bytes: Uint8Array, p: number): boolean {
  const words = wordsOf(bytes)
  if (words) {
    const half = p >> 2
    for (let i = 0; i < half; i++) if (words[i] !== words[i + half]) return false
    return true
  }
  for (let i = p; i < 2 * p; i++) if (bytes[i] !== bytes[i - p]) return false
  return true
}

/** Smallest p = N/2, N/4, … so that byte i equals byte i − p for all i ≥ p; null when there is none. */
export function mirrorPeriod(bytes: Uint8Array): number | null {
  let found: number | null = null
  for (let p = bytes.length / 2; p >= smallestMirror && p % sectorBytes === 0; p /= 2) {
    // A content that repeats every p/2 also repeats every p, so the first failure ends the search; and once it repeats
    // every 2p, only the first 2p bytes need to be looked at.
    if (!equalHalves(bytes, p)) return found
    found = p
  }
  return found
}

const soften = (f: FileFinding): FileFinding =>
  f.severity === 'error' && f.code !== 'family-mismatch' ? { ...f, severity: 'watch' } : f

function lengthFindings(length: number, flashBytes: number | null): FileFinding[] {
  const out: FileFinding[] = []
  if (length % sectorBytes)
    out.push(
      at(
        null,
        'dump-not-whole-sectors',
        'error',
        `${length} bytes are not whole sectors of 4096.`,
        `${length % sectorBytes} bytes are left over.`,
        'Read the whole chip again.',
      ),
    )
  if (flashBytes !== null && length !== flashBytes)
    out.push(
      at(
        null,
        'dump-size',
        'error',
        `${length} bytes were read, the chip has ${flashBytes}.`,
        '',
        'Read again from 0 over the whole chip.',
      ),
    )
  if (flashBytes === null && (length & (length - 1)) !== 0)
    out.push(
      at(
        null,
        'dump-size-odd',
        'watch',
        `${length} bytes is no usual chip size.`,
        'The size of the chip is not known.',
        'Read the chip id, then read the whole chip.',
      ),
    )
  return out
}

const constantFinding = (value: number): FileFinding =>
  value === 0xff
    ? at(
        null,
        'dump-all-ff',
        'error',
        'Nothing was read, or the chip is blank: every byte is 0xFF.',
        '',
        'Check the TX wire and the power, then read again.',
      )
    : value === 0
      ? at(
          null,
          'dump-all-00',
          'error',
          'Every byte is 0: the line was held low.',
          '',
          'Check the wires and the power, then read again.',
        )
      : at(
          null,
          'dump-constant',
          'error',
          `Every byte is ${hexNumber(value)}: a broken read.`,
          '',
          'Check the wires and read again.',
        )

function settingsSectorsOf(
  classes: readonly SectorClass[],
  family: string | null,
  table: PartitionTable | null,
): number[] {
  const inUse = (s: number) => s >= 0 && s < classes.length && classes[s] !== 'blank' && classes[s] !== 'zero'
  const wanted = new Set<number>()
  for (const p of table?.entries ?? []) {
    if (p.role !== 'settings' && p.role !== 'settings-keys') continue
    const last = Math.min(classes.length, Math.ceil((p.offset + p.length) / sectorBytes))
    for (let s = Math.floor(p.offset / sectorBytes); s < last; s++) wanted.add(s)
  }
  for (let i = 1; i <= settingsSectorsAtEnd(family); i++) wanted.add(classes.length - i)
  return [...wanted].filter(inUse).sort((a, b) => a - b)
}

/**
 * What was read from a chip: is it a good copy, what lies where, and what in it is private.
 * @param known hash and sector map, when they have been computed already, and the platform's own SHA-256
 */
export function inspectDump(
  bytes: Uint8Array,
  options: InspectOptions = {},
  known: { sha256?: string; runs?: Run[]; digest?: Digest } = {},
): DumpInspection {
  const counts = Object.fromEntries(sectorClasses.map((c) => [c, 0])) as Record<SectorClass, number>
  const result: DumpInspection = {
    bytes: bytes.length,
    sha256: null,
    private: true,
    sectorBytes,
    sectors: 0,
    counts,
    runs: [],
    repeatsEvery: null,
    kind: 'unknown',
    family: null,
    chipId: null,
    images: [],
    partitions: null,
    secrets: { count: 0, byKind: { named: 0, pem: 0, hex64: 0, urlAuth: 0 }, sectors: [], settingsSectors: [] },
    findings: [],
  }
  if (bytes.length > largestFile) {
    result.findings = [
      at(
        null,
        'too-large',
        'error',
        `This file has ${bytes.length} bytes; at most 16 MiB can be a flash file.`,
        '',
        'Check that you chose the right file.',
      ),
    ]
    return result
  }
  result.sha256 = known.sha256 ?? (known.digest ?? sha256Hex)(bytes)
  if (bytes.length === 0) {
    result.findings = [at(null, 'empty-file', 'error', 'The file is empty.', '', 'Read the chip again.')]
    return result
  }
  const runs = known.runs ?? sectorRuns(bytes)
  result.runs = runs
  result.sectors = Math.ceil(bytes.length / sectorBytes)
  for (const [kind, n] of runs) counts[kind] += n
  const findings = lengthFindings(bytes.length, options.flashBytes ?? null)
  if (allOneValue(bytes)) {
    result.kind = 'blank'
    result.findings = sortFindings([...findings, constantFinding(bytes[0] as number)])
    return result
  }
  result.repeatsEvery = mirrorPeriod(bytes)
  if (result.repeatsEvery !== null)
    findings.push(
      at(
        result.repeatsEvery,
        'dump-repeats',
        'error',
        `The content repeats every ${result.repeatsEvery} bytes: the chip probably holds ${sizeWords(result.repeatsEvery)}.`,
        'The address wrapped round.',
        'Set the size to that and read again.',
      ),
    )

  const flashBytes = options.flashBytes ?? bytes.length
  const structure = structureOf(bytes, {
    flashBytes,
    loaderAnywhereBelow: true,
    ...(known.digest ? { digest: known.digest } : {}),
  })
  if (structure && structure.images.length > 0) {
    const { kind, family, chipId, images, partitions } = structure
    Object.assign(result, { kind, family, chipId, images, partitions })
    findings.push(...structure.findings.map(soften))
    if (options.family && family !== null && family !== options.family)
      findings.push(
        at(
          images[0]?.offset ?? 0,
          'family-mismatch',
          'error',
          `The dump holds a program for ${family}, the unit is ${options.family}.`,
          '',
          'Check which unit was read, and the family on record.',
        ),
      )
  } else {
    const quiet = headerless(options.family)
    findings.push(
      at(
        0,
        'no-header',
        quiet ? 'ok' : 'watch',
        'There is no program header that we know.',
        quiet ? 'Stock images of this family have none that can be told safely.' : '',
        quiet ? '' : 'Compare two reads, and check the family.',
      ),
    )
  }

  const secrets = findSecrets(bytes, runs)
  const family = result.family ?? options.family ?? null
  const settingsSectors = settingsSectorsOf(classesOf(runs), family, result.partitions)
  result.secrets = { ...secrets, settingsSectors }
  if (secrets.count > 0)
    findings.push(
      at(
        null,
        'secrets-found',
        'watch',
        `${secrets.count} string${secrets.count === 1 ? ' looks' : 's look'} like passwords or keys; not shown.`,
        `In ${secrets.sectors.length} sector${secrets.sectors.length === 1 ? '' : 's'}.`,
        'Keep this file private.',
      ),
    )
  if (settingsSectors.length > 0)
    findings.push(
      at(
        null,
        'settings-present',
        'watch',
        `${settingsSectors.length} settings sector${settingsSectors.length === 1 ? ' is' : 's are'} in use.`,
        'Settings may hold Wi-Fi names, passwords and keys in binary form.',
        'Keep this file private.',
      ),
    )
  result.findings = sortFindings(findings)
  return result
}
