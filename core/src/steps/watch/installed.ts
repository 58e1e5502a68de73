import { hasPartitions } from '../../families/families'
import type { Release } from '../../flash/release'
import { planUpgrade, type UpgradePath } from '../../flash/upgrade'
import { chipLayoutOf, updateRoomOf } from '../../unit/chip-layout'
import type { StepData } from '../../unit/records'
import type { Attempt, UnitView } from '../../unit/view'
import { flashBytesOf } from '../backup/facts'
import { familyOf } from '../identify/facts'
import { firmwareOf, lastWrite } from '../write/facts'
import { mostRan } from './record'

export type Installed = NonNullable<StepData['watch']['installed']>

const hows = {
  written: 'from the last good write',
  reported: 'as the unit reported it',
  said: 'as somebody said',
} as const

export const howSays = (how: Installed['how']): string => hows[how]

/** First byte of files or settings on a 1 MiB chip of a single-slot unit without files; a profile may differ. */
export const usualUpdateEnd = 0xfb000

/** A good write as what runs after it; null when it was not said what was written. */
function asInstalled(write: Attempt): Installed | null {
  const found = /^(\S+)\s+(\S+)/.exec(write.firmware)
  return found
    ? {
        firmware: found[1] as string,
        version: found[2] as string,
        build: write.build ?? '',
        how: 'written',
        at: write.at,
      }
    : null
}

/** Recorded by hand or from the unit; else what the last good write put there. Newest wins. */
export function installedOf(view: UnitView): Installed | null {
  const noted = view.records.watch.data.installed
  const write = lastWrite(view)
  const written = write && firmwareOf(view) !== '' ? asInstalled(write) : null
  if (noted && (!written || Date.parse(noted.at) >= Date.parse(written.at))) return noted
  return written ?? noted
}

/** 9.4.1/full; the version alone while the build is not known. */
export const installedName = (i: { version: string; build: string }): string =>
  [i.version, i.build].filter(Boolean).join('/')

export interface Ran extends Installed {
  target: 'main' | 'radio'
  host: string
}

/** The record after something was noted to run on the main processor or on the radio beside it. */
export function noteInstalled(view: UnitView, target: Ran['target'], now: Installed): Partial<StepData['watch']> {
  const { ran } = view.records.watch.data
  const main = installedOf(view)
  const host = target === 'radio' && main ? `${main.firmware} ${installedName(main)}` : ''
  return {
    ...(target === 'radio' ? { radio: now } : { installed: now }),
    ran: [...ran, { ...now, target, host }].slice(-mostRan),
  }
}

/** Everything a unit is known to have run, newest first: good writes, and what was noted. */
export function ranOf(view: UnitView): Ran[] {
  const { ran, installed, radio } = view.records.watch.data
  const writes = view.attempts.flatMap((a): Ran[] => {
    const written = a.outcome === 'done' ? asInstalled(a) : null
    return written ? [{ ...written, target: 'main', host: '' }] : []
  })
  // Records of before the list was kept hold only the newest.
  const alone = (['main', 'radio'] as const).flatMap((target): Ran[] => {
    const now = target === 'main' ? installed : radio
    return now && !ran.some((r) => r.target === target && r.at === now.at) ? [{ ...now, target, host: '' }] : []
  })
  return [...writes, ...ran, ...alone].sort((a, b) => Date.parse(b.at) - Date.parse(a.at))
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
  /** Why there is no way over the air at all, or what is not known yet. */
  missing: { installed: string; room: string }
}

export interface UpdateScheme {
  scheme: 'single' | 'dual'
  /** How that is known. */
  how: 'said' | 'layout' | 'family'
  /** Bytes there are for it: up to where files or settings begin, or the slot that is not running. */
  room: number | null
  /** The slot an update goes into, by the layout on the chip. */
  slot: string
  /** Why updates over the air cannot work, or which number is missing; empty when neither. */
  why: string
}

/** How a unit takes updates: as somebody said, else as the layout on its chip says, else as its family usually does. */
export function updateSchemeOf(view: UnitView): UpdateScheme {
  const { scheme: said, updateEnd, slotBytes } = view.records.watch.data
  const family = familyOf(view)?.family
  const flash = flashBytesOf(view)
  const layout = chipLayoutOf(view, flash)
  const scheme = said ?? (layout || hasPartitions(family) ? 'dual' : 'single')
  const how = said ? 'said' : layout ? 'layout' : 'family'
  if (scheme === 'single') {
    const room = updateEnd ?? (flash === 1048576 ? usualUpdateEnd : null)
    const why = room === null ? 'Where files or settings begin on this chip is not known: enter it.' : ''
    return { scheme, how, room, slot: '', why }
  }
  if (slotBytes !== null) return { scheme, how, room: slotBytes, slot: '', why: '' }
  if (!layout) return { scheme, how, room: null, slot: '', why: 'The size of the other slot is not known: enter it.' }
  const { slot, why } = updateRoomOf(layout.table)
  return { scheme, how, room: slot?.length ?? null, slot: slot?.label ?? '', why }
}

function targetOf(view: UnitView, releases: readonly Release[]): Target {
  const { target, radio, radioBytes } = view.records.watch.data
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
  const { scheme, room, why } = updateSchemeOf(view)
  return {
    installed: installedOf(view),
    releases: releases.filter((r) => r.build !== radioBuild),
    scheme,
    room,
    missing: { installed: 'What is installed is not known yet.', room: why },
  }
}

/** The release that is installed: by its name, else by the size of what was written, else the only one of its version. */
function installedRelease(releases: readonly Release[], installed: Installed, bytes: number | undefined) {
  const same = releases.filter((r) => r.version === installed.version)
  if (installed.build !== '') return same.find((r) => r.build === installed.build)
  return same.find((r) => installed.how === 'written' && r.bytes === bytes) ?? (same.length === 1 ? same[0] : undefined)
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
  const known = installedRelease(
    releases.filter((r) => r.family === family),
    installed,
    lastWrite(view)?.bytes,
  )
  // Only above a single slot is anything staged: elsewhere the size of what runs does not matter.
  const written = installed.how === 'written' ? lastWrite(view)?.bytes : undefined
  const size = known?.bytes ?? (scheme === 'single' ? written : 1)
  if (!size)
    return {
      path: null,
      why: `${installedName(installed)} is not among the releases, and its size is not known.`,
    }
  const outcome = planUpgrade({
    unit: {
      family,
      scheme,
      ...(scheme === 'single' ? { updateEnd: room } : { slotBytes: room }),
      layout: known?.layout ?? null,
      hostVersion: scheme === 'external' ? (installedOf(view)?.version ?? null) : null,
      current: {
        ...(known ?? { acceptsGzip: false }),
        version: installed.version,
        build: known?.build ?? (installed.build || 'written'),
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
