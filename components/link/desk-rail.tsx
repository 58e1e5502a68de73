import { sizeWords } from '@fresh-coat/core/bytes/text'
import { Rail, type Stage } from '@/components/drawings/rail'
import type { DeskView } from './desk-store'

/** How far the desk has come, from the port to what is proven. */

const share = ({ progress }: DeskView): string =>
  progress && progress.total > 0 ? `${Math.floor((100 * progress.done) / progress.total)} %` : ''

function readStages(view: DeskView): Stage[] {
  const one = (n: 1 | 2): Stage => {
    const now = view.read === n && view.phase !== 'over'
    const over = (view.read ?? 0) > n || (view.read === n && view.ended?.good === true)
    return {
      name: n === 1 ? 'First read' : 'Second',
      note: now ? share(view) : '',
      state: over ? 'reached' : now ? (view.phase === 'lost' ? 'failed' : 'now') : 'open',
    }
  }
  return [one(1), one(2)]
}

const writeNames = [
  { name: 'Line', states: ['testing', 'rating'] },
  { name: 'Write', states: ['erasing', 'writing', 'recovering'] },
  { name: 'Proof', states: ['verifying'] },
] as const

function writeStages(view: DeskView): Stage[] {
  const at = writeNames.findIndex(({ states }) => (states as readonly (string | null)[]).includes(view.state))
  const good = view.ended?.good === true
  return writeNames.map(({ name }, i) => ({
    name,
    note: i === at && name === 'Write' ? share(view) : '',
    state: good || i < at ? 'reached' : i === at ? (view.phase === 'over' ? 'failed' : 'now') : 'open',
  }))
}

export function DeskRail({ view }: { view: DeskView }) {
  const answered = view.who !== null
  const calling = view.phase === 'calling' && !view.again
  const opened = view.phase !== 'opening'
  const stages: Stage[] = [
    { name: 'Port', note: opened ? String(view.rate) : '', state: opened ? 'reached' : 'now' },
    { name: 'Answer', note: '', state: answered ? 'reached' : calling ? 'now' : 'open' },
    { name: 'Chip', note: view.who?.family ?? '', state: answered ? 'reached' : 'open' },
    {
      name: 'Flash',
      note: view.flashBytes ? sizeWords(view.flashBytes) : '',
      state: view.flashBytes ? 'reached' : 'open',
    },
    ...(view.what === 'write' ? writeStages(view) : readStages(view)),
  ]
  return <Rail stages={stages} label="How far it is" />
}
