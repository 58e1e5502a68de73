import type { Release } from '../flash/release'
import { planUpgrade, type UpgradePath } from '../flash/upgrade'
import { familyOf, firmwareOf, flashBytesOf, lastWrite } from './facts'
import type { StepData } from './records'
import type { UnitView } from './view'

/** What runs on a unit now, how that is known, and the way to what should run. */

export type Installed = NonNullable<StepData['watch']['installed']>
const hows = {
  written: 'from the last good write',
  reported: 'as the unit reported it',
  said: 'as somebody said',
} as const
export const howSays = (how: Installed['how']): string => hows[how]

/** First byte of files or settings on a 1 MiB chip of a single-slot unit without files; a profile may differ. */
export const usualUpdateEnd = 0xfb000

/** Recorded by hand or from the unit; else what the last good write put there. Newest wins. */
export function installedOf(view: UnitView): Installed | null {
  const noted = view.records.watch.data.installed
  const write = lastWrite(view)
  const text = firmwareOf(view)
  const found = /^(\S+)\s+(\S+)/.exec(text)
  const written: Installed | null =
    write && found
      ? { firmware: found[1] as string, version: found[2] as string, build: 'full', how: 'written', at: write.at }
      : null
  if (noted && (!written || Date.parse(noted.at) >= Date.parse(written.at))) return noted
  return written ?? noted
}

export interface UpdateWish {
  version: string
  build: string
}

/**
 * The way from what is installed to a release, by the releases that the profile names. Null while something is not known;
 * `why` then says what.
 */
export function updateOf(
  view: UnitView,
  releases: readonly Release[],
  wish: UpdateWish | null,
): { path: UpgradePath | null; why: string } {
  const installed = installedOf(view)
  const family = familyOf(view)?.family
  if (!installed) return { path: null, why: 'What is installed is not known yet.' }
  if (!family) return { path: null, why: 'The family is not known yet.' }
  if (!wish) return { path: null, why: 'Choose the release that should run.' }
  const { scheme, updateEnd, slotBytes, allowDowngrade } = view.records.watch.data
  const known = releases.find(
    (r) => r.family === family && r.version === installed.version && r.build === installed.build,
  )
  const size = known?.bytes ?? lastWrite(view)?.bytes
  if (!size)
    return {
      path: null,
      why: `${installed.version}/${installed.build} is not among the releases, and its size is not known.`,
    }
  const end = updateEnd ?? (flashBytesOf(view) === 1048576 ? usualUpdateEnd : null)
  if (scheme === 'single' && end === null)
    return { path: null, why: 'Where files or settings begin on this chip is not known: enter it.' }
  if (scheme !== 'single' && slotBytes === null)
    return { path: null, why: 'The size of the other slot is not known: enter it.' }
  const outcome = planUpgrade({
    unit: {
      family,
      scheme,
      updateEnd: end,
      slotBytes,
      current: {
        ...(known ?? { acceptsGzip: false }),
        version: installed.version,
        build: installed.build,
        family,
        bytes: size,
      },
    },
    target: wish,
    releases,
    allowDowngrade,
  })
  return outcome.ok ? { path: outcome.value, why: '' } : { path: null, why: outcome.faults[0]?.message ?? '' }
}
