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
  const cut = new Set<HeardRestart>()
  let from = 0
  for (let to = 0; to < inOrder.length; to++) {
    const last = inOrder[to] as HeardRestart
    while (last.at - (inOrder[from] as HeardRestart).at > houseMs) from++
    const together = inOrder.slice(from, to + 1)
    if (new Set(together.map((r) => r.unit)).size >= houseUnits) for (const r of together) cut.add(r)
  }
  return inOrder.filter((r) => !cut.has(r))
}

/** Releases as `fleet survival` takes them, the older versions first. */
export function releaseRecords(heard: readonly HeardOnRelease[], restarts: readonly HeardRestart[]): ReleaseRecord[] {
  const versions = [...new Set(heard.map((h) => h.version))].filter((v) => v.trim() !== '').sort(compareInstalled)
  const counted = withoutHouseCuts(restarts)
  return versions.map((version) => ({
    version,
    units: [...new Set(heard.filter((h) => h.version === version).map((h) => h.unit))].map((id) => ({
      id,
      days: heard.filter((h) => h.version === version && h.unit === id).reduce((sum, h) => sum + h.hours, 0) / 24,
      restarts: counted.filter((r) => r.version === version && r.unit === id).length,
    })),
  }))
}

/** What is heard of releases up to `of`; null while nothing was heard of it. */
export function survivalOf(releases: readonly ReleaseRecord[], of: string): Survival | null {
  const upTo = releases.filter((r) => compareInstalled(r.version, of) <= 0)
  const own = upTo.find((r) => compareInstalled(r.version, of) === 0)
  if (!own) return null
  const found = fleetSurvival({ releases: upTo, of: own.version })
  return found.ok ? found.value : null
}
