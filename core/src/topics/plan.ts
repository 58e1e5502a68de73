import { z } from 'zod'
import { inputCodes, type Outcome, parseInput, refuse } from '../edge/fault'
import { type Finding, finding } from '../edge/finding'
import { clashFinding, collisionFinding } from './findings'
import { type Topic, topicLeaves, topicsOf } from './leaves'
import { isSlug, longestSlug, reservedSlugs, slugOf, slugWith } from './slug'
import { heard, heardClashes, numberedStem, spokenForm } from './spoken'

const slugField = (what: string) =>
  z.string().superRefine((text, context) => {
    if (!isSlug(text)) refuse(context, 'input', [], `${what} must be a slug: a–z, 0–9 and inner hyphens.`)
  })

const PlannedUnit = z.object({
  id: z.string().min(1),
  number: z.number().int().min(0),
  name: z.string().max(500),
  spoken: z.string().max(500).nullish(),
  pinned: slugField('A pinned name')
    .superRefine((slug, context) => {
      if (reservedSlugs.has(slug)) refuse(context, 'conflict', [], `“${slug}” is reserved in the topic tree.`)
    })
    .nullish(),
  meter: z.boolean().nullish(),
  channels: z
    .array(z.object({ name: z.string().max(500).nullish() }))
    .max(64)
    .nullish(),
})

export const TopicsInput = z
  .object({
    base: slugField('base'),
    site: slugField('site'),
    maxSlug: z.number().int().min(8).max(63).default(longestSlug),
    units: z.array(PlannedUnit).max(2000),
    groups: z
      .array(z.object({ name: z.string().max(500), units: z.array(z.string()) }))
      .max(500)
      .nullish(),
  })
  .superRefine((input, context) => {
    const seen = { id: new Set<string>(), number: new Set<number>(), pinned: new Set<string>() }
    input.units.forEach((unit, i) => {
      if (seen.id.has(unit.id)) refuse(context, 'conflict', ['units', i, 'id'], `The id ${unit.id} is used twice.`)
      if (seen.number.has(unit.number))
        refuse(context, 'conflict', ['units', i, 'number'], `The number ${unit.number} is used twice.`)
      if (unit.pinned != null && seen.pinned.has(unit.pinned))
        refuse(context, 'conflict', ['units', i, 'pinned'], `The name ${unit.pinned} is pinned twice.`)
      seen.id.add(unit.id)
      seen.number.add(unit.number)
      if (unit.pinned != null) seen.pinned.add(unit.pinned)
    })
    const groups = new Set<string>()
    ;(input.groups ?? []).forEach((group, i) => {
      const slug = groupSlug(group.name, i, input.maxSlug)
      if (groups.has(slug)) refuse(context, 'conflict', ['groups', i, 'name'], `Two groups would be called ${slug}.`)
      groups.add(slug)
      group.units.forEach((id, j) => {
        if (!seen.id.has(id)) refuse(context, 'input', ['groups', i, 'units', j], `There is no unit ${id}.`)
      })
    })
  })
export type TopicsInput = z.output<typeof TopicsInput>

export interface PlannedTopics {
  id: string
  slug: string
  prefix: string
  channels: string[]
  topics: Topic[]
  lastWill: { topic: string; payload: '0'; retain: true; qos: 1 }
}

export interface NameWarning {
  code: string
  units: string[]
  group?: string
}

export interface TopicsPlan {
  units: PlannedTopics[]
  groups: { name: string; slug: string; topic: string; units: string[] }[]
  collisions: { slug: string; units: string[] }[]
  warnings: NameWarning[]
  findings: (Finding & { units: string[]; slug?: string; group?: string })[]
}

const groupSlug = (name: string, index: number, max: number): string => slugOf(name, max) || `group-${index + 1}`

function channelSlugs(channels: TopicsInput['units'][number]['channels']): string[] {
  const given: string[] = []
  ;(channels ?? [{ name: null }]).forEach((channel, i) => {
    let slug = slugOf(channel.name ?? '', 63) || String(i + 1)
    if ((topicLeaves as readonly string[]).includes(slug)) slug = `ch-${slug}`
    let unique = slug
    for (let n = i + 1; given.includes(unique); n++) unique = `${slug}-${n}`
    given.push(unique)
  })
  return given
}

/** A slug per unit, by number: pins stay, equal and reserved ones get their number, so nobody owns the bare name. */
function assignSlugs(input: TopicsInput): { slugs: Map<string, string>; own: Map<string, string> } {
  const max = input.maxSlug
  const own = new Map(input.units.map((u) => [u.id, u.pinned ?? (slugOf(u.name, max) || `unit-${u.number}`)]))
  const holders = new Map<string, number>()
  for (const slug of own.values()) holders.set(slug, (holders.get(slug) ?? 0) + 1)
  const taken = new Set(input.units.flatMap((u) => (u.pinned != null ? [u.pinned] : [])))
  const slugs = new Map<string, string>()
  for (const unit of [...input.units].sort((a, b) => a.number - b.number)) {
    const base = own.get(unit.id) as string
    if (unit.pinned != null || (holders.get(base) === 1 && !reservedSlugs.has(base) && !taken.has(base))) {
      slugs.set(unit.id, base)
      taken.add(base)
      continue
    }
    const ownOfOthers = (slug: string) => (holders.get(slug) ?? 0) > (slug === base ? 1 : 0)
    let slug = slugWith(base, `-${unit.number}`, max)
    for (let n = 2; taken.has(slug) || ownOfOthers(slug); n++) slug = slugWith(base, `-${unit.number}-${n}`, max)
    slugs.set(unit.id, slug)
    taken.add(slug)
  }
  return { slugs, own }
}

/** Unique names and topics for all units, and which of them people will confuse. */
export function planTopics(input: unknown): Outcome<TopicsPlan> {
  const parsed = parseInput(TopicsInput, input, inputCodes)
  if (!parsed.ok) return parsed
  const given = parsed.value
  const root = `${given.base}/${given.site}`
  const { slugs, own } = assignSlugs(given)
  const byNumber = [...given.units].sort((a, b) => a.number - b.number)

  const bySlug = new Map<string, typeof byNumber>()
  for (const unit of byNumber) {
    const slug = own.get(unit.id) as string
    bySlug.set(slug, [...(bySlug.get(slug) ?? []), unit])
  }
  const collisions = [...bySlug].flatMap(([slug, members]) =>
    members.length > 1 ? [{ slug, units: members.map((u) => u.id) }] : [],
  )

  const spoken = (u: (typeof byNumber)[number]) => u.spoken ?? u.name
  const forms = byNumber.map((u) => ({ id: u.id, heard: heard(spokenForm(spoken(u))) }))
  const warnings: NameWarning[] = []
  forms.forEach((a, i) => {
    for (let j = i + 1; j < forms.length; j++) {
      const b = forms[j] as (typeof forms)[number]
      for (const code of heardClashes(a.heard, b.heard)) warnings.push({ code, units: [a.id, b.id] })
    }
  })
  const groups = (given.groups ?? []).map((group, i) => {
    const slug = groupSlug(group.name, i, given.maxSlug)
    for (const unit of byNumber)
      if (spokenForm(spoken(unit)) === spokenForm(group.name))
        warnings.push({ code: 'group-name', units: [unit.id], group: group.name })
    return { name: group.name, slug, topic: `${root}/groups/${slug}/set`, units: group.units }
  })

  const sets = new Map<string, typeof byNumber>()
  for (const unit of byNumber) {
    const form = spokenForm(spoken(unit))
    if (/\d/.test(form)) sets.set(numberedStem(form), [...(sets.get(numberedStem(form)) ?? []), unit])
  }
  const numbered = [...sets.values()].filter((set) => new Set(set.map((u) => spokenForm(spoken(u)))).size >= 3)

  const names = new Map(byNumber.map((u) => [u.id, u.name]))
  const nameOf = (id: string) => names.get(id) ?? id
  const quoted = (ids: readonly string[]) => ids.map((id) => `“${nameOf(id)}”`).join(' and ')
  return {
    ok: true,
    value: {
      units: given.units.map((unit) => {
        const slug = slugs.get(unit.id) as string
        const prefix = `${root}/${slug}`
        const channels = channelSlugs(unit.channels)
        return {
          id: unit.id,
          slug,
          prefix,
          channels,
          topics: topicsOf(prefix, channels, unit.meter === true),
          lastWill: { topic: `${prefix}/online`, payload: '0', retain: true, qos: 1 },
        }
      }),
      groups,
      collisions,
      warnings,
      findings: [
        ...collisions.map((c) => ({ ...collisionFinding(c.slug, c.units.length, `${quoted(c.units)}.`), ...c })),
        ...warnings.map((w) => ({ ...clashFinding(w.code, quoted(w.units)), ...w })),
        ...numbered.map((set) => ({
          ...finding(
            'numbered-set',
            'ok',
            `${set.length} names differ only in their numbers.`,
            'People tell these apart.',
          ),
          units: set.map((u) => u.id),
        })),
      ],
    },
  }
}
