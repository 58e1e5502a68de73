import { grouped, hexNumber, sizeWords } from '../bytes/text'
import type { Family } from '../families/families'
import { countsOf, type Marking } from '../identify/markings'
import { parseMac } from '../network/mac'
import { flashBytesOf } from '../steps/backup/facts'
import { familyOf } from '../steps/identify/facts'
import type { StepData } from '../unit/records'
import type { AttemptOutcome, ToolWords, UnitView } from '../unit/view'
import type { StepId } from '../unit/way'
import type { PasteOutcome } from './outcome'
import type { KnownMarking, PasteFact, PasteKind, PasteReading } from './paste'
import { linesOf } from './words'

/** What a tool's words have for the unit: which step lacks a fact, has it already, or says otherwise. */

/** `told`: shown, and kept with the text; no step has a place of its own for it. */
export type OfferState = 'new' | 'same' | 'differs' | 'told'

export interface Offer extends PasteFact {
  /** The step that wants it; `attempt`: it goes into the row of an attempt. */
  at: StepId | 'attempt'
  state: OfferState
  /** What the record has, in words; empty where it has nothing. */
  has: string
  /** The same kind stands there with another value: two tools, or two units, in one text. */
  several: boolean
}

const kindNames: Record<PasteKind, string> = {
  mac: 'MAC address',
  flashId: 'Flash id',
  flashBytes: 'Size of the flash',
  crystalMHz: 'Crystal',
  rate: 'Rate',
  offset: 'Offset',
  bytes: 'Length',
  percent: 'Came to',
  seconds: 'Took',
  family: 'Family',
}
export const kindName = (kind: PasteKind): string => kindNames[kind]

/** A fact as people say it: "1 MiB", "0x1000". */
export function valueWords({ kind, value }: Pick<PasteFact, 'kind' | 'value'>): string {
  if (value === null) return 'two that disagree'
  if (typeof value === 'string') return value
  switch (kind) {
    case 'flashBytes':
      return sizeWords(value)
    case 'crystalMHz':
      return `${value} MHz`
    case 'rate':
      return `${grouped(value)} baud`
    case 'offset':
      return hexNumber(value)
    case 'bytes':
      return `${grouped(value)} bytes`
    case 'percent':
      return `${value} %`
    default:
      return `${value} s`
  }
}

/** Crystals that Identify has an answer for. */
const knownCrystals: readonly unknown[] = [24, 26, 40]

const judged = (has: string, same: boolean): Pick<Offer, 'state' | 'has'> => ({
  state: has === '' ? 'new' : same ? 'same' : 'differs',
  has,
})

const hexDigits = (text: string): string => text.toLowerCase().replaceAll(/0x|[^0-9a-f]/g, '')

const crystalOf = (view: UnitView): string =>
  view.records.identify.data.evidence.find((e) => e.kind === 'crystal')?.value ?? ''

function placeOf(view: UnitView, { kind, value }: PasteFact): Pick<Offer, 'at' | 'state' | 'has'> {
  const { join, backup } = view.records
  switch (kind) {
    case 'mac': {
      const has = join.data.mac.trim()
      return { at: 'join', ...judged(has, parseMac(has) === value) }
    }
    case 'flashId': {
      const has = backup.data.flashId.trim()
      return { at: 'backup', ...judged(has, hexDigits(has) === hexDigits(String(value))) }
    }
    case 'flashBytes': {
      const bytes = flashBytesOf(view)
      const told = bytes === null ? { state: 'told' as const, has: '' } : judged(sizeWords(bytes), bytes === value)
      return { at: 'backup', ...told }
    }
    case 'crystalMHz': {
      const has = crystalOf(view)
      if (!knownCrystals.includes(value)) return { at: 'identify', state: 'told', has }
      return { at: 'identify', ...judged(has, has === String(value)) }
    }
    case 'family': {
      const has = familyOf(view)?.family ?? ''
      return { at: 'identify', ...(value === null ? { state: 'told' as const, has } : judged(has, has === value)) }
    }
    default:
      return { at: 'attempt', state: 'new', has: '' }
  }
}

/** Every fact of a paste with the step that wants it. */
export const offersOf = (view: UnitView, reading: PasteReading): Offer[] =>
  reading.facts.map((fact) => ({
    ...fact,
    ...placeOf(view, fact),
    several: reading.facts.some((other) => other.kind === fact.kind && other.value !== fact.value),
  }))

/** Kinds that a record has a place for. */
const kept: ReadonlySet<PasteKind> = new Set(['mac', 'flashId', 'crystalMHz', 'family'])

/** It can be taken into the record of its step. */
export const mayTake = (offer: Offer): offer is Offer & { at: StepId; value: string | number } =>
  kept.has(offer.kind) && offer.value !== null && (offer.state === 'new' || offer.state === 'differs')

/** Taken without asking twice: nobody has said it, and the text says it one way only. */
export const takenAtOnce = (offer: Offer): boolean => mayTake(offer) && offer.state === 'new' && !offer.several

/** What a chip says of itself over the link, as facts that steps may lack. */
export interface ChipSays {
  mac: string | null
  flashId: string | null
  crystalMHz: number | null
  family: Family | null
}

/** Facts of the chip that nobody has said yet; what a person said otherwise is never taken out of their hands. */
export function lackedOf(view: UnitView, says: ChipSays): Offer[] {
  const facts = (['mac', 'flashId', 'crystalMHz', 'family'] as const).flatMap((kind): PasteFact[] =>
    says[kind] === null ? [] : [{ kind, value: says[kind], line: 0 }],
  )
  // A printed marking stays the evidence that it is.
  const marked = view.records.identify.data.evidence.some((e) => e.kind === 'marking')
  return offersOf(view, { facts, outcome: null, outcomeLine: null, conflict: false }).filter(
    (o) => takenAtOnce(o) && !(o.kind === 'family' && marked),
  )
}

/** Markings of which every unit turned out to be of one family: of others, no text can say which. */
export const sureMarkings = (markings: readonly Marking[], without: number | null): KnownMarking[] =>
  markings.flatMap((marking) => {
    const [family, ...others] = Object.keys(countsOf(marking, without)) as Family[]
    return family && others.length === 0 ? [{ text: marking.text, family }] : []
  })

type Evidence = StepData['identify']['evidence'][number]
export type TakenRecords = { [S in 'identify' | 'backup' | 'join']?: Partial<StepData[S]> }

/** What taking facts changes in the records of their steps. Facts of an attempt change none. */
export function recordsWith(view: UnitView, facts: readonly Pick<PasteFact, 'kind' | 'value'>[]): TakenRecords {
  const seen: Evidence[] = facts.flatMap(({ kind, value }): Evidence[] => {
    if (kind === 'crystalMHz') return [{ kind: 'crystal', value: String(value) }]
    if (kind === 'family' && value !== null) return [{ kind: 'marking', counts: { [value]: 1 } }]
    return []
  })
  const { evidence } = view.records.identify.data
  const last = (kind: PasteKind) => facts.findLast((f) => f.kind === kind)?.value
  const [mac, flashId] = [last('mac'), last('flashId')]
  return {
    ...(seen.length > 0 && {
      identify: { evidence: [...evidence.filter((e) => !seen.some((s) => s.kind === e.kind)), ...seen] },
    }),
    ...(flashId !== undefined && { backup: { flashId: String(flashId) } }),
    ...(mac !== undefined && { join: { mac: String(mac) } }),
  }
}

/** How an attempt ended, as the outcome of the tool's words has it; `port`: the tool never reached the chip. */
const attemptOutcome: Record<PasteOutcome, AttemptOutcome> = {
  verified: 'done',
  done: 'done',
  'no-answer': 'no-answer',
  'bad-bytes': 'verify-failed',
  lost: 'lost-midway',
  port: 'cancelled',
}

export interface AttemptWords {
  outcome: AttemptOutcome | null
  /** The tool says that it compared; nobody else did. */
  verified: boolean
  seconds: number | null
  baud: number | null
  /** The line that says how it ended, as it was printed. */
  message: string
}

const longestMessage = 1000

/** The row of an attempt as the words fill it. */
export function attemptFrom(reading: PasteReading, text: string): AttemptWords {
  const number = (kind: PasteKind) => {
    const value = reading.facts.find((f) => f.kind === kind)?.value
    return typeof value === 'number' ? value : null
  }
  const line = reading.outcomeLine === null ? '' : (linesOf(text)[reading.outcomeLine - 1] ?? '')
  return {
    outcome: reading.outcome && attemptOutcome[reading.outcome],
    verified: reading.outcome === 'verified',
    seconds: number('seconds'),
    baud: number('rate'),
    message: line.trim().slice(0, longestMessage),
  }
}

/** The newest words that no attempt tells of yet: the next row fills itself from them; null where there are none. */
export function wordsNotLogged({ words, attempts, reads }: UnitView): ToolWords | null {
  const [newest] = words
  if (!newest || [...attempts, ...reads].some((a) => a.wordsId === newest.id || a.at > newest.at)) return null
  return newest
}
