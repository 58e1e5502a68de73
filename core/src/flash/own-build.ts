import { z } from 'zod'
import { finding } from '../edge/finding'
import type { FileFinding } from '../image/image'

/** Whose build an image is, and what is in it: said by a person, since no file says it (brief 07 §8). */
const line = z.string().trim().min(1).max(120)

/** What a constant that was built in names. A topic, host or number is one unit's own. */
export const constantKinds = ['topic', 'host', 'number', 'else'] as const

export const OwnBuild = z.object({
  by: z.enum(['release', 'own', 'other']).default('release'),
  source: z.string().trim().max(200).default(''),
  /** The state of the source that it was built from. */
  state: z.string().trim().max(120).default(''),
  options: z.array(line).max(60).default([]),
  libraries: z.array(line).max(60).default([]),
  /** Names only: values are secrets where they are, and kept as such. */
  constants: z
    .array(z.object({ name: line, names: z.enum(constantKinds) }))
    .max(30)
    .default([]),
  /** Case number of the one unit that it is for; null where it is for any. */
  forUnit: z.number().int().min(1).nullable().default(null),
  /** It does one thing that can be seen, such as blinking a pin: it parts faults of the wiring from faults of an image. */
  test: z.boolean().default(false),
})
export type OwnBuild = z.output<typeof OwnBuild>

/** What is stored of a build, or null where there is nothing this version can read. */
export function readBuild(stored: unknown): OwnBuild | null {
  const read = OwnBuild.safeParse(stored)
  return stored !== null && read.success ? read.data : null
}

/** Its constants name something that only one unit may have. */
const oneUnitsOwn = (build: OwnBuild): string[] =>
  build.constants.filter((c) => c.names !== 'else').map((c) => `${c.name} (${c.names})`)

const sorted = (list: readonly string[]) => [...list].map((x) => x.toLowerCase()).sort()

/** The same source in the same state with the same options and libraries. */
export const sameMaking = (a: OwnBuild, b: OwnBuild): boolean =>
  a.by === b.by &&
  a.source !== '' &&
  a.state !== '' &&
  a.source === b.source &&
  a.state === b.state &&
  JSON.stringify([sorted(a.options), sorted(a.libraries), a.constants, a.forUnit]) ===
    JSON.stringify([sorted(b.options), sorted(b.libraries), b.constants, b.forUnit])

/** The first file that was made the same way and is another one; null where there is none. */
export const madeAlike = (file: BuiltFile, others: readonly BuiltFile[]): string | null => {
  const { build } = file
  const twin = build && others.find((o) => o.build && o.sha256 !== file.sha256 && sameMaking(o.build, build))
  return twin ? twin.name : null
}

/** Options of the running build that an offered one does not name: what a plain update would drop. */
export const droppedBy = (running: readonly string[], offered: readonly string[]): string[] => {
  const named = new Set(sorted(offered))
  return running.filter((option) => !named.has(option.toLowerCase()))
}

interface BuiltFile {
  name: string
  sha256: string
  build?: OwnBuild | null
}

/**
 * What a build says against going into a unit.
 * @param running options of what the unit runs now; null while nobody knows
 * @param others files of the vault, to be held against it
 */
export function buildFindings(
  file: BuiltFile,
  unitNumber: number,
  running: readonly string[] | null,
  others: readonly BuiltFile[] = [],
): FileFinding[] {
  const { build } = file
  if (!build) return []
  const out: FileFinding[] = []
  const say = (...args: Parameters<typeof finding>) => out.push({ ...finding(...args), at: null })
  const own = oneUnitsOwn(build)
  if (build.forUnit !== null && build.forUnit !== unitNumber)
    say(
      'build-for-other',
      'error',
      `This build is for unit ${build.forUnit} alone.`,
      own.length > 0 ? `It has ${own.join(', ')} built in.` : '',
      'Build one for this unit, or choose a build for any.',
    )
  else if (build.forUnit === null && own.length > 0)
    say(
      'build-names-one',
      'error',
      'This build is for one unit alone, and nobody has said for which.',
      `It has ${own.join(', ')} built in: two units with it would answer to one name.`,
      'Say at Images for which unit it was built.',
    )
  const twin = madeAlike(file, others)
  if (twin !== null)
    say(
      'same-making-other-hash',
      'watch',
      `${twin} was made the same way, and is another file.`,
      'Same source, state, options and libraries; their hashes differ.',
      'One of the two was made otherwise than it says, or its tools changed.',
    )
  const dropped = running === null ? [] : droppedBy(running, build.options)
  if (dropped.length > 0)
    say(
      'update-drops',
      'watch',
      `It would drop: ${dropped.join(', ')}.`,
      'The build that runs now has these options; this one does not name them.',
      'Build it with them, if they are needed.',
    )
  return out
}
