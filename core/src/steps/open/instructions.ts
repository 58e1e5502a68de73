import { type Instruction, instruction } from '../../boot/entry'
import { itemSentence } from '../../open/opening'
import type { StepRules } from '../../unit/rules'
import { listed } from '../../unit/rules'
import type { UnitView } from '../../unit/view'
import { missingPhotos, moduleComesOff } from './conditions'

export function instructions(view: UnitView): Instruction[] {
  const { fasteners, taken, parts } = view.records.open.data
  return [
    ...missingPhotos(view).map((tag) =>
      instruction(`photo-${tag}`, `Take a photo: ${tag.replaceAll('_', ' ')}.`, {
        look: 'Sharp enough to read the legend on it.',
      }),
    ),
    ...fasteners
      .filter((f) => !taken.includes(f.id))
      .map((f) =>
        instruction(`out-${f.id}`, `Take out ${itemSentence(f)}.`, {
          look: f.note,
          otherwise:
            f.restore === 'glue'
              ? 'This has to be glued again before any mains.'
              : f.kind === 'clip'
                ? 'Start at the end opposite the socket, and count what breaks.'
                : '',
          caution: f.restore === 'glue',
        }),
      ),
    ...(moduleComesOff(view) && !view.records.open.data.moduleOff
      ? [
          instruction('module-off', 'Take the module off its board.', {
            look: 'Flux on all contacts, one row, then the other; it comes off by itself.',
            otherwise: 'Never pull while anything still holds: torn pads are the usual loss.',
            caution: true,
          }),
        ]
      : []),
    ...(parts.length > 0
      ? [instruction('parts', `Put these aside: ${parts.join(', ')}.`, { look: 'Closing asks for each.' })]
      : []),
  ]
}

export const tick: StepRules<'open'>['tick'] = (view, id, done) =>
  id === 'module-off'
    ? { moduleOff: done }
    : id.startsWith('out-')
      ? { taken: listed(view.records.open.data.taken, id.slice('out-'.length), done) }
      : null
