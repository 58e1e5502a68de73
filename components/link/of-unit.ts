import { isKnownFamily, type KnownFamily } from '@fresh-coat/core/families/families'
import { parseFlashId } from '@fresh-coat/core/flash/flash-id'
import { type Identity, lacks } from '@fresh-coat/core/link/identity'
import type { ExpectedUnit } from '@fresh-coat/core/link/whole-write'
import { flashBytesOf } from '@fresh-coat/core/steps/backup/facts'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import type { UnitView } from '@fresh-coat/core/unit/view'
import type { LinkAttempt } from './desk-base'

/** What the link has to know of a unit, and what the unit's record hears of the link. */

/** Its family, where the link speaks to it. */
export function linkFamily(view: UnitView): KnownFamily | null {
  const family = familyOf(view)?.family ?? null
  return family !== null && isKnownFamily(family) && !lacks({ family }, 'sync') ? family : null
}

/** What the chip has to agree with before anything is kept or erased. */
export function expectedOf(view: UnitView): ExpectedUnit {
  const fact = familyOf(view)
  const id = parseFlashId(view.records.backup.data.flashId)
  const mac = view.records.join.data.mac.trim().toLowerCase()
  return {
    family: fact?.family ?? null,
    mac: /^([0-9a-f]{2}:){5}[0-9a-f]{2}$/.test(mac) ? mac : null,
    flashId: id ? view.records.backup.data.flashId.replaceAll(/[^0-9a-f]/gi, '').toLowerCase() : null,
    flashBytes: flashBytesOf(view),
  }
}

/** The way in that was chosen for it goes over the adapter's lines. */
export const entersByLines = (view: UnitView): boolean =>
  (view.records.wire.data.entry ?? view.board?.entry ?? null) === 'autoreset'

/** What the chip says lands in the steps that lack it. */
export const linkSays =
  (view: UnitView, act: (command: string, input: Record<string, unknown>) => Promise<boolean>) =>
  ({ mac, flashId, crystalMHz, family }: Identity): Promise<boolean> =>
    act('note-identity', { unitId: view.id, step: 'backup', mac, flashId, crystalMHz, family })

/** What an attempt calls it. */
export const linkName = 'Fresh Coat, this page'

/** Each attempt writes its own row. */
export const linkLog =
  (view: UnitView, act: (command: string, input: Record<string, unknown>) => Promise<boolean>) =>
  ({ rate, ...attempt }: LinkAttempt): Promise<boolean> =>
    act('log-attempt', {
      unitId: view.id,
      ...attempt,
      baud: rate,
      minutes: Math.ceil(attempt.seconds / 60),
      tool: linkName,
    })
