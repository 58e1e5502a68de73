import type { StepRules } from '../../unit/rules'

export const learned: StepRules<'open'>['learned'] = (view) => {
  const { terminals, fasteners, parts, isolation, hazards, hazardsLooked, capacitorUf, bleederOhms } =
    view.records.open.data
  return {
    terminals,
    fasteners,
    parts,
    isolation: Object.keys(isolation).length > 0 ? isolation : null,
    // Nothing seen is worth knowing too, but an empty list teaches nothing.
    hazards: hazardsLooked ? hazards : null,
    capacitor: capacitorUf === null ? null : { microfarads: capacitorUf, ohms: bleederOhms },
  }
}

export const prefill: StepRules<'open'>['prefill'] = (board) => ({
  terminals: board?.terminals ?? [],
  fasteners: board?.fasteners ?? [],
  parts: board?.parts ?? [],
  isolation: board?.isolation ?? {},
  capacitorUf: board?.capacitor?.microfarads ?? null,
  bleederOhms: board?.capacitor?.ohms ?? null,
})
