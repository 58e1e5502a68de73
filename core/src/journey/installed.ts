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

/** Releases of the radio co-processor carry this build name; they are a target of their own. */
export const radioBuild = 'radio'

interface Target {
  installed: Installed | null
  releases: Release[]
  scheme: 'single' | 'dual' | 'external'
  room: number | null
  missing: { installed: string; room: string }
}

function targetOf(view: UnitView, releases: readonly Release[]): Target {
  const { target, scheme, updateEnd, slotBytes, radio, radioBytes } = view.records.watch.data
  if (target === 'radio')
    return {
      installed: radio,
      releases: releases.filter((r) => r.build === radioBuild),
      scheme: 'external',
      room: radioBytes,
      missing: {
        installed: 'What its radio runs is not known yet.',
        room: 'The room in the radio is not known: enter it.',
      },
    }
  return {
    installed: installedOf(view),
    releases: releases.filter((r) => r.build !== radioBuild),
    scheme,
    room: scheme === 'dual' ? slotBytes : (updateEnd ?? (flashBytesOf(view) === 1048576 ? usualUpdateEnd : null)),
    missing: {
      installed: 'What is installed is not known yet.',
      room:
        scheme === 'dual'
          ? 'The size of the other slot is not known: enter it.'
          : 'Where files or settings begin on this chip is not known: enter it.',
    },
  }
}

/** What can be chosen for the target that is being brought up to date. */
export const releasesFor = (view: UnitView, releases: readonly Release[]): Release[] =>
  targetOf(view, releases).releases

/**
 * The way from what is installed to a release, by the releases that the profile names. Null while something is not known;
 * `why` then says what.
 */
export function updateOf(
  view: UnitView,
  all: readonly Release[],
  wish: UpdateWish | null,
): { path: UpgradePath | null; why: string } {
  const { installed, releases, scheme, room, missing } = targetOf(view, all)
  const family = familyOf(view)?.family
  if (!installed) return { path: null, why: missing.installed }
  if (!family) return { path: null, why: 'The family is not known yet.' }
  if (!wish) return { path: null, why: 'Choose the release that should run.' }
  if (room === null) return { path: null, why: missing.room }
  const known = releases.find(
    (r) => r.family === family && r.version === installed.version && r.build === installed.build,
  )
  // Beside a radio's program nothing is staged: its size does not matter there.
  const size = known?.bytes ?? (scheme === 'external' ? 1 : lastWrite(view)?.bytes)
  if (!size)
    return {
      path: null,
      why: `${installed.version}/${installed.build} is not among the releases, and its size is not known.`,
    }
  const outcome = planUpgrade({
    unit: {
      family,
      scheme,
      ...(scheme === 'single' ? { updateEnd: room } : { slotBytes: room }),
      hostVersion: scheme === 'external' ? (installedOf(view)?.version ?? null) : null,
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
    allowDowngrade: view.records.watch.data.allowDowngrade,
  })
  return outcome.ok ? { path: outcome.value, why: '' } : { path: null, why: outcome.faults[0]?.message ?? '' }
}
