import type { Pace } from '@fresh-coat/core/fleet/bench-time'
import { troubleSentence } from '@fresh-coat/core/trouble/statistics'
import { knownFacts } from '@fresh-coat/core/unit/known'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { Fact, twoDigits } from '@/components/paint/paint'
import type { Choices } from '@/components/steps/context'
import { AnotherUnit } from '@/components/units/another-unit'
import { GiveUp } from '@/components/units/give-up'
import { Drawer } from './drawer'
import { type LogEntry, LogList } from './log-list'

/** "04 122, 01 99": hands-on minutes of the finished units of a board, as they came. */
function paceWords(pace: Pace): string {
  const done = pace.units.filter((u) => u.done)
  if (done.length === 0) return ''
  const list = done.map((u) => `${twoDigits(u.number)} ${Math.round(u.minutes)}`).join(', ')
  const quicker = pace.share !== null && pace.share < 0.98
  return `Minutes at the bench until in service: ${list}.${quicker ? ` The last ones took ${Math.round((pace.share as number) * 100)} % of the first.` : ''}`
}

/** The other units of the board, and what they taught. */
function sameBoardWords(view: UnitView): string {
  const others = (view.board?.unitNumbers ?? []).filter((n) => n !== view.number)
  const name = view.board?.name ?? ''
  if (others.length === 0) return `The first ${name}. What is learned on it is kept for the next.`
  const [unit, are, they] = others.length === 1 ? ['Unit', 'is a', 'it'] : ['Units', 'are', 'they']
  return `${unit} ${others.map(twoDigits).join(', ')} ${are} ${name} too. What ${they} taught is filled in here.`
}

function SameBoard({ view, choices }: { view: UnitView; choices: Choices }) {
  if (!view.board) return null
  const pace = choices.pace ? paceWords(choices.pace) : ''
  const trouble = troubleSentence(view.board.causes)
  return (
    <section className="grid gap-1">
      <h3 className="text-[1.1rem]">Same board</h3>
      <p>{sameBoardWords(view)}</p>
      {pace && <p className="text-ink-2">{pace}</p>}
      {trouble && <p className="text-ink-2">{trouble}</p>}
      <div className="no-print mt-1">
        <AnotherUnit
          unitId={view.id}
          number={view.number}
          free={choices.next.number}
          name={choices.next.name}
          place={view.place}
        />
      </div>
    </section>
  )
}

/** Everything known of the unit with its evidence, its board's units, and what happened lately; over the card, on demand. */
export function Known({
  view,
  log,
  choices,
  onOpenChange,
}: {
  view: UnitView
  log: readonly LogEntry[]
  choices: Choices
  onOpenChange: (open: boolean) => void
}) {
  const facts = knownFacts(view)
  const open = facts.filter((f) => f.value === null).map((f) => f.name.toLowerCase())
  return (
    <Drawer title="What’s known" open onOpenChange={onOpenChange}>
      <dl>
        {facts
          .filter((f) => f.value !== null)
          .map((f) => (
            <Fact
              key={f.name}
              name={f.name}
              evidence={f.evidence && (f.technical ? <span className="pin">{f.evidence}</span> : f.evidence)}
            >
              {f.technical ? <span className="pin break-all">{f.value}</span> : f.value}
            </Fact>
          ))}
      </dl>
      {open.length > 0 && <p className="text-ink-2">Nobody knows yet: {open.join(', ')}.</p>}
      <SameBoard view={view} choices={choices} />
      <div className="no-print">
        <GiveUp view={view} />
      </div>
      <section>
        <h3 className="text-[1.1rem]">Lately</h3>
        <LogList log={log} />
      </section>
    </Drawer>
  )
}
