import { type Instruction, instruction } from '../../boot/entry'
import { itemSentence } from '../../open/opening'
import { refitInstructions, refitTick } from '../../refit/of-unit'
import type { StepRules } from '../../unit/rules'
import { listed } from '../../unit/rules'
import type { UnitView } from '../../unit/view'
import { moduleGoesIn } from './conditions'

export function instructions(view: UnitView): Instruction[] {
  const { fasteners, parts } = view.records.open.data
  const { restored, partsBack } = view.records.close.data
  return [
    ...(moduleGoesIn(view) && !view.records.close.data.moduleBack
      ? [
          instruction('module-back', 'Solder the module into its place.', {
            look: 'Contact 1 where the photo has it; two opposite corners first, flat, then the rest.',
            otherwise: 'Take it off again rather than bend it down.',
            caution: true,
          }),
        ]
      : []),
    ...refitInstructions(view, 'close'),
    instruction('wires-off', 'Take every wire, jig and adapter off the board; solder wires come off too.', {
      look: 'Nothing leads out of the case that did not come with it.',
      caution: true,
    }),
    ...parts.filter((p) => !partsBack.includes(p)).map((p) => instruction(`part-${p}`, `Put the ${p} back.`, {})),
    ...[...fasteners]
      .reverse()
      .filter((f) => (restored[f.id] ?? 0) < f.count)
      .map((f) =>
        instruction(`back-${f.id}`, `Put back ${itemSentence(f)}.`, {
          look: f.restore === 'glue' ? 'Glue it, and write down when.' : f.note,
          caution: f.restore === 'glue',
        }),
      ),
  ]
}

export const tick: StepRules<'close'>['tick'] = (view, id, done, reading) => {
  if (id === 'module-back') return { moduleBack: done }
  const measured = refitTick(view, 'close', id, done, reading)
  if (measured) return measured
  const what = id.slice(id.indexOf('-') + 1)
  if (id.startsWith('part-')) return { partsBack: listed(view.records.close.data.partsBack, what, done) }
  const fastener = view.records.open.data.fasteners.find((f) => f.id === what)
  if (!id.startsWith('back-') || !fastener) return null
  const { [what]: before = 0, ...others } = view.records.close.data.restored
  return { restored: done ? { ...others, [what]: Math.max(before, fastener.count) } : others }
}
