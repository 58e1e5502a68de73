/** Half an hour that shows which raw value counts energy: with what, and what it will have counted (brief 04 §1). */

export const runLoads = ['lamp', 'heater', 'kettle', 'motor', 'other'] as const
export type RunLoad = (typeof runLoads)[number]
export const runMinutes = 30

/** Why it is not used for a run; null where it may be. */
const unfit: Partial<Record<RunLoad, string>> = {
  kettle:
    'It boils dry, or switches itself off before the time: nobody can leave it on, and nobody knows what it used.',
  motor: 'What it takes wanders with what it moves: half an hour of it is no known energy.',
  other: 'What it takes in half an hour is not known. Use a lamp with a filament, or a heater with somebody beside it.',
}

export interface EnergyRun {
  refused: string | null
  /** kWh after the time; null while the watts are not known. */
  kWh: number | null
  /** What has to hold while it runs. */
  care: string
}

/** @param watts of the load, as printed or measured; null where nobody knows */
export function energyRun(load: RunLoad, watts: number | null): EnergyRun {
  const refused = unfit[load] ?? (watts !== null && watts <= 0 ? 'Nothing is counted without a load.' : null)
  return {
    refused,
    kWh: refused !== null || watts === null ? null : (watts * runMinutes) / 60 / 1000,
    care:
      load === 'heater'
        ? 'Somebody stays beside it the whole time, and nothing lies on it.'
        : 'Somebody is there, and it stands where nothing can fall on it.',
  }
}
