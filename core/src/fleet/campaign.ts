import { z } from 'zod'
import type { Outcome } from '../edge/fault'
import type { Presence } from '../live/standing'
import type { Survival } from './survival'
import { compareInstalled, type PlacedRing, type PlacedRings, type RingTimes, versionForm } from './waves'
import { ringsOfKnown } from './waves-request'

/**
 * One firmware brought to one version on many units, ring by ring (brief 05 §8). The app updates nobody by itself: a person begins,
 * and what is heard afterwards says how it went.
 */

const weekdays = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const
const clock = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/)
const moment = z.iso.datetime({ offset: true })
const roles = ['normal', 'bridge', 'powers-network', 'powers-hub'] as const
const longestVersion = 40
const version = z.string().trim().regex(versionForm, 'It is no version, like 1.5.1.').max(longestVersion)
const isVersion = (text: string): boolean => versionForm.test(text.trim()) && text.trim().length <= longestVersion

export const campaignShape = z.object({
  firmware: z.string().min(1).max(60),
  version,
  start: moment,
  utcOffset: z.string().regex(/^(Z|[+-]\d{2}:\d{2})$/),
  rings: z
    .array(
      z.object({
        name: z.string().trim().min(1).max(60),
        count: z.number().int().min(0).max(5000).nullable().default(null),
        /** Per cent of those that are left. */
        sharePct: z.number().min(0).max(100).nullable().default(null),
      }),
    )
    .min(1)
    .max(12),
  soakHours: z.array(z.number().min(0).max(2000)).max(12).default([]),
  window: z
    .object({ days: z.array(z.enum(weekdays)).min(1), from: clock, to: clock })
    .nullable()
    .default(null),
  minutesPerUnit: z.number().min(1).max(600).default(12),
  maxPerWindow: z.number().int().min(1).max(500).nullable().default(null),
  maxFailures: z.number().int().min(0).max(500).default(0),
  blackouts: z
    .array(z.object({ from: moment, to: moment, what: z.string().max(120).default('') }))
    .max(60)
    .default([]),
  units: z
    .record(
      z.string(),
      z.object({
        role: z.enum(roles).default('normal'),
        canary: z.boolean().default(false),
        /** Ids of units that are updated before it: what it rests on. */
        after: z.array(z.string()).max(20).default([]),
        /** Why it is left as it is; empty: it is not. */
        held: z.string().max(200).default(''),
      }),
    )
    .default({}),
})
export type CampaignPolicy = z.infer<typeof campaignShape>
export const campaignKept = z.object({
  policy: campaignShape,
  /** What ran on it when its update was begun, and when that was. */
  begun: z.record(z.string(), z.object({ at: moment, before: z.string().max(40) })).default({}),
  /** What a person said of how it went: that counts before what is heard. */
  said: z.record(z.string(), z.object({ at: moment, ok: z.boolean(), note: z.string().max(200) })).default({}),
})
export type Campaign = z.infer<typeof campaignKept>

/** What an update needs of a unit: there may be thousands, so whatever else is shown of one is asked for apart. */
export interface CampaignUnit {
  id: string
  number: number
  /** As heard, else as the record knows it. */
  installed: string
  /** It offers a radio to a hub, as its record says. */
  bridge: boolean
}
/** By their ids, in the order of their numbers. */
export type CampaignUnits = ReadonlyMap<string, CampaignUnit>
export const campaignUnitsOf = (units: readonly CampaignUnit[]): CampaignUnits => new Map(units.map((u) => [u.id, u]))

/** What the air knows of a unit. */
export interface LastWord {
  /** What it said of itself last, and when, ms; null: it never did. */
  heard: { version: string; at: number } | null
  presence: Presence | null
}
/** Of those whose update was begun; where nobody listens to one there is none. */
export type LastWords = ReadonlyMap<string, LastWord>

/** A unit that is not back by then has failed: brief 05 §8.5. */
export const backWithinMs = 5 * 60_000

export type HowItWent =
  | { state: 'waiting' }
  /** Begun; until then it may be away. */
  | { state: 'begun'; until: number }
  | { state: 'ok' | 'failed'; why: string; by: 'person' | 'air' }
  /** Begun, and nobody listens to it: a person has to look. */
  | { state: 'look' }

/** How the update of a unit went, by what a person said, else by what was heard since it was begun. */
export function howItWent({ policy, begun, said }: Campaign, id: string, words: LastWords, now: number): HowItWent {
  const told = said[id]
  if (told) return { state: told.ok ? 'ok' : 'failed', why: told.note, by: 'person' }
  const from = begun[id]
  if (!from) return { state: 'waiting' }
  const began = Date.parse(from.at)
  const until = began + backWithinMs
  const { heard, presence } = words.get(id) ?? { heard: null, presence: null }
  const spoke = heard !== null && heard.at > began ? heard.version : null
  if (spoke !== null && compareInstalled(spoke, policy.version) === 0)
    return { state: 'ok', why: `heard with ${spoke}`, by: 'air' }
  if (now < until) return { state: 'begun', until }
  if (heard === null || presence === null) return { state: 'look' }
  if (presence !== 'online') return { state: 'failed', why: 'not back within five minutes', by: 'air' }
  return { state: 'failed', why: spoke === null ? 'it has not said what it runs since' : `it says ${spoke}`, by: 'air' }
}

const dayMs = 86_400_000
const hourMs = 3_600_000
const mostSoakH = 2000

/** Who is updated in which ring, and when. */
export interface CampaignRings {
  plan: Outcome<PlacedRings>
  /** Units whose version nobody knows: they are in no ring. */
  unknown: CampaignUnit[]
}
export type Went = ReadonlyMap<string, HowItWent>
export interface CampaignNow extends CampaignRings {
  units: CampaignUnits
  /** Of those whose update was begun, or of whom somebody said something; all others wait. */
  went: Went
}

/** The policy as the rings are asked for. */
const asRings = (policy: CampaignPolicy) => ({
  start: policy.start,
  utcOffset: policy.utcOffset,
  rings: policy.rings.map((r) => ({
    name: r.name,
    count: r.count,
    share: r.sharePct === null ? null : r.sharePct / 100,
  })),
  soakHours: policy.soakHours,
  window: policy.window,
  minutesPerUnit: policy.minutesPerUnit,
  maxPerWindow: policy.maxPerWindow,
  stopRule: { maxFailures: policy.maxFailures },
  blackouts: policy.blackouts.map(({ from, to }) => ({ from, to })),
})

/** Of each unit of which something is said, what: a map is asked thousands of times quicker than an object of as many names. */
const mapOf = <T>(record: Readonly<Record<string, T>>): ReadonlyMap<string, T> => new Map(Object.entries(record))

/** What it ran before its update was begun counts: an updated unit stays in its ring. */
type RanBefore = (u: CampaignUnit) => string

/** Those whose version is known, and those of whom nobody knows it. */
function knownAndNot(ranBefore: RanBefore, units: CampaignUnits): [CampaignUnit[], CampaignUnit[]] {
  const is = new Map<string, boolean>()
  const isKnown = (version: string): boolean => {
    const known = is.get(version) ?? isVersion(version)
    is.set(version, known)
    return known
  }
  const [known, unknown]: [CampaignUnit[], CampaignUnit[]] = [[], []]
  for (const u of units.values()) (isKnown(ranBefore(u)) ? known : unknown).push(u)
  return [known, unknown]
}

/** How far it has come with each unit that somebody began with or said something of, as of now. */
export function wentOf(campaign: Campaign, units: CampaignUnits, words: LastWords, now: number): Went {
  const touched = new Set([...Object.keys(campaign.begun), ...Object.keys(campaign.said)])
  // What came of one that is in no ring is nobody's result: the rings look for their own.
  const own = [...touched].filter((id) => units.has(id))
  return new Map(own.map((id) => [id, howItWent(campaign, id, words, now)]))
}

export type Results = ReadonlyMap<string, boolean>
export const resultsOf = (went: Went): Results =>
  new Map(
    [...went].flatMap(([id, { state }]): [string, boolean][] =>
      state === 'ok' || state === 'failed' ? [[id, state === 'ok']] : [],
    ),
  )

/** Who is in which ring when: a ring with too many failures stops itself and holds those behind it. The clock has no part in it. */
export function ringsOfCampaign(campaign: Campaign, units: CampaignUnits, results: Results): CampaignRings {
  const { policy } = campaign
  const [begun, special] = [mapOf(campaign.begun), mapOf(policy.units)]
  const ranBefore: RanBefore = (u) => begun.get(u.id)?.before || u.installed
  const [known, unknown] = knownAndNot(ranBefore, units)
  const ids = special.size === 0 ? null : new Set(known.map((u) => u.id))
  const plan = ringsOfKnown(
    known.map((u) => {
      const own = special.get(u.id)
      return {
        id: u.id,
        number: u.number,
        installed: ranBefore(u),
        target: policy.version,
        role: own?.role ?? (u.bridge ? 'bridge' : 'normal'),
        // One that is not in it any more holds nobody up.
        dependsOn: own?.after.filter((id) => ids?.has(id)) ?? [],
        canary: own?.canary ?? false,
        held: Boolean(own?.held),
        minutes: null,
      }
    }),
    asRings(policy),
    results,
  )
  return { plan, unknown }
}

/** Who is in which ring when, and how far it has come. */
export function campaignNow(campaign: Campaign, units: CampaignUnits, words: LastWords, now: number): CampaignNow {
  const went = wentOf(campaign, units, words, now)
  return { ...ringsOfCampaign(campaign, units, resultsOf(went)), units, went }
}

type Release = Pick<Survival, 'verdict' | 'of'>

/** May a unit of this ring be begun now? Empty: yes; else why not. */
export function mayBeginRing(
  rings: readonly RingTimes[],
  at: number,
  now: number,
  release: Release | null = null,
): string {
  const ring = rings[at]
  if (!ring) return 'It is in no ring.'
  if (release?.verdict === 'stop') return `${release.of} starts again by itself too often: see how it fares.`
  if (ring.status === 'stopped') return `The ring ${ring.ring} has stopped: too many of it failed.`
  if (ring.status === 'held') return 'A ring before it has stopped.'
  const open = rings.slice(0, at).find((r) => r.status !== 'done')
  if (open) return `The ring ${open.ring} comes first.`
  return now < ring.notBefore
    ? `Its ring begins ${new Date(ring.notBefore).toISOString().slice(0, 16).replace('T', ' ')} UTC at the earliest.`
    : ''
}

/** May this unit's update be begun now? Empty: yes; else why not. */
export const mayBegin = (
  rings: readonly PlacedRing[],
  id: string,
  now: number,
  release: Release | null = null,
): string =>
  mayBeginRing(
    rings,
    rings.findIndex((r) => r.units.some((u) => u.id === id)),
    now,
    release,
  )

/**
 * The policy with a ring begun on another day, at its own time of day where it has one: the first ring by the start of all, a later one
 * by how long the ring before it has to be steady. Never earlier than the ring before it ends.
 * @param at place of the ring among them  @param day ms, midnight UTC of the day it is moved to
 */
export function ringMoved(
  policy: CampaignPolicy,
  rings: readonly RingTimes[],
  at: number,
  day: number,
): CampaignPolicy {
  const ring = rings[at]
  const place = policy.rings.findIndex((r) => r.name === ring?.ring)
  if (!ring || (place < 0 && ring.ring !== 'bridges')) return policy
  const begins = day + (ring.notBefore % dayMs)
  if (at === 0) return { ...policy, start: new Date(begins).toISOString() }
  const before = rings[at - 1] as RingTimes
  const hours = Math.min(mostSoakH, Math.max(0, Math.round((begins - before.end) / hourMs)))
  const from = policy.rings.findIndex((r) => r.name === before.ring)
  if (from < 0) return policy
  const soak = (i: number) => policy.soakHours[i] ?? policy.soakHours.at(-1) ?? 0
  const soakHours = Array.from({ length: Math.max(policy.rings.length, policy.soakHours.length) }, (_, i) => soak(i))
  soakHours[from] = hours
  return { ...policy, soakHours: soakHours.slice(0, 12) }
}
