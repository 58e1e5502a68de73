'use client'
import { hasInput, standingTests } from '@fresh-coat/core/steps/hub/facts'
import type { HubTest } from '@fresh-coat/core/unit/view'
import { HubDrawing, type Way } from '@/components/drawings/hub-drawing'
import { SelectField, TextField, Tick } from '@/components/forms/fields'
import { Answers, Card, Standing } from '@/components/frame/card'
import { Word } from '@/components/frame/drawer'
import { useKept } from '@/components/frame/frame-context'
import { StepSheet } from '@/components/frame/sheet'
import { buttonClass, clockOf, shortMoment, Tag, twoDigits } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Heard } from '@/components/steps/hub/heard'
import { HubText } from '@/components/steps/hub/text'
import { Secrets } from '@/components/steps/secrets'

type Props = SurfaceProps<'hub'>
type Direction = HubTest['direction']

const asks: Record<Direction, { ask: string; how: string }> = {
  'hub to unit': {
    ask: 'Switch it on and off from the hub. What did the load do?',
    how: 'Say what you saw, not what should be. A latch, heater or motor is tested with its load disconnected first.',
  },
  'button to hub': {
    ask: 'Press its button. What does the hub show?',
    how: 'At the unit, with the hub in sight.',
  },
}

/** The newest test of a direction, and whether it still stands. */
function wayOf(view: Props['view'], direction: Direction, does: string): Way {
  const standing = new Set(standingTests(view).map((t) => t.id))
  const test = view.hubTests.find((t) => t.direction === direction)
  if (!test) return { does, state: 'none', note: '' }
  return {
    does,
    state: !test.ok ? 'failed' : standing.has(test.id) ? 'stands' : 'stale',
    note: `${clockOf(test.at)}: ${test.seen}`,
  }
}

/** What was seen, and whether it worked: one test. */
function TestCard({ direction, props }: { direction: Direction; props: Props }) {
  const { view, record, act } = props
  const [seen, setSeen] = useKept(`seen ${direction}`, '')
  const mayNot = seen.trim() === '' || record.data.hubId === null
  const test = async (ok: boolean) => {
    if (await act('add-hub-test', { unitId: view.id, direction, ok, seen })) setSeen('')
  }
  return (
    <Card lead={direction === 'hub to unit' ? 'From the hub' : 'At the unit'} {...asks[direction]}>
      <TextField
        label="What you saw"
        placeholder="the lamp went on and off"
        value={seen}
        maxLength={500}
        onChange={setSeen}
        hint={seen.trim() === '' ? 'Write down what you saw first.' : ''}
      />
      {view.topic !== null && (
        <Heard
          number={view.number}
          direction={direction}
          use={(words) => setSeen(seen.trim() === '' ? words : `${seen}; ${words}`)}
        />
      )}
      <Answers
        answers={[
          { label: 'Seen', pick: () => void test(true), disabled: mayNot },
          { label: 'It failed', pick: () => void test(false), disabled: mayNot, grave: true },
        ]}
      />
    </Card>
  )
}

function HubFields({ record: { data, patch }, choices, act }: Props) {
  const [name, setName] = useKept('hub name', '')
  return (
    <>
      <SelectField
        label="Hub"
        value={data.hubId}
        options={choices.hubs.map((h) => ({ value: h.id, label: h.name }))}
        onChange={(hubId) => patch({ hubId })}
      />
      <form
        className="flex items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault()
          void act('add-hub', { name }).then((ok) => ok && setName(''))
        }}
      >
        <TextField label="Another hub" value={name} maxLength={120} onChange={setName} className="flex-1" />
        <button type="submit" className={buttonClass()} disabled={name.trim() === ''}>
          Add
        </button>
      </form>
    </>
  )
}

function Tests({ view }: Pick<Props, 'view'>) {
  const standing = new Set(standingTests(view).map((t) => t.id))
  return (
    <>
      <table className="plain">
        <thead>
          <tr>
            <th>When</th>
            <th>Direction</th>
            <th>Result</th>
            <th>Seen</th>
          </tr>
        </thead>
        <tbody>
          {view.hubTests.map((t) => (
            <tr key={t.id}>
              <td className="whitespace-nowrap">{shortMoment(t.at)}</td>
              <td>{t.direction}</td>
              <td>
                <Tag severity={!t.ok ? 'error' : standing.has(t.id) ? 'ok' : 'watch'}>
                  {!t.ok ? 'failed' : standing.has(t.id) ? 'stands' : 'stale'}
                </Tag>
              </td>
              <td dir="auto">{t.seen}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-ink-2">A test is stale when firmware, pins, address, topic or hub changed since.</p>
    </>
  )
}

/** What is to be tried now: the hub first, then each direction that does not stand. */
function HubCard(props: Props) {
  const { view, record, choices, assessment } = props
  const here = assessment.steps.find((s) => s.id === 'hub')
  const stands = (direction: Direction) => standingTests(view).some((t) => t.direction === direction)
  if (record.data.hubId === null)
    return (
      <Card
        ask="Which hub?"
        how="A connection that nobody tried is a hope."
        answers={choices.hubs.map((h) => ({ label: h.name, pick: () => record.patch({ hubId: h.id }) }))}
      >
        {choices.hubs.length === 0 && <HubFields {...props} />}
      </Card>
    )
  if (!stands('hub to unit')) return <TestCard key="to" direction="hub to unit" props={props} />
  if (hasInput(view) && !stands('button to hub')) return <TestCard key="from" direction="button to hub" props={props} />
  return <Standing conditions={here?.conditions ?? []} />
}

/** The hub and the unit: what was tried between them, both ways. */
export function HubSurface(props: Props) {
  const { view, record, choices, act } = props
  const { data, patch } = record
  const hub = choices.hubs.find((h) => h.id === data.hubId)
  const input = hasInput(view)
  return (
    <StepSheet
      title="Test it with the hub, both ways"
      say={
        <>
          It belongs to{' '}
          <Word name="Hub" faulty={!hub} open={<HubFields {...props} />}>
            {hub?.name ?? 'no hub yet'}
          </Word>
          , and{' '}
          <Word
            name="Button"
            open={
              <Tick
                label="It has no button or switch to press"
                checked={data.noButton}
                onChange={(noButton) => patch({ noButton })}
              />
            }
          >
            {input ? 'has something to press' : 'has nothing to press'}
          </Word>
          .
        </>
      }
      drawing={
        <HubDrawing
          hub={hub?.name ?? '?'}
          number={twoDigits(view.number)}
          unit={view.name}
          toUnit={wayOf(view, 'hub to unit', 'on and off, seen at the load')}
          toHub={input ? wayOf(view, 'button to hub', 'its button, seen at the hub') : null}
        />
      }
      card={<HubCard {...props} />}
      more={[
        { name: 'Text for the hub', content: <HubText {...props} /> },
        { name: 'Test again', content: <TestAgain {...props} /> },
        view.hubTests.length > 0 && {
          id: 'tests',
          name: `Tests so far: ${view.hubTests.length}`,
          wide: true,
          content: <Tests view={view} />,
        },
        {
          id: 'secrets',
          name: choices.secrets.length > 0 ? `Secrets: ${choices.secrets.length}` : 'Secrets',
          content: <Secrets view={view} choices={choices} act={act} />,
        },
      ]}
    />
  )
}

/** Each direction once more, also where a test stands. */
const TestAgain = (props: Props) => (
  <>
    <TestCard direction="hub to unit" props={props} />
    {hasInput(props.view) && <TestCard direction="button to hub" props={props} />}
  </>
)
