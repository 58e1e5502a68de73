import { assess } from './assess'
import { gatesFor } from './gates'
import { workInstructions } from './steps'
import type { UnitView } from './view'
import { gateTitle, stepOf } from './way'

/** What is to be done on a unit, as a sheet of paper beside it: blanks to tick, gates first, no secret. */

const box = (text: string): string => `- [ ] ${text}`
const two = (n: number): string => String(n).padStart(2, '0')
/** Signs that Markdown takes for its own, in what people typed. */
const plain = (text: string): string =>
  text
    .replace(/([\\`*_{}[\]<>#|])/g, '\\$1')
    .replace(/\s+/g, ' ')
    .trim()

/** Markdown. Steps that are over stand as one line; the others with their gates, what is to be done, and room for a reading. */
export function jobSheet(view: UnitView): string {
  const { steps } = assess(view)
  const lines = [
    `# ${two(view.number)} ${plain(view.name)}`,
    '',
    [view.board ? plain(view.board.name) : 'Board not named yet', view.place ? plain(view.place) : '']
      .filter(Boolean)
      .join(', '),
    '',
    'Mains work only as far as you may do it where you live. Unknown is never safe: measure.',
    '',
  ]
  for (const { id, state, because } of steps) {
    if (id === 'watch' || state === 'skipped') continue
    const { title } = stepOf(id)
    if (state === 'done' || state === 'decided') {
      lines.push(`- [x] ${title}`)
      continue
    }
    lines.push('', `## ${title}`, '')
    if (because) lines.push(`${plain(because)}`, '')
    for (const gate of gatesFor(view, id)) lines.push(box(`**${gateTitle(gate, id)}**`))
    for (const { say, look, seconds } of workInstructions(view, id))
      lines.push(box(plain(`${say}${seconds ? ` (${seconds} s)` : ''}${look ? ` ${look}` : ''}`)))
    lines.push('', 'Read or seen: ______________________', '')
  }
  return `${lines
    .join('\n')
    .replace(/\n{3,}/g, '\n\n')
    .trim()}\n`
}
