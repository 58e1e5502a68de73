import { type Definition, type Rule, settled } from '../../behaviour/definition'
import { definitionOf, loadChannelOf, phasesOf, strandedRules, usualRules } from '../../behaviour/of-template'
import { type BehaviourRun, type Entry, Loop, runUnit } from '../../behaviour/run'
import type { PlacedFinding } from '../../edge/finding'
import type { LoadChannel } from '../../load/states'
import { activeLevel, isIdle, type PinTemplate } from '../../pins/template'
import { restsAsDone } from '../../unit/look'
import type { UnitView } from '../../unit/view'
import { templateOf } from '../pins/facts'

/** Until a unit of the family has been timed. */
const usualBootMs = 1500

/** The rules that hold: those that somebody set, or the usual ones of its template. */
export function rulesOf(view: UnitView, template: PinTemplate): Rule[] {
  return view.records.behaviour.data.rules ?? usualRules(template)
}

/** What the simulator takes of this unit; null without a template. Rules that name what is gone are left out. */
export function behaviourOf(view: UnitView): { template: PinTemplate; def: Definition; stranded: Rule[] } | null {
  const template = templateOf(view)
  if (!template) return null
  const { channels, inputs, travels } = view.records.behaviour.data
  const def = definitionOf(template, { channels, inputs, travels, rules: rulesOf(view, template), bootMs: usualBootMs })
  const stranded = strandedRules(def)
  return { template, def: { ...def, rules: (def.rules ?? []).filter((r) => !stranded.includes(r)) }, stranded }
}

/** What it would do over a timeline; null where rules set each other off without end. */
export function simulated(def: Definition, timeline: readonly Entry[], until: number): BehaviourRun | null {
  const known = new Set((def.inputs ?? []).map((i) => i.id))
  const fits = timeline.filter((e) => !('input' in e) || known.has(e.input))
  try {
    return runUnit(settled(def), fits, until)
  } catch (cause) {
    if (cause instanceof Loop) return null
    throw cause
  }
}

/** What a channel hangs on, as one text: its pins with what they do and their level. */
export const pinsOfChannel = (view: UnitView, ch: number): string =>
  (templateOf(view)?.pins ?? [])
    .filter((p) => p.ch === ch && !isIdle(p.fn))
    .map((p) => `${p.pin} ${p.fn} ${activeLevel(p)}`)
    .sort()
    .join(', ')
    .slice(0, 400)

/** Was the channel tried as it is now? On other pins nobody has tried it. */
export const isTried = (
  view: UnitView,
  { ch, tried, triedOn }: UnitView['records']['behaviour']['data']['channels'][number],
): boolean => tried && (triedOn === undefined ? restsAsDone(view, 'behaviour') : triedOn === pinsOfChannel(view, ch))

/** Channels whose load somebody named, as the table of five phases takes them. */
export function loadsOf(view: UnitView): LoadChannel[] {
  const template = templateOf(view)
  if (!template) return []
  return view.records.behaviour.data.channels.flatMap(({ ch, onPower, load }) => {
    const channel = load && loadChannelOf(template, ch, onPower, load)
    return channel ? [channel] : []
  })
}

/** What speaks against a load, without what somebody decided to live with. */
export function openLoadFindings(view: UnitView): PlacedFinding<string>[] {
  const { decided } = view.records.behaviour.data
  return loadsOf(view)
    .flatMap((c) => phasesOf(c).findings)
    .filter((f) => !decided.some((d) => d.code === f.code && d.at === f.at))
}
