import { z } from 'zod'
import { bytesOfHex, hexOf } from '../bytes/text'
import { finding } from '../edge/finding'
import { factsOf } from '../families/families'
import { eraseOf, sectorBytes } from './erase'
import type { LinkFinding, WriteNote } from './flow'
import type { Identity } from './identity'

/**
 * What a write leaves behind while it goes on, so that a half written chip is known for one and can be finished: kept before
 * anything is erased, and at every sector (brief 06 §5).
 */
const offset = z.number().int().min(0)
export const Journal = z.object({
  journal: z.literal(1),
  unit: z.string().nullable(),
  mac: z.string().nullable(),
  family: z.string(),
  flashId: z.string().nullable(),
  flashBytes: z.number().int().positive(),
  file: z.object({ sha256: z.string(), bytes: z.number().int().positive() }),
  regions: z
    .array(
      z.object({
        offset,
        bytes: z.number().int().positive(),
        eraseFrom: offset,
        eraseTo: offset,
        confirmedBlocks: z.number().int().min(0),
        carried: z.object({ offset, hex: z.string().regex(/^([0-9a-f]{2})*$/i) }).nullable(),
      }),
    )
    .min(1),
  state: z.enum(['erasing', 'writing', 'verifying', 'done', 'verify-failed', 'lost-midway', 'cancelled']),
  startedAt: z.string(),
  updatedAt: z.string(),
  rate: z.number().int().positive(),
  resumes: z.number().int().min(0),
})
export type Journal = z.output<typeof Journal>
export type JournalState = Journal['state']

/** Is the chip half written by it? */
export const isOpen = ({ state }: Journal): boolean => state !== 'done'

/** Was it finished after all, with whatever tool? A write that is done says so, also where the journal could not be taken away. */
export const wasFinished = (
  journal: Journal,
  attempts: readonly { action?: string | undefined; outcome: string; at: string }[],
): boolean =>
  attempts.some((a) => a.action !== 'read' && a.outcome === 'done' && Date.parse(a.at) >= Date.parse(journal.updatedAt))

export interface Begun {
  unit: string | null
  who: Identity
  file: { sha256: string; bytes: number }
  offset: number
  rate: number
  at: string
}

/** A journal of a write that has erased nothing yet. */
export function beginJournal({ unit, who, file, offset, rate, at }: Begun): Journal {
  const sectors = Math.ceil(file.bytes / sectorBytes)
  const rule = (who.family && factsOf(who.family).link?.erase) || 'as-told'
  const { erased } = eraseOf(rule, offset / sectorBytes, sectors)
  return {
    journal: 1,
    unit,
    mac: who.mac,
    family: who.family ?? '',
    flashId: who.flashId,
    flashBytes: who.flashBytes ?? 0,
    file,
    regions: [
      {
        offset,
        bytes: file.bytes,
        eraseFrom: offset,
        eraseTo: offset + erased * sectorBytes,
        confirmedBlocks: 0,
        carried: null,
      },
    ],
    state: 'erasing',
    startedAt: at,
    updatedAt: at,
    rate,
    resumes: 0,
  }
}

/** The journal with what is confirmed by now. */
export function noted(journal: Journal, note: WriteNote, at: string): Journal {
  const [region, ...others] = journal.regions
  if (!region) return journal
  const first = {
    ...region,
    eraseFrom: note.offset,
    eraseTo: note.offset + Math.ceil(note.bytes / sectorBytes) * sectorBytes,
    confirmedBlocks: note.confirmedBlocks,
    carried: note.carried && { offset: note.carried.offset, hex: hexOf(note.carried.bytes) },
  }
  return { ...journal, regions: [first, ...others], state: 'writing', updatedAt: at }
}

export const inState = (journal: Journal, state: JournalState, at: string): Journal => ({
  ...journal,
  state,
  updatedAt: at,
})

/** How far it had come, for going on. */
export function resumedFrom(journal: Journal): Pick<WriteNote, 'confirmedBlocks' | 'carried'> {
  const region = journal.regions[0]
  return {
    confirmedBlocks: region?.confirmedBlocks ?? 0,
    carried: region?.carried
      ? { offset: region.carried.offset, bytes: bytesOfHex(region.carried.hex) ?? new Uint8Array(0) }
      : null,
  }
}

const no = (code: string, message: string, next: string): LinkFinding => ({
  ...finding(code, 'error', message, 'Nothing was erased.', next),
  at: null,
})

/** What speaks against going on with a journal on this chip and with this file. */
export function resumeFindings(
  journal: Journal,
  who: Identity,
  file: { sha256: string; bytes: number },
  offset: number,
): LinkFinding[] {
  const out: LinkFinding[] = []
  const region = journal.regions[0]
  if (journal.file.sha256 !== file.sha256 || journal.file.bytes !== file.bytes || region?.offset !== offset)
    out.push(
      no(
        'journal-file',
        'The journal is of another file or place than this one.',
        'Go on with the file that was begun, or begin anew.',
      ),
    )
  if (who.family !== null && journal.family !== who.family)
    out.push(
      no(
        'family-mismatch',
        `The write was begun on ${journal.family}, this is ${who.family}.`,
        'Take the unit that was begun.',
      ),
    )
  if (journal.mac !== who.mac)
    out.push(
      no(
        'link-other-unit',
        `The write was begun on ${journal.mac ?? 'an unknown unit'}, this is ${who.mac ?? 'unknown'}.`,
        'Take the unit that was begun.',
      ),
    )
  if (journal.flashId !== who.flashId)
    out.push(
      no(
        'flash-id-mismatch',
        `The flash was ${journal.flashId ?? 'unknown'}, this is ${who.flashId ?? 'unknown'}.`,
        'Take the unit that was begun.',
      ),
    )
  return out
}
