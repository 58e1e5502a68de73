'use client'
import { dayOf, dayWords } from '@fresh-coat/core/edge/day'
import { hasInput } from '@fresh-coat/core/steps/hub/facts'
import { type HubState, hubWay, testedChannels, testOf, testStands } from '@fresh-coat/core/steps/hub/states'
import { factsOfUnit } from '@fresh-coat/core/unit/facts'
import type { HubTest } from '@fresh-coat/core/unit/view'
import { HubDrawing, type Station, type Way } from '@/components/drawings/hub-drawing'
import { SelectField, TextField, Tick } from '@/components/forms/fields'
import { Card, Standing } from '@/components/frame/card'
import { Word } from '@/components/frame/drawer'
import { useKept } from '@/components/frame/frame-context'
import { StepSheet } from '@/components/frame/sheet'
import { buttonClass, clockOf, twoDigits } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { BridgeRadio, LocalControl } from '@/components/steps/hub/other-ends'
import { StandInHub, useStandIns } from '@/components/steps/hub/stand-in'
import { nextTest, OtherLinks, TestAgain, TestCard, Tests } from '@/components/steps/hub/tests'
import { HubText } from '@/components/steps/hub/text'
import { Secrets } from '@/components/steps/secrets'

type Props = SurfaceProps<'hub'>
/** All tests of a direction together, and whether they still stand: the first channel that does not speaks for it. */
function wayOf(view: Props['view'], direction: HubTest['direction'], does: string): Way {
  const now = factsOfUnit(view)
  const each = testedChannels(view).map((channel) => {
    const test = testOf(view, direction, channel)
    const state: Way['state'] = !test ? 'none' : !test.ok ? 'failed' : testStands(view, test, now) ? 'stands' : 'stale'
    const which = channel === null ? '' : `channel ${channel}, `
    return { channel: channel ?? 1, state, note: test ? `${which}${clockOf(test.at)}: ${test.seen}` : '' }
  })
  const first = each.find((w) => w.state !== 'stands') ?? (each[0] as (typeof each)[number])
  return { does, state: first.state, note: first.note, channels: each }
}

const stationNames: Record<HubState, string> = {
  'credentials-set': 'details in it',
  discovered: 'hub shows it',
  'named-placed': 'named, placed',
  'tested-both-ways': 'both ways',
  automations: 'automations',
  'verified-after-power-cut': 'after a power cut',
}

const stationsOf = (view: Props['view']): Station[] =>
  hubWay(view).steps.map((s) => ({
    name: stationNames[s.state],
    state: s.standing,
    note:
      s.standing === 'stale'
        ? s.because in stationNames
          ? `after “${stationNames[s.because as HubState]}”`
          : s.because
        : s.at
          ? dayWords(dayOf(s.at, view.zone))
          : '',
  }))

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

/** What is to be seen now: the hub first, then each state that does not stand. */
function HubCard(props: Props) {
  const { view, record, choices, assessment } = props
  const here = assessment.steps.find((s) => s.id === 'hub')
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
  const next = nextTest(view)
  if (next) return <TestCard key={`${next.kind} ${next.channel}`} {...next} props={props} />
  return <Standing conditions={here?.conditions ?? []} />
}

/** The hub and the unit: what was tried between them, both ways. */
export function HubSurface(props: Props) {
  const { view, record, choices, act } = props
  const { data, patch } = record
  const hub = choices.hubs.find((h) => h.id === data.hubId)
  const input = hasInput(view)
  const standIns = useStandIns() && view.topic !== null
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
          stations={stationsOf(view)}
        />
      }
      card={<HubCard {...props} />}
      more={[
        { name: 'Text for the hub', content: <HubText {...props} /> },
        { id: 'links', name: 'Voice and plain requests', content: <OtherLinks {...props} /> },
        { name: 'Test again', content: <TestAgain {...props} /> },
        {
          id: 'radio',
          name: data.bridge ? `Radio: ${data.bridge.joined.length} joined` : 'A radio of its own',
          wide: data.bridge !== null,
          content: <BridgeRadio {...props} />,
        },
        standIns && {
          id: 'stand-in',
          name: 'A hub that stands in',
          content: <StandInHub view={view} hub={hub?.name ?? 'the hub'} />,
        },
        (view.route === 'local-control' || data.local !== null) && {
          id: 'local',
          name: 'Local control',
          content: <LocalControl {...props} />,
        },
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
