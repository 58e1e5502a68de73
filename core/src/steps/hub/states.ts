import { outputsOf } from '../../behaviour/of-template'
import { factsOfUnit } from '../../unit/facts'
import { type HubTest, testDirections, type UnitView } from '../../unit/view'
import { type FactId, stepOf } from '../../unit/way'
import { templateOf } from '../pins/facts'
import { hasInput } from './facts'

/** How far a unit is with its hub, each state with its evidence and what sends it back (brief 05 §6). */

export const hubStates = [
  'credentials-set',
  'discovered',
  'named-placed',
  'tested-both-ways',
  'automations',
  'verified-after-power-cut',
] as const
export type HubState = (typeof hubStates)[number]

/** stale: it was so, and something it rested on changed, or a state before it fell. */
export type Standing = 'stands' | 'stale' | 'failed' | 'none'

export interface HubStep {
  state: HubState
  standing: Standing
  /** The same by itself, whatever stands before it. */
  own: Standing
  /** What was seen; empty where nobody looked. */
  seen: string
  at: string | null
  /** Why it does not stand any more: the state before it that fell, or what changed. */
  because: string
}

export interface HubWay {
  steps: HubStep[]
  /** The last state that stands with all before it; null while none does. */
  reached: HubState | null
}

type Kind = HubTest['direction']

/** What each piece of evidence rests on: when one of these changes it has to be seen again. */
export const evidenceRestsOn = (view: UnitView, kind: Kind): readonly FactId[] => {
  switch (kind) {
    case 'details in the unit':
      return ['hub', 'secrets']
    case 'shown by the hub':
      // Stock firmware is reached by its address, everything else by its topic.
      return view.route === 'local-control' ? ['hub', 'address'] : ['hub', 'topic']
    case 'named and placed':
    case 'by voice':
      return ['hub', 'label']
    case 'by a plain request':
      return ['address', 'firmware']
    default:
      return stepOf('hub').restsOn
  }
}

const words: Partial<Record<FactId, string>> = {
  hub: 'another hub',
  secrets: 'another password or key',
  topic: 'another topic',
  address: 'another address',
  label: 'another name, number or place',
  firmware: 'another firmware',
  template: 'other pins',
  powerOn: 'another power-on setting',
}

function changedSince(basis: HubTest['basis'], rests: readonly FactId[], now: Record<FactId, string>): string {
  return rests
    .filter((f) => (basis[f] ?? '') !== now[f])
    .map((f) => words[f] ?? f)
    .join(', ')
}

/** Channels that are tried one by one: those of the template, where it has more than one. */
export function testedChannels(view: UnitView): (number | null)[] {
  const template = templateOf(view)
  const channels = template ? outputsOf(template) : []
  return channels.length > 1 ? channels : [null]
}

/** The newest test of a direction on a channel; one that names no channel was of all there were. */
export const testOf = (view: UnitView, kind: Kind, channel: number | null): HubTest | undefined =>
  view.hubTests.find((t) => t.direction === kind && (channel === null || t.channel === null || t.channel === channel))

export const testStands = (view: UnitView, test: HubTest, now: Record<FactId, string>): boolean =>
  test.ok && changedSince(test.basis, evidenceRestsOn(view, test.direction), now) === ''

type Found = Pick<HubStep, 'standing' | 'seen' | 'at' | 'because'>
const nothing: Found = { standing: 'none', seen: '', at: null, because: '' }

function found(view: UnitView, test: HubTest | undefined, now: Record<FactId, string>): Found {
  if (!test) return nothing
  const changed = changedSince(test.basis, evidenceRestsOn(view, test.direction), now)
  return {
    standing: !test.ok ? 'failed' : changed ? 'stale' : 'stands',
    seen: test.seen,
    at: test.at,
    because: test.ok ? changed : '',
  }
}

const worst: readonly Standing[] = ['failed', 'none', 'stale', 'stands']

/** Every direction and channel together: they stand when each of them does. */
function bothWays(view: UnitView, now: Record<FactId, string>): Found {
  const each = testDirections
    .filter((d) => d === 'hub to unit' || hasInput(view))
    .flatMap((d) => testedChannels(view).map((channel) => found(view, testOf(view, d, channel), now)))
  const standing = worst.find((s) => each.some((f) => f.standing === s)) ?? 'none'
  const told = each.find((f) => f.standing === standing)
  const some = each.some((f) => f.standing !== 'none')
  return {
    standing,
    seen: standing === 'none' && some ? 'not every way and channel yet' : (told?.seen ?? ''),
    at: told?.at ?? null,
    because: told?.because ?? '',
  }
}

function afterPowerCut(view: UnitView, now: Record<FactId, string>): Found {
  const { data, done } = view.records.prove
  if (!data.powerCut) return nothing
  const seen = `${data.powerCut.seconds} s without power`
  if (data.powerCut.cameBack === null) return { ...nothing, seen }
  if (data.powerCut.cameBack !== 'as wanted') return { ...nothing, standing: 'failed', seen }
  if (!done) return { ...nothing, seen: `${seen}, not proven yet` }
  const changed = changedSince(done.basis, stepOf('prove').restsOn, now)
  return { standing: changed ? 'stale' : 'stands', seen, at: done.at, because: changed }
}

const evidenceOf: Partial<Record<HubState, Kind>> = {
  'credentials-set': 'details in the unit',
  discovered: 'shown by the hub',
  'named-placed': 'named and placed',
  automations: 'automations',
}

/** Where the unit stands with its hub. A state that falls takes those behind it along: they are kept, and stale. */
export function hubWay(view: UnitView): HubWay {
  const now = factsOfUnit(view)
  let fallen: HubState | null = null
  let reached: HubState | null = null
  const steps = hubStates.map((state): HubStep => {
    const kind = evidenceOf[state]
    const own =
      state === 'tested-both-ways'
        ? bothWays(view, now)
        : state === 'verified-after-power-cut'
          ? afterPowerCut(view, now)
          : found(view, kind && testOf(view, kind, null), now)
    const step = fallen && own.standing === 'stands' ? { ...own, standing: 'stale' as const, because: fallen } : own
    if (step.standing === 'stands') reached = state
    else fallen ??= state
    return { state, own: own.standing, ...step }
  })
  return { steps, reached }
}
