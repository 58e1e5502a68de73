import { AddedSensor, sensorFindings } from '@fresh-coat/core/pins/sensor'
import { NumberField, TextField } from '@/components/forms/fields'
import { buttonClass, Tag } from '@/components/paint/paint'

/** Sensors of one's own: what was read of each, and what that says. */
function Sensor({
  s,
  n,
  change,
  remove,
}: {
  s: AddedSensor
  n: number
  change: (to: Partial<AddedSensor>) => void
  remove: () => void
}) {
  const findings = sensorFindings(s)
  const number = (label: string, key: 'lowest' | 'highest' | 'idle' | 'stirred' | 'closed' | 'beside', hint = '') => (
    <NumberField
      label={label}
      min={-1e6}
      max={1e6}
      value={s[key]}
      hint={hint}
      onChange={(value) => change({ [key]: value })}
    />
  )
  return (
    <section className="grid gap-3 border-b border-rule-2 pb-4" aria-label={`Sensor ${n}`}>
      {findings.length === 0 ? (
        <p className="flex gap-2.5">
          <Tag severity="watch">not tried</Tag> Read it left alone, then warmed or lit by hand: its value must rise.
        </p>
      ) : (
        findings.map((f) => (
          <p key={f.code} className="flex gap-2.5">
            <Tag severity={f.severity} />
            <span>
              {f.message} <span className="text-ink-2">{f.because}</span> {f.next}
            </span>
          </p>
        ))
      )}
      <div className="grid grid-cols-2 gap-3">
        {number('Left alone it reads', 'idle')}
        {number('Warmed or lit by hand', 'stirred')}
        {number('Closed, after half an hour', 'closed')}
        {number('A thermometer beside it', 'beside')}
        <TextField label="It measures" value={s.what} maxLength={60} onChange={(what) => change({ what })} />
        <TextField
          label="On pin"
          mono
          value={s.pin}
          maxLength={20}
          onChange={(pin) => change({ pin: pin.toUpperCase() })}
        />
        {number('Lowest it can read', 'lowest')}
        {number('Highest it can read', 'highest')}
      </div>
      <TextField
        label="Its contacts in order, read from the part itself"
        value={s.order}
        maxLength={60}
        placeholder="3V3, data, GND, flat side up"
        onChange={(order) => change({ order })}
      />
      <button type="button" className={`${buttonClass('quiet')} justify-self-start`} onClick={remove}>
        It was taken out again
      </button>
    </section>
  )
}

export function AddedSensors({
  sensors,
  put,
}: {
  sensors: readonly AddedSensor[]
  put: (sensors: AddedSensor[]) => void
}) {
  return (
    <div className="grid gap-4">
      {sensors.map((s, i) => (
        <Sensor
          key={i}
          s={s}
          n={i + 1}
          change={(to) => put(sensors.map((x, j) => (j === i ? { ...x, ...to } : x)))}
          remove={() => put(sensors.filter((_, j) => j !== i))}
        />
      ))}
      <button
        type="button"
        className={`${buttonClass(sensors.length === 0 ? 'main' : 'plain')} justify-self-start`}
        disabled={sensors.length >= 12}
        onClick={() => put([...sensors, AddedSensor.parse({ what: 'temperature' })])}
      >
        {sensors.length === 0 ? 'A sensor was added' : 'Another one'}
      </button>
    </div>
  )
}
