import type { ImageInspection } from '../image/inspect'
import { backupOf, bootOf, familyOf, flashBytesOf, padsOf, templateOf } from './facts'
import { emptyRecord, type StepData } from './records'
import type { StepId } from './steps'
import type { BoardKnowledge, UnitView } from './view'

/** Facts of a board that one unit can teach; the unit is their evidence. */
export const boardFactKeys = [
  'ratedAmps',
  'terminals',
  'fasteners',
  'parts',
  'isolation',
  'capacitor',
  'family',
  'pads',
  'entry',
  'flashBytes',
  'provenModes',
  'template',
] as const
export type BoardFactKey = (typeof boardFactKeys)[number]
export interface LearnedFact {
  key: BoardFactKey
  value: unknown
}

/** What finishing `step` on this unit teaches about its board. */
export function learnedFrom(view: UnitView, step: StepId): LearnedFact[] {
  const out: LearnedFact[] = []
  const learn = (key: BoardFactKey, value: unknown) => {
    if (value !== null && value !== undefined && value !== '' && !(Array.isArray(value) && value.length === 0))
      out.push({ key, value })
  }
  const { arrive, open, wire } = view.records
  if (step === 'arrive') learn('ratedAmps', arrive.data.ratedAmps)
  if (step === 'open') {
    learn('terminals', open.data.terminals)
    learn('fasteners', open.data.fasteners)
    learn('parts', open.data.parts)
    if (Object.keys(open.data.isolation).length > 0) learn('isolation', open.data.isolation)
    if (open.data.capacitorUf !== null)
      learn('capacitor', { microfarads: open.data.capacitorUf, ohms: open.data.bleederOhms })
  }
  if (step === 'identify') {
    const fact = familyOf(view)
    // Unsplit, the board is known as variant A: that way of working harms neither.
    if (fact && fact.how !== 'board') learn('family', fact.verdict === 'arm968_unsplit' ? 'ARM968-A' : fact.family)
  }
  if (step === 'pads') {
    const { pads, pitchMm, bootBy, regulator5v, rows = 1, onPhoto = null, readings = [] } = padsOf(view)
    learn('pads', { pads, pitchMm, bootBy, regulator5v, rows, onPhoto, readings })
  }
  if (step === 'wire') learn('entry', wire.data.entry)
  if (step === 'backup' && backupOf(view).state === 'verified')
    learn('flashBytes', flashBytesOf(view) ?? backupOf(view).bytes)
  if (step === 'start' && bootOf(view)?.mode === 'flash') {
    // A start that was seen proves the mode of the image that was written, for every unit of the board.
    const mode = (view.image?.inspection as ImageInspection | null)?.images[0]?.mode
    if (mode && !view.board?.provenModes.includes(mode))
      learn('provenModes', [...(view.board?.provenModes ?? []), mode])
  }
  if (step === 'pins') learn('template', templateOf(view))
  return out
}

/** Of a known board, a step begins with everything known filled in. */
export function prefilled<S extends StepId>(step: S, board: BoardKnowledge | null): StepData[S] {
  const empty = emptyRecord(step)
  if (!board) return empty
  const known: Partial<{ [K in StepId]: Partial<StepData[K]> }> = {
    arrive: { ratedAmps: board.ratedAmps },
    open: {
      terminals: board.terminals ?? [],
      fasteners: board.fasteners ?? [],
      parts: board.parts ?? [],
      isolation: board.isolation ?? {},
      capacitorUf: board.capacitor?.microfarads ?? null,
      bleederOhms: board.capacitor?.ohms ?? null,
    },
    identify: { evidence: Object.keys(board.markings).length > 0 ? [{ kind: 'marking', counts: board.markings }] : [] },
    // The readings were taken on another unit: they stay with the board, as its evidence.
    pads: board.pads ? { ...board.pads, readings: [] } : {},
    wire: { entry: board.entry },
    pins: { template: board.template },
    meter: { noMeter: !board.hasMeter },
  }
  return { ...empty, ...(known[step] as object | undefined) } as StepData[S]
}
