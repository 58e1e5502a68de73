import { hasInput } from '@fresh-coat/core/steps/hub/facts'
import { testedChannels, testOf, testStands } from '@fresh-coat/core/steps/hub/states'
import { factsOfUnit } from '@fresh-coat/core/unit/facts'
import { type HubSaying, type HubTest, otherLinks, testDirections } from '@fresh-coat/core/unit/view'
import { CopyText } from '@/components/forms/copy-text'
import { TextField } from '@/components/forms/fields'
import { Answers, Card } from '@/components/frame/card'
import { useKept } from '@/components/frame/frame-context'
import { shortMoment, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Heard } from './heard'

type Props = SurfaceProps<'hub'>
export type Kind = HubTest['direction']

/** What is asked of a unit and its hub, one card each: a state is only what somebody saw. */

interface Question {
  lead: string
  ask: string
  how: string
  example: string
  yes: string
  no: string
}

const asks: Record<Kind, Question> = {
  'details in the unit': {
    lead: 'In the unit',
    ask: 'Are the hub’s details in it?',
    how: 'Where it connects to, its user, its password. Note below where the password was put.',
    example: 'its page says connected',
    yes: 'They are in',
    no: 'It does not connect',
  },
  'shown by the hub': {
    lead: 'At the hub',
    ask: 'Does the hub show it?',
    how: 'This one, by its MAC or its topic: several come with the same name.',
    example: 'its topic stands in the list',
    yes: 'It shows it',
    no: 'It does not',
  },
  'named and placed': {
    lead: 'At the hub',
    ask: 'Has it its name, its room and its number there?',
    how: 'As on the case: whoever is called at night finds it by that.',
    example: 'named, in the workshop, 07 on the icon',
    yes: 'It has',
    no: 'The hub will not take it',
  },
  'hub to unit': {
    lead: 'From the hub',
    ask: 'Switch it on and off from the hub. What did the load do?',
    how: 'Say what you saw, not what should be. A latch, heater or motor is tested with its load disconnected first.',
    example: 'the lamp went on and off',
    yes: 'Seen',
    no: 'It failed',
  },
  'button to hub': {
    lead: 'At the unit',
    ask: 'Press its button. What does the hub show?',
    how: 'At the unit, with the hub in sight.',
    example: 'it shows on',
    yes: 'Seen',
    no: 'It failed',
  },
  'by voice': {
    lead: 'By voice',
    ask: 'Call it by its spoken name. Did it do as it was told?',
    how: 'From where people stand, with the room as loud as it is. Once on, once off.',
    example: '“footlight on”: it came on, twice of two',
    yes: 'It did',
    no: 'It did not',
  },
  'by a plain request': {
    lead: 'From a computer',
    ask: 'Ask it over its own page. Did it switch?',
    how: 'Whoever is on the network can do that: know that it can be done.',
    example: 'the request was answered, the lamp came on',
    yes: 'It did',
    no: 'It did not',
  },
  automations: {
    lead: 'At the hub',
    ask: 'Fire every automation that uses it, once. Which were they?',
    how: 'The ones by voice too. Where none uses it, say that.',
    example: 'house lights at seven; none by voice',
    yes: 'Each did what it should',
    no: 'One did not',
  },
}

/** What was seen, and whether it was so: one piece of evidence. */
export function TestCard({ kind, channel = null, props }: { kind: Kind; channel?: number | null; props: Props }) {
  const { view, record, act } = props
  const [seen, setSeen] = useKept(`seen ${kind} ${channel}`, '')
  const q = asks[kind]
  const mayNot = seen.trim() === '' || record.data.hubId === null
  const test = async (ok: boolean, words = seen) => {
    if (await act('add-hub-test', { unitId: view.id, direction: kind, channel, ok, seen: words })) setSeen('')
  }
  const both = kind === 'hub to unit' || kind === 'button to hub'
  return (
    <Card lead={channel === null ? q.lead : `${q.lead}, channel ${channel}`} ask={q.ask} how={q.how}>
      <TextField
        label="What you saw"
        placeholder={q.example}
        value={seen}
        maxLength={500}
        onChange={setSeen}
        hint={seen.trim() === '' ? 'Write down what you saw first.' : ''}
      />
      {view.topic !== null && (both || kind === 'details in the unit') && (
        <Heard
          channel={channel}
          number={view.number}
          kind={kind}
          use={(words) => setSeen(seen.trim() === '' ? words : `${seen}; ${words}`)}
        />
      )}
      <Answers
        answers={[
          { label: q.yes, pick: () => void test(true), disabled: mayNot },
          { label: q.no, pick: () => void test(false), disabled: mayNot, grave: true },
          ...(kind === 'automations'
            ? [
                {
                  label: 'None uses it',
                  pick: () => void test(true, 'no automation uses it'),
                  disabled: record.data.hubId === null,
                },
              ]
            : []),
        ]}
      />
    </Card>
  )
}

const beforeTests: readonly HubSaying[] = ['details in the unit', 'shown by the hub', 'named and placed']

/** The first thing that nobody saw, or that does not stand any more. */
export function nextTest(view: Props['view']): { kind: Kind; channel: number | null } | null {
  const now = factsOfUnit(view)
  const open = (kind: Kind, channel: number | null = null) => {
    const test = testOf(view, kind, channel)
    return test === undefined || !testStands(view, test, now)
  }
  for (const kind of beforeTests) if (open(kind)) return { kind, channel: null }
  for (const kind of testDirections)
    if (kind === 'hub to unit' || hasInput(view))
      for (const channel of testedChannels(view)) if (open(kind, channel)) return { kind, channel }
  return open('automations') ? { kind: 'automations', channel: null } : null
}

/** Each of them once more, also where it stands. */
export const TestAgain = (props: Props) => (
  <>
    {testDirections
      .filter((kind) => kind === 'hub to unit' || hasInput(props.view))
      .flatMap((kind) =>
        testedChannels(props.view).map((channel) => (
          <TestCard key={`${kind} ${channel}`} kind={kind} channel={channel} props={props} />
        )),
      )}
    {[...beforeTests, 'automations' as const].map((kind) => (
      <TestCard key={kind} kind={kind} props={props} />
    ))}
  </>
)

/** Ways to the unit beside its hub: each is a link of its own, and stands or falls by itself. */
export function OtherLinks(props: Props) {
  const { view } = props
  const address = view.records.join.data.address.trim()
  const channel = testedChannels(view)[0] ?? 1
  const now = factsOfUnit(view)
  return (
    <>
      {otherLinks.map((kind) => {
        const last = testOf(view, kind, null)
        return (
          <div key={kind} className="grid gap-2">
            {last && (
              <p className="flex flex-wrap items-baseline gap-x-2.5">
                <Tag severity={!last.ok ? 'error' : testStands(view, last, now) ? 'ok' : 'watch'}>
                  {!last.ok ? 'failed' : testStands(view, last, now) ? 'stands' : 'stale'}
                </Tag>
                {shortMoment(last.at)}: {last.seen}
              </p>
            )}
            <TestCard kind={kind} props={props} />
            {kind === 'by a plain request' && address && (
              <CopyText text={`PUT http://${address}/channels/${channel}/on\ncontent-type: application/json\n\ntrue`} />
            )}
          </div>
        )
      })}
      <p className="text-ink-2">
        What its pages are called is as its Thing Description says; a firmware may call them otherwise.
      </p>
    </>
  )
}

export function Tests({ view }: Pick<Props, 'view'>) {
  const now = factsOfUnit(view)
  const stands = (t: HubTest) => testStands(view, t, now)
  return (
    <>
      <table className="plain">
        <thead>
          <tr>
            <th>When</th>
            <th>What</th>
            <th>Result</th>
            <th>Seen</th>
          </tr>
        </thead>
        <tbody>
          {view.hubTests.map((t) => (
            <tr key={t.id}>
              <td className="whitespace-nowrap">{shortMoment(t.at)}</td>
              <td>
                {t.direction}
                {t.channel !== null && `, channel ${t.channel}`}
              </td>
              <td>
                <Tag severity={!t.ok ? 'error' : stands(t) ? 'ok' : 'watch'}>
                  {!t.ok ? 'failed' : stands(t) ? 'stands' : 'stale'}
                </Tag>
              </td>
              <td dir="auto">{t.seen}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-ink-2">
        A test is stale when firmware, pins, address, topic or hub changed since; what was said of the hub’s details
        when a password did, of its name when that did.
      </p>
    </>
  )
}
