import { z } from 'zod'
import { type Outcome, parseInput, refusal, refuse, strictCodes } from '../edge/fault'
import { byText } from '../edge/order'
import { at, type FileFinding } from '../image/image'
import { compareVersions, readVersion } from './version'

/** From the installed version to the wanted one over the air: the shortest way on which no step can get stuck. */

const sector = 4096
/** A program takes whole sectors. */
const up = (bytes: number): number => Math.ceil(bytes / sector) * sector

const version = z.string().superRefine((text, context) => {
  if (!readVersion(text))
    refuse(context, 'range', [], `“${text}” is no version: one to four numbers with dots, and a suffix after a hyphen.`)
})
const bytes = z
  .number()
  .int()
  .positive()
  .max(2 ** 31)

export const Build = z.object({
  version,
  build: z.string().min(1).max(60),
  family: z.string().min(1).max(40),
  bytes,
  gzBytes: bytes.nullish(),
  acceptsGzip: z.boolean().nullish(),
  minFrom: version.nullish(),
  minHost: version.nullish(),
  stop: z.boolean().nullish(),
  layout: z.string().max(60).nullish(),
})
export type Build = z.infer<typeof Build>

export const UpgradeInput = z.object({
  unit: z
    .object({
      family: z.string().min(1).max(40),
      scheme: z.enum(['single', 'dual', 'external']),
      updateEnd: bytes.nullish(),
      slotBytes: bytes.nullish(),
      layout: z.string().max(60).nullish(),
      hostVersion: version.nullish(),
      current: Build,
    })
    .superRefine((unit, context) => {
      if (unit.scheme === 'single' && unit.updateEnd == null)
        refuse(context, 'missing', ['updateEnd'], 'A single slot needs updateEnd: the first byte of files or settings.')
      if (unit.scheme !== 'single' && unit.slotBytes == null)
        refuse(context, 'missing', ['slotBytes'], 'This scheme needs slotBytes: the room for the new program.')
    }),
  target: z.object({ version, build: z.string().min(1).max(60) }),
  releases: z.array(Build).max(2000),
  allowDowngrade: z.boolean().nullish(),
})
type Input = z.infer<typeof UpgradeInput>

export interface UpgradeStep {
  from: string
  to: string
  upload: 'raw' | 'gzip'
  uploadBytes: number
  /** Where the new file is staged above the running one; null unless single slot. */
  stageStart: number | null
  freeBytes: number
}
export type JumpCode = 'family' | 'min-from' | 'stop-skipped' | 'downgrade' | 'layout' | 'host-too-old' | 'too-large'

export interface UpgradePath {
  found: boolean
  steps: UpgradeStep[]
  uploadBytes: number
  direct: { allowed: boolean; codes: JumpCode[] }
  /** Builds that can be reached at all, without the current one. */
  reachable: string[]
  findings: FileFinding[]
}

export const buildName = (b: { version: string; build: string }): string => `${b.version}/${b.build}`

/** What each code says about a jump. */
export const jumpSays: Record<JumpCode, string> = {
  family: 'it is made for another family',
  'min-from': 'it wants a newer version to come from',
  'stop-skipped': 'a stop lies between, where settings are converted',
  downgrade: 'it is older, and settings are not converted back',
  layout: 'it is made for another layout; that changes over wires only',
  'host-too-old': 'the main firmware is too old to pass it on',
  'too-large': 'it does not fit beside the running one',
}

interface Fit {
  upload: 'raw' | 'gzip'
  uploadBytes: number
  stageStart: number | null
  freeBytes: number
}

/** Single slot: staged above the running program, packed only when it must be, and never into its own source. */
function fit(unit: Input['unit'], from: Build, to: Build): Fit | null {
  if (unit.scheme !== 'single') {
    const room = unit.slotBytes as number
    return to.bytes <= room
      ? { upload: 'raw', uploadBytes: to.bytes, stageStart: null, freeBytes: room - to.bytes }
      : null
  }
  const end = unit.updateEnd as number
  const staged = (upload: 'raw' | 'gzip', length: number): Fit => ({
    upload,
    uploadBytes: length,
    stageStart: end - up(length),
    freeBytes: end - up(from.bytes) - up(length),
  })
  if (up(from.bytes) + up(to.bytes) <= end) return staged('raw', to.bytes)
  if (from.acceptsGzip !== true || to.gzBytes == null) return null
  const packed = staged('gzip', to.gzBytes)
  return packed.freeBytes >= 0 && to.bytes <= (packed.stageStart as number) ? packed : null
}

function jumpCodes(input: Input, from: Build, to: Build): JumpCode[] {
  const { unit, releases } = input
  const codes: JumpCode[] = []
  if (to.family !== unit.family) codes.push('family')
  if (to.minFrom && compareVersions(from.version, to.minFrom) < 0) codes.push('min-from')
  const between = (s: Build) =>
    s.stop === true &&
    s.family === unit.family &&
    compareVersions(from.version, s.version) < 0 &&
    compareVersions(s.version, to.version) < 0
  if (releases.some(between)) codes.push('stop-skipped')
  if (compareVersions(to.version, from.version) < 0 && input.allowDowngrade !== true) codes.push('downgrade')
  if (to.layout != null && to.layout !== (unit.layout ?? null)) codes.push('layout')
  if (to.minHost && (unit.hostVersion == null || compareVersions(unit.hostVersion, to.minHost) < 0))
    codes.push('host-too-old')
  if (!fit(unit, from, to)) codes.push('too-large')
  return codes
}

interface Way {
  builds: Build[]
  uploadBytes: number
}

/** Fewer bytes first; then the text order of the list of builds. */
function shorter(a: Way, b: Way): boolean {
  if (a.uploadBytes !== b.uploadBytes) return a.uploadBytes < b.uploadBytes
  for (let i = 0; i < a.builds.length; i++) {
    const order = byText(buildName(a.builds[i] as Build), buildName(b.builds[i] as Build))
    if (order !== 0) return order < 0
  }
  return false
}

/**
 * Breadth first over builds: fewest steps, then fewest uploaded bytes.
 * Refusals: `missing`, `type`, `range`, `unknown-target` (the wanted build is not among the releases).
 */
export function planUpgrade(raw: unknown): Outcome<UpgradePath> {
  const parsed = parseInput(UpgradeInput, raw, strictCodes)
  if (!parsed.ok) return parsed
  const input = parsed.value
  const { current } = input.unit
  const here = buildName(current)
  const there = buildName(input.target)
  const nodes = new Map<string, Build>()
  for (const b of input.releases) if (!nodes.has(buildName(b))) nodes.set(buildName(b), b)
  nodes.set(here, current)
  const target = nodes.get(there)
  if (!target) return refusal('unknown-target', '/target', `There is no release ${there}.`)

  // Level by level: the best way to every build that is reached for the first time.
  const ways = new Map<string, Way>([[here, { builds: [current], uploadBytes: 0 }]])
  let level = [here]
  while (level.length > 0) {
    const next = new Map<string, Way>()
    for (const name of level) {
      const way = ways.get(name) as Way
      const from = way.builds.at(-1) as Build
      for (const [toName, to] of nodes) {
        if (ways.has(toName) || jumpCodes(input, from, to).length > 0) continue
        const longer: Way = {
          builds: [...way.builds, to],
          uploadBytes: way.uploadBytes + (fit(input.unit, from, to) as Fit).uploadBytes,
        }
        const known = next.get(toName)
        if (!known || shorter(longer, known)) next.set(toName, longer)
      }
    }
    for (const [name, way] of next) ways.set(name, way)
    level = [...next.keys()]
  }

  const way = ways.get(there) ?? null
  const steps = (way?.builds ?? []).slice(1).map((to, i): UpgradeStep => {
    const from = way?.builds[i] as Build
    return { from: buildName(from), to: buildName(to), ...(fit(input.unit, from, to) as Fit) }
  })
  const codes = here === there ? [] : jumpCodes(input, current, target).sort(byText)
  const reachable = [...ways.keys()].filter((name) => name !== here).sort(byText)
  const findings: FileFinding[] = []
  if (here === there) findings.push(at(null, 'already-there', 'ok', `It runs ${here} already.`))
  else if (!way)
    findings.push(
      at(
        null,
        'no-safe-path',
        'error',
        `There is no safe way over the air from ${here} to ${there}.`,
        `Directly: ${codes.map((c) => jumpSays[c]).join('; ')}. Reachable: ${reachable.join(', ') || 'nothing'}.`,
        'Write it over wires.',
      ),
    )
  else {
    findings.push(at(null, 'path-found', 'ok', `${steps.length} step${steps.length === 1 ? '' : 's'} to ${there}.`))
    if (steps.length > 1)
      findings.push(
        at(
          null,
          'more-than-one-step',
          'watch',
          `It takes ${steps.length} steps: finish them in one sitting.`,
          `Directly it cannot go: ${codes.map((c) => jumpSays[c]).join('; ')}.`,
          'On a small build in between no output may work. Keep wires at hand.',
        ),
      )
  }
  return {
    ok: true,
    value: {
      found: way !== null,
      steps,
      uploadBytes: way?.uploadBytes ?? 0,
      direct: { allowed: codes.length === 0, codes },
      reachable,
      findings,
    },
  }
}
