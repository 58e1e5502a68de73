import { type Instruction, instruction } from '../../boot/entry'
import { itemSentence } from '../../open/opening'
import { refitConditions } from '../../refit/of-unit'
import type { StepRules } from '../../unit/rules'
import { listed } from '../../unit/rules'
import type { UnitView } from '../../unit/view'

export function instructions(view: UnitView): Instruction[] {
  const { fasteners, parts } = view.records.open.data
  const { restored, partsBack } = view.records.close.data
  const measured = refitConditions(view, 'close').every((c) => c.met)
  return [
    ...(measured
      ? []
      : [
          instruction('refit', 'Measure the contacts with the meter, on the page, before any power.', {
            look: 'No bridge between neighbours, and every contact joined to its pad.',
            otherwise: 'Mend it, and measure again; it is not ticked for you.',
            caution: true,
          }),
        ]),
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

export const tick: StepRules<'close'>['tick'] = (view, id, done) => {
  const what = id.slice(id.indexOf('-') + 1)
  if (id.startsWith('part-')) return { partsBack: listed(view.records.close.data.partsBack, what, done) }
  const fastener = view.records.open.data.fasteners.find((f) => f.id === what)
  if (!id.startsWith('back-') || !fastener) return null
  const { [what]: before = 0, ...others } = view.records.close.data.restored
  return { restored: done ? { ...others, [what]: Math.max(before, fastener.count) } : others }
}
