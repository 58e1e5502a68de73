'use client'
import type { Rule } from '@fresh-coat/core/behaviour/definition'
import { inputsOf, nastyCases, plainCase, spansOf } from '@fresh-coat/core/behaviour/of-template'
import type { BehaviourRun, Entry } from '@fresh-coat/core/behaviour/run'
import {
  behaviourOf,
  isTried,
  openLoadFindings,
  pinsOfChannel,
  rulesOf,
  simulated,
} from '@fresh-coat/core/steps/behaviour/facts'
import { channelsOf } from '@fresh-coat/core/steps/pins/facts'
import { drillFindings } from '@fresh-coat/core/steps/prove/drills'
import { useMemo } from 'react'
import { BehaviourLine, type Lane } from '@/components/drawings/behaviour-line'
import { AreaField, TextField } from '@/components/forms/fields'
import { type Ask, Questions, Standing } from '@/components/frame/card'
import { type SheetMore, StepSheet } from '@/components/frame/sheet'
import { Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { MainsInput } from './mains-input'
import { Phases } from './phases'
import { Play } from './play'
import type { Names } from './rule-words'
import { Rules, Timing } from './rules'
import { SettingSheet } from './sheet'
import { Travel } from './travel'
import { Watchdog } from './watchdog'

type Props = SurfaceProps<'behaviour'>
type Channel = Props['record']['data']['channels'][number]

const powerWords = { off: 'Off', on: 'On', last: 'As before' }
const untried = (ch: number): Channel => ({ ch, onPower: 'off', tried: false })
const pressMs = 250
/** More rules than these do not fit beside what is asked. */
const mostOnCard = 2

/** Per output: what it is after a power cut, then whether it was tried. */
function channelAsks({ view, record: { data, patch } }: Props, ch: number): Ask[] {
  const known = data.channels.find((c) => c.ch === ch)
  const set = (change: Partial<Channel>) =>
    patch({
      channels: [...data.channels.filter((c) => c.ch !== ch), { ...(known ?? untried(ch)), ...change }].sort(
        (a, b) => a.ch - b.ch,
      ),
    })
  return [
    {
      id: `set ${ch}`,
      name: `Channel ${ch}`,
      ask: `After a power cut, channel ${ch} is`,
      how: 'A lamp may come on by itself; a heater, motor or latch may not.',
      said: known ? powerWords[known.onPower] : null,
      answers: (['off', 'on', 'last'] as const).map((onPower) => ({
        label: powerWords[onPower],
        pick: () => set({ onPower, tried: false }),
        chosen: known?.onPower === onPower,
      })),
    },
    {
      id: `tried ${ch}`,
      name: 'Tried',
      ask: `Channel ${ch}, on the unit: does it switch, and come up as set?`,
      how: 'Case closed. A latch, heater or motor is tried with its load disconnected first.',
      said: known && isTried(view, known) ? `channel ${ch} tried` : null,
      answers: [
        {
          label: 'Yes, tried',
          pick: () => set({ tried: true, triedOn: pinsOfChannel(view, ch) }),
          chosen: known !== undefined && isTried(view, known),
        },
        { label: 'No, not as set', pick: () => set({ tried: false }), grave: true },
      ],
    },
  ]
}

/** Changes of the timeline as the record takes them. */
function timelineOf({ record: { data, patch } }: Props, fallback: { timeline: Entry[]; until: number }) {
  const timeline: Entry[] = data.untilMs > 0 ? data.timeline : fallback.timeline
  const until = data.untilMs > 0 ? data.untilMs : fallback.until
  const put = (next: Entry[], untilMs = until) =>
    patch({ timeline: [...next].sort((a, b) => a.t - b.t).slice(0, 400), untilMs })
  const edge = (lane: string, t: number, level: 0 | 1): Entry =>
    lane === 'network' ? { t, net: level } : lane === 'mains' ? { t, mains: level } : { t, input: lane, level }
  return {
    timeline,
    until,
    put,
    move: (index: number, t: number) => put(timeline.map((e, i) => (i === index ? { ...e, t } : e))),
    drop: (index: number) => put(timeline.filter((_, i) => i !== index)),
    /** On an input a short press; network and mains go away for a while. */
    press: (lane: string, t: number) => {
      const away = lane === 'network' || lane === 'mains'
      const [first, second] = away ? ([0, 1] as const) : ([1, 0] as const)
      const ms = away ? Math.max(1000, Math.round(until / 12 / 100) * 100) : Math.max(pressMs, Math.round(until / 120))
      put([...timeline, edge(lane, t, first), edge(lane, Math.min(until, t + ms), second)])
    },
  }
}

function Verdict({ run, stranded, looped }: { run: BehaviourRun | null; stranded: readonly Rule[]; looped: boolean }) {
  const lost = run?.events.filter((e) => 'publish' in e && e.lost).length ?? 0
  return (
    <>
      {looped && (
        <p className="flex gap-2.5" role="alert">
          <Tag severity="error">loop</Tag> Its rules set each other off without end: one of them has to go.
        </p>
      )}
      {stranded.length > 0 && (
        <p className="flex gap-2.5">
          <Tag severity="error">gone</Tag> Left out: {stranded.map((r) => r.id).join(', ')}, which names what the
          template does not have.
        </p>
      )}
      {lost > 0 && (
        <p className="flex gap-2.5">
          <Tag severity="watch">lost</Tag> {lost} {lost === 1 ? 'message is' : 'messages are'} lost, and nothing sends{' '}
          {lost === 1 ? 'it' : 'them'} again: add a rule for when the network comes back.
        </p>
      )}
    </>
  )
}

/** In words, for who does not see the drawing. */
function Twin({ run, say }: { run: BehaviourRun | null; say: (why: string) => string }) {
  return (
    <table className="plain">
      <thead>
        <tr>
          <th>At</th>
          <th>What</th>
          <th>By</th>
        </tr>
      </thead>
      <tbody>
        {(run?.events ?? []).slice(0, 300).map((e, i) => (
          <tr key={i}>
            <td className="pin">{(e.t / 1000).toFixed(2)} s</td>
            <td>
              {'ch' in e
                ? `channel ${e.ch} ${e.to}`
                : 'motor' in e
                  ? `${e.motor} at ${e.pos} %`
                  : `${e.publish} ${e.value}${e.lost ? ', lost' : ''}`}
            </td>
            <td>{'why' in e ? say(e.why) : ''}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

const whyWords: Record<string, string> = {
  interlock: 'the interlock',
  pulse: 'its pulse',
  'travel-end': 'the end of its travel',
  'power-on': 'the start',
  'power-on-last': 'the start, as before',
  'mains-lost': 'the mains',
}
const say = (why: string): string => whyWords[why] ?? `“${why}”`
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)

type Here = NonNullable<ReturnType<typeof behaviourOf>>

/** What may be played, and what the unit would do of it. */
function useLab(props: Props, { template, def }: Here) {
  const inputs = inputsOf(template)
  const rules = rulesOf(props.view, template)
  const names: Names = {
    inputs: inputs.map((i) => i.id),
    channels: def.channels.map((c) => c.ch),
    timers: [...new Set(rules.flatMap((r) => r.do).flatMap((d) => ('timer' in d ? [d.timer] : [])))],
  }
  const line = timelineOf(props, plainCase(inputs))
  const key = JSON.stringify([def, line.timeline, line.until])
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key holds all that decides
  const run = useMemo(() => simulated(def, line.timeline, line.until), [key])
  return { inputs, rules, names, line, run }
}

interface LabProps {
  props: Props
  here: Here
  lab: ReturnType<typeof useLab>
}

/** Inputs and outputs over time, and what else may be played. */
function Played({ here: { def }, lab: { inputs, names, line, run } }: LabProps) {
  const lanes: Lane[] = [
    ...inputs.map((i) => ({ id: i.id, name: capital(i.id), rests: 0 as const })),
    { id: 'network', name: 'Network', rests: 1 },
    { id: 'mains', name: 'Mains', rests: 1 },
  ]
  return (
    <div className="flex min-h-0 flex-1 flex-col justify-center gap-3">
      <BehaviourLine
        lanes={lanes}
        timeline={line.timeline}
        until={line.until}
        spans={spansOf(run?.events ?? [], line.until)}
        outputs={def.channels.map((c) => ({ ch: c.ch, name: `Channel ${c.ch}` }))}
        events={run?.events ?? []}
        say={say}
        onMove={line.move}
        onPress={line.press}
        onDrop={line.drop}
      />
      <div className="flex shrink-0 flex-wrap items-center gap-1.5 text-[0.87rem]">
        {names.inputs.length > 0 && <Play inputs={names.inputs} done={line.put} />}
        <span className="text-ink-2">Try also:</span>
        {[plainCase(inputs), ...nastyCases(inputs)].map((c) => (
          <button
            key={c.id}
            type="button"
            className="min-h-[1.9rem] rounded-[8px] border border-ink-3 px-2"
            onClick={() => line.put(c.timeline, c.until)}
          >
            {c.name}
          </button>
        ))}
      </div>
    </div>
  )
}

function Otherwise({ record: { data, patch } }: Pick<Props, 'record'>) {
  return (
    <>
      <AreaField
        label="What the unit did otherwise than is worked out here"
        mono={false}
        rows={4}
        maxLength={2000}
        value={data.differs}
        onChange={(differs) => patch({ differs })}
      />
      <TextField label="What else it does" value={data.note} maxLength={2000} onChange={(note) => patch({ note })} />
    </>
  )
}

function drawersOf({ props, here: { template }, lab: { rules, names, inputs } }: LabProps): SheetMore[] {
  const { view, record, choices } = props
  const { data } = record
  const tried = rules.filter((r) => data.triedRules.includes(r.id)).length
  return [
    {
      id: 'rules',
      name: `Rules: ${rules.length}, ${tried} tried`,
      wide: true,
      content: <Rules props={props} rules={rules} names={names} />,
    },
    { name: 'Presses and holds', content: <Timing record={record} inputs={names.inputs} rules={rules} /> },
    {
      id: 'load',
      name: 'When the unit does not work for it',
      content: <Phases view={view} record={record} channels={names.channels} />,
    },
    (template.motors?.length ?? 0) > 0 && {
      name: 'Time the motor',
      content: <Travel view={view} record={record} />,
    },
    inputs.some((i) => i.fn === 'ac-sense') && { name: 'Mains inputs', content: <MainsInput /> },
    data.channels.some((c) => c.load?.kind === 'modem') && {
      name: 'Watchdog of the modem',
      content: <Watchdog record={record} />,
    },
    { name: 'Setting sheet', content: <SettingSheet view={view} choices={choices} /> },
    {
      id: 'differs',
      name: data.differs ? 'It did otherwise' : 'Did it do otherwise?',
      content: <Otherwise record={record} />,
    },
  ]
}

function Lab({ props, here }: { props: Props; here: Here }) {
  const { view, assessment } = props
  const lab = useLab(props, here)
  const { rules, names, run } = lab
  const all: LabProps = { props, here, lab }
  const step = assessment.steps.find((s) => s.id === 'behaviour')
  return (
    <StepSheet
      title="What it will do"
      say={
        <>
          Nothing here switches the unit: it is worked out. Move an edge, or press on a line for a press there; then try
          it on the unit.
        </>
      }
      drawing={<Played {...all} />}
      twin={<Twin run={run} say={say} />}
      findings={[
        ...openLoadFindings(view).map((f) => ({ ...f, message: `${f.at.replace('ch', 'Channel ')}: ${f.message}` })),
        ...drillFindings(view),
      ]}
      verdict={<Verdict run={run} stranded={here.stranded} looped={run === null} />}
      card={
        <Questions
          asks={channelsOf(view).flatMap((ch) => channelAsks(props, ch))}
          rest={
            <>
              <Standing conditions={step?.conditions ?? []} />
              {rules.length > 0 && rules.length <= mostOnCard && <Rules props={props} rules={rules} names={names} />}
            </>
          }
        />
      }
      more={drawersOf(all)}
    />
  )
}

/** What the unit does with its inputs, over time: worked out from its rules, then tried. */
export function BehaviourSurface(props: Props) {
  const here = behaviourOf(props.view)
  const step = props.assessment.steps.find((s) => s.id === 'behaviour')
  if (!here || here.def.channels.length === 0)
    return (
      <StepSheet
        title="What it will do"
        say="Nothing here switches the unit: it is worked out."
        drawing={
          <p className="rounded-[12px] border border-dashed border-rule p-8 text-center text-ink-2">
            The pin template has no outputs yet.
          </p>
        }
        card={<Standing conditions={step?.conditions ?? []} />}
      />
    )
  return <Lab props={props} here={here} />
}
