import { leastDeadMs, type Motor, motorsWith, swapped } from '@fresh-coat/core/pins/motors'
import type { PinTemplate } from '@fresh-coat/core/pins/template'
import { Choice, NumberField } from '@/components/forms/fields'
import { Word } from '@/components/frame/drawer'
import { buttonClass, Tag } from '@/components/paint/paint'

/** Which two relays work one motor, as a sentence; crossed outputs are put right by one press. */

function ChannelWord({
  name,
  value,
  channels,
  onChange,
}: {
  name: string
  value: number
  channels: readonly number[]
  onChange: (ch: number) => void
}) {
  return (
    <Word
      name={name}
      faulty={!channels.includes(value)}
      open={
        <Choice
          label={name}
          value={String(value)}
          options={channels.map((ch) => ({ value: String(ch), label: `channel ${ch}` }))}
          onChange={(ch) => ch !== null && onChange(Number(ch))}
        />
      }
    >
      channel {value}
    </Word>
  )
}

function MotorSentence({
  motor,
  n,
  channels,
  change,
}: {
  motor: Motor
  n: number
  channels: readonly number[]
  change: (to: Partial<Motor>) => void
}) {
  const dead = motor.deadMs ?? 0
  return (
    <p className="leading-[1.7]">
      <ChannelWord
        name={`Motor ${n} opens by`}
        value={motor.open}
        channels={channels}
        onChange={(open) => change({ open })}
      />{' '}
      opens,{' '}
      <ChannelWord
        name={`Motor ${n} closes by`}
        value={motor.close}
        channels={channels}
        onChange={(close) => change({ close })}
      />{' '}
      closes;{' '}
      <Word
        name={`Motor ${n}, both at once`}
        faulty={motor.interlock !== true}
        open={
          <Choice
            label="Both at once"
            value={motor.interlock === true ? 'never' : 'may be'}
            options={[
              { value: 'never', label: 'never: interlocked' },
              { value: 'may be', label: 'nothing prevents it' },
            ]}
            onChange={(is) => change({ interlock: is === 'never' })}
          />
        }
      >
        {motor.interlock === true ? 'never both at once' : 'nothing keeps both from being on'}
      </Word>
      , and it stands still for{' '}
      <Word
        name={`Motor ${n} stands still`}
        faulty={dead < leastDeadMs}
        open={
          <NumberField
            label="Pause before it turns round"
            unit="ms"
            min={0}
            max={10_000}
            whole
            value={dead}
            onChange={(ms) => change({ deadMs: ms ?? 0 })}
          />
        }
      >
        {dead} ms
      </Word>{' '}
      before it turns round.
    </p>
  )
}

export function Motors({
  template,
  replace,
}: {
  template: PinTemplate | null
  replace: (template: PinTemplate) => void
}) {
  if (!template) return <p>There is no pin template yet.</p>
  const motors = template.motors ?? []
  const channels = [...new Set(template.pins.flatMap((p) => (p.fn === 'relay' && p.ch ? [p.ch] : [])))].sort(
    (a, b) => a - b,
  )
  const put = (next: Motor[]) => {
    const { motors: _, ...rest } = template
    replace(next.length > 0 ? { ...rest, motors: next } : rest)
  }
  const more = motorsWith(motors, channels)
  return (
    <div className="grid gap-4">
      <p className="text-ink-2">
        Two relays that work one motor are its two ways. Both on at once burns it: the interlock belongs into the
        firmware, not only here.
      </p>
      {motors.map((motor, i) => (
        // The pair of a motor may be changed: its place in the list is what it is known by.
        <section
          key={`motor ${i + 1}`}
          className="grid gap-2 border-b border-rule-2 pb-3"
          aria-label={`Motor ${i + 1}`}
        >
          <MotorSentence
            motor={motor}
            n={i + 1}
            channels={channels}
            change={(to) => put(motors.map((m, j) => (j === i ? { ...m, ...to } : m)))}
          />
          {motor.open === motor.close && (
            <p className="flex gap-2.5">
              <Tag severity="error" /> Opening and closing by one relay: it would run one way only.
            </p>
          )}
          <div className="flex flex-wrap gap-2">
            <button
              type="button"
              className={buttonClass()}
              onClick={() => put(motors.map((m, j) => (j === i ? swapped(m) : m)))}
            >
              It runs the wrong way: swap open and close
            </button>
            <button
              type="button"
              className={buttonClass('quiet')}
              onClick={() => put(motors.filter((_, j) => j !== i))}
            >
              It is no motor
            </button>
          </div>
        </section>
      ))}
      {more ? (
        <button
          type="button"
          className={`${buttonClass('main')} justify-self-start`}
          onClick={() => put([...motors, more])}
        >
          Channels {more.open} and {more.close} work a motor
        </button>
      ) : (
        motors.length === 0 && <p>It takes two relays on channels of their own.</p>
      )}
    </div>
  )
}
