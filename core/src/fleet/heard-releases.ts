import { fleetSurvival, type ReleaseRecord, type Survival } from './survival'
import { compareInstalled } from './waves'

/** How releases fare, from what the listener heard (brief 07 §9): unit-days on each, and restarts that were no power cut of the house. */

export interface HeardOnRelease {
  unit: string
  version: string
  /** Hours in which it was heard while it ran that. */
  hours: number
}
export interface HeardRestart {
  unit: string
  version: string
  /** ms */
  at: number
}

/** So many units within so short a time: the house lost its power, and no release is to blame. */
const houseUnits = 3
const houseMs = 60_000

/** Restarts without those in which three or more units began anew within a minute. */
export function withoutHouseCuts(restarts: readonly HeardRestart[]): HeardRestart[] {
  const inOrder = [...restarts].sort((a, b) => a.at - b.at)
  const cut = new Uint8Array(inOrder.length)
  // How often each unit began anew within the minute that ends with the one that is looked at.
  const within = new Map<string, number>()
  let [from, marked] = [0, 0]
  for (const [to, last] of inOrder.entries()) {
    within.set(last.unit, (within.get(last.unit) ?? 0) + 1)
    for (let first = inOrder[from] as HeardRestart; last.at - first.at > houseMs; ) {
      const left = (within.get(first.unit) as number) - 1
      if (left === 0) within.delete(first.unit)
      else within.set(first.unit, left)
      first = inOrder[++from] as HeardRestart
    }
    if (within.size < houseUnits) continue
    cut.fill(1, Math.max(from, marked), to + 1)
    marked = to + 1
  }
  return inOrder.filter((_, i) => cut[i] === 0)
}

/** Releases as `fleet survival` takes them, the older versions first. */
export function releaseRecords(heard: readonly HeardOnRelease[], restarts: readonly HeardRestart[]): ReleaseRecord[] {
  type Unit = ReleaseRecord['units'][number]
  const releases = new Map<string, Map<string, Unit>>()
  for (const { version, unit, hours } of heard) {
    if (version.trim() === '') continue
    const units = releases.get(version) ?? new Map<string, Unit>()
    releases.set(version, units)
    const known = units.get(unit)
    units.set(unit, { id: unit, days: (known?.days ?? 0) + hours / 24, restarts: 0 })
  }
  for (const { version, unit } of withoutHouseCuts(restarts)) {
    const own = releases.get(version)?.get(unit)
    if (own) own.restarts++
  }
  return [...releases]
    .sort(([a], [b]) => compareInstalled(a, b))
    .map(([version, units]) => ({ version, units: [...units.values()] }))
}

/** What is heard of releases up to `of`; null while nothing was heard of it. */
export function survivalOf(releases: readonly ReleaseRecord[], of: string): Survival | null {
  const upTo = releases.filter((r) => compareInstalled(r.version, of) <= 0)
  const own = upTo.find((r) => compareInstalled(r.version, of) === 0)
  if (!own) return null
  const found = fleetSurvival({ releases: upTo, of: own.version })
  return found.ok ? found.value : null
}
