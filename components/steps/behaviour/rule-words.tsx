import type { Do, If, Rule, When } from '@fresh-coat/core/behaviour/definition'
import { inputEvents } from '@fresh-coat/core/behaviour/definition'
import type { ReactNode } from 'react'
import { Choice, NumberField, SelectField, TextField } from '@/components/forms/fields'
import { Word } from '@/components/frame/drawer'
import { buttonClass } from '@/components/paint/paint'

/** A rule as a sentence whose words open: never a syntax. */

export interface Names {
  inputs: readonly string[]
  channels: readonly number[]
  timers: readonly string[]
}

const eventWords = {
  short: 'is pressed shortly',
  hold: 'is held',
  press: 'goes down',
  release: 'is let go',
  change: 'changes',
} as const
const setWords = { on: 'turn on', off: 'turn off', toggle: 'flip' } as const
const secondsOf = (ms: number): string => `${ms / 1000} s`

const whenKinds = ['input', 'timer', 'channel on', 'channel off', 'network up', 'network down', 'start'] as const
type WhenKind = (typeof whenKinds)[number]
const kindOf = (w: When): WhenKind => {
  if ('input' in w) return 'input'
  if ('timer' in w) return 'timer'
  if ('ch' in w) return w.becomes === 'on' ? 'channel on' : 'channel off'
  return 'net' in w ? (w.net === 'up' ? 'network up' : 'network down') : 'start'
}
const kindWords: Record<WhenKind, string> = {
  input: 'an input does something',
  timer: 'a time is over',
  'channel on': 'a channel goes on',
  'channel off': 'a channel goes off',
  'network up': 'the network comes back',
  'network down': 'the network goes',
  start: 'the unit starts',
}
function whenOf(kind: WhenKind, names: Names): When {
  if (kind === 'input') return { input: names.inputs[0] ?? 'button', event: 'short' }
  if (kind === 'timer') return { timer: names.timers[0] ?? 'time' }
  if (kind === 'channel on' || kind === 'channel off')
    return { ch: names.channels[0] ?? 1, becomes: kind === 'channel on' ? 'on' : 'off' }
  if (kind === 'start') return { boot: true }
  return { net: kind === 'network up' ? 'up' : 'down' }
}

function Pick<V extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string
  value: V
  options: readonly { value: V; label: string }[]
  onChange: (value: V) => void
}) {
  return (
    <SelectField
      label={label}
      value={value}
      options={options.map((o) => ({ ...o }))}
      onChange={(v) => v && onChange(v as V)}
    />
  )
}

const channelOptions = ({ channels }: Names) => channels.map((ch) => ({ value: String(ch), label: `channel ${ch}` }))

function WhenWords({ rule, names, set }: { rule: Rule; names: Names; set: (change: Partial<Rule>) => void }) {
  const { when } = rule
  const kinds = whenKinds.filter(
    (k) => (k !== 'input' || names.inputs.length > 0) && (k !== 'timer' || names.timers.length > 0),
  )
  const kind = (
    <Pick
      label="It begins when"
      value={kindOf(when)}
      options={kinds.map((k) => ({ value: k, label: kindWords[k] }))}
      onChange={(k) => set({ when: whenOf(k, names) })}
    />
  )
  if ('input' in when)
    return (
      <>
        <Word
          name={`${rule.id}: input`}
          open={
            <>
              {kind}
              <Pick
                label="Input"
                value={when.input}
                options={names.inputs.map((i) => ({ value: i, label: i }))}
                onChange={(input) => set({ when: { ...when, input } })}
              />
            </>
          }
        >
          {when.input}
        </Word>{' '}
        <Word
          name={`${rule.id}: event`}
          open={
            <Pick
              label="What it does"
              value={when.event}
              options={inputEvents.map((e) => ({ value: e, label: eventWords[e] }))}
              onChange={(event) => set({ when: { ...when, event } })}
            />
          }
        >
          {eventWords[when.event]}
        </Word>
      </>
    )
  const words =
    'timer' in when
      ? `“${when.timer}” is over`
      : 'ch' in when
        ? `channel ${when.ch} goes ${when.becomes}`
        : 'net' in when
          ? kindWords[when.net === 'up' ? 'network up' : 'network down']
          : kindWords.start
  return (
    <Word
      name={`${rule.id}: when`}
      open={
        <>
          {kind}
          {'timer' in when && (
            <Pick
              label="Which time"
              value={when.timer}
              options={names.timers.map((t) => ({ value: t, label: t }))}
              onChange={(timer) => set({ when: { timer } })}
            />
          )}
          {'ch' in when && (
            <Pick
              label="Which channel"
              value={String(when.ch)}
              options={channelOptions(names)}
              onChange={(ch) => set({ when: { ...when, ch: Number(ch) } })}
            />
          )}
        </>
      }
    >
      {words}
    </Word>
  )
}

const ifWords = (c: If): string => {
  if ('ch' in c) return `channel ${c.ch} is ${c.is}`
  if ('input' in c) return `${c.input} is ${c.is === 'on' ? 'held' : 'free'}`
  if ('net' in c) return `the network is ${c.net === 'up' ? 'there' : 'away'}`
  return `“${c.timer}” ${c.is === 'running' ? 'runs' : 'does not run'}`
}
/** Conditions that can be taken by one press: each channel, the network. */
const someConditions = ({ channels }: Names): If[] => [
  ...channels.flatMap((ch): If[] => [
    { ch, is: 'on' },
    { ch, is: 'off' },
  ]),
  { net: 'up' },
  { net: 'down' },
]

function Conditions({ rule, names, set }: { rule: Rule; names: Names; set: (change: Partial<Rule>) => void }) {
  const now = rule.if ?? []
  const has = (c: If) => now.some((o) => JSON.stringify(o) === JSON.stringify(c))
  const offered = [
    ...now.filter((c) => !someConditions(names).some((o) => JSON.stringify(o) === JSON.stringify(c))),
    ...someConditions(names),
  ]
  return (
    <Word
      name={`${rule.id}: only while`}
      open={
        <fieldset className="flex flex-wrap gap-2">
          <legend className="mb-1 font-semibold">Only while all of these hold</legend>
          {offered.map((c) => (
            <button
              key={JSON.stringify(c)}
              type="button"
              aria-pressed={has(c)}
              className={`min-h-[2.2rem] rounded-[8px] border px-2.5 ${has(c) ? 'border-ink bg-ink text-sheet' : 'border-ink-3 bg-sheet'}`}
              onClick={() =>
                set({ if: has(c) ? now.filter((o) => JSON.stringify(o) !== JSON.stringify(c)) : [...now, c] })
              }
            >
              {ifWords(c)}
            </button>
          ))}
        </fieldset>
      }
    >
      {now.length === 0 ? 'always' : now.map(ifWords).join(' and ')}
    </Word>
  )
}

const actWords = (d: Do): string => {
  if ('set' in d) return `${setWords[d.set]} channel ${d.ch}`
  if ('timer' in d)
    return `let “${d.timer}” run for ${secondsOf(d.ms)}${d.policy === 'keep' ? ', unless it runs' : ', anew'}`
  if ('cancel' in d) return `stop “${d.cancel}”`
  return `tell ${d.publish}`
}

function ActFields({ act, names, set }: { act: Do; names: Names; set: (act: Do) => void }) {
  if ('set' in act)
    return (
      <>
        <Choice
          label="It is to"
          value={act.set}
          options={(['on', 'off', 'toggle'] as const).map((v) => ({ value: v, label: setWords[v] }))}
          onChange={(v) => v && set({ ...act, set: v })}
        />
        <Pick
          label="Which channel"
          value={String(act.ch)}
          options={channelOptions(names)}
          onChange={(ch) => set({ ...act, ch: Number(ch) })}
        />
      </>
    )
  if ('timer' in act)
    return (
      <>
        <TextField
          label="What the time is called"
          value={act.timer}
          maxLength={40}
          onChange={(timer) => timer.trim() && set({ ...act, timer })}
        />
        <NumberField
          label="It runs for"
          unit="s"
          min={0.001}
          value={act.ms / 1000}
          onChange={(s) => s !== null && s > 0 && set({ ...act, ms: Math.max(1, Math.round(s * 1000)) })}
        />
        <Choice
          label="When it runs already"
          value={act.policy ?? 'restart'}
          options={[
            { value: 'restart', label: 'it begins anew' },
            { value: 'keep', label: 'it runs on' },
          ]}
          onChange={(policy) => policy && set({ ...act, policy })}
        />
      </>
    )
  if ('cancel' in act)
    return (
      <Pick
        label="Which time"
        value={act.cancel}
        options={names.timers.map((t) => ({ value: t, label: t }))}
        onChange={(cancel) => set({ cancel })}
      />
    )
  return (
    <>
      <TextField
        label="What is told"
        mono
        value={act.publish}
        maxLength={120}
        onChange={(publish) => set({ ...act, publish })}
      />
      <TextField
        label="Its value"
        mono
        value={act.value}
        maxLength={60}
        hint="$level is the level of the input, $ch1 the state of channel 1."
        onChange={(value) => set({ ...act, value })}
      />
    </>
  )
}

const newActs = (names: Names): { label: string; act: Do }[] => [
  { label: 'switch a channel', act: { set: 'toggle', ch: names.channels[0] ?? 1 } },
  { label: 'let a time run', act: { timer: 'time', ms: 45_000 } },
  { label: 'tell the hub', act: { publish: 'place/thing', value: '$level' } },
  ...(names.timers[0] === undefined ? [] : [{ label: 'stop a time', act: { cancel: names.timers[0] } }]),
]

export function RuleWords({
  rule,
  names,
  tried,
  onChange,
  onRemove,
  onTried,
}: {
  rule: Rule
  names: Names
  tried: boolean
  onChange: (rule: Rule) => void
  onRemove: () => void
  onTried: (tried: boolean) => void
}) {
  const set = (change: Partial<Rule>) => onChange({ ...rule, ...change })
  const parts: ReactNode[] = rule.do.map((act, i) => (
    <span key={i}>
      {i > 0 && ', then '}
      <Word
        name={`${rule.id}: does ${i + 1}`}
        open={
          <>
            <ActFields
              act={act}
              names={names}
              set={(next) => set({ do: rule.do.map((d, k) => (k === i ? next : d)) })}
            />
            {rule.do.length > 1 && (
              <button
                type="button"
                className="justify-self-start underline"
                onClick={() => set({ do: rule.do.filter((_, k) => k !== i) })}
              >
                Take this out
              </button>
            )}
          </>
        }
      >
        {actWords(act)}
      </Word>
    </span>
  ))
  return (
    <li className="grid gap-1.5 rounded-[10px] border border-rule bg-sheet px-3.5 py-2.5">
      <p className="leading-[1.65]">
        When <WhenWords rule={rule} names={names} set={set} />, <Conditions rule={rule} names={names} set={set} />:{' '}
        {parts}{' '}
        <Word
          name={`${rule.id}: more`}
          open={
            <div className="grid gap-2">
              {newActs(names).map(({ label, act }) => (
                <button
                  key={label}
                  type="button"
                  className={buttonClass('plain')}
                  onClick={() => set({ do: [...rule.do, act] })}
                >
                  Also {label}
                </button>
              ))}
              <button type="button" className={buttonClass('quiet')} onClick={onRemove}>
                Take this rule out
              </button>
            </div>
          }
        >
          …
        </Word>
      </p>
      <label className="flex min-h-6 items-center gap-2 text-[0.93rem] text-ink-2">
        <input type="checkbox" className="size-5" checked={tried} onChange={(e) => onTried(e.target.checked)} />
        Tried on the unit: it did this
      </label>
    </li>
  )
}
