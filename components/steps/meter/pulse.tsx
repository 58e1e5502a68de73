import type { PulseMeter } from '@fresh-coat/core/metering/pulse'
import { emptyPart, type PulsePart, pulseOf, readFrames, wantedOf } from '@fresh-coat/core/metering/pulse-of-unit'
import { UpdateBars } from '@/components/drawings/update-bars'
import { AreaField, NumberField } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { useKept } from '@/components/frame/frame-context'
import { Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'meter'>, 'record'>

/** Meters that give pulses or frames: what a pulse is worth, how soon a power is seen, which corrections make it right. */

const names: Record<keyof PulsePart, [label: string, unit: string]> = {
  vref: ['Reference voltage', 'V'],
  foscHz: ['Clock', 'Hz'],
  powerGain: ['Power: gain', ''],
  powerDivisor: ['Power: divisor', ''],
  voltageGain: ['Voltage: gain', ''],
  voltageDivisor: ['Voltage: divisor', ''],
  currentGain: ['Current: gain', ''],
  currentDivisor: ['Current: divisor', ''],
  topOhm: ['Divider, towards the mains', 'Ω'],
  bottomOhm: ['Divider, towards ground', 'Ω'],
  shuntOhm: ['Shunt', 'Ω'],
  timeoutS: ['Nothing for so long is 0 W', 's'],
  windowS: ['It counts for', 's'],
  powerPeriodUs: ['Power: one period', 'µs'],
  voltageWidthUs: ['Voltage: a high half', 'µs'],
  currentWidthUs: ['Current: a high half', 'µs'],
  refP: ['Reference, power', 'W'],
  refV: ['Reference, voltage', 'V'],
  refI: ['Reference, current', 'A'],
  nowP: ['Correction now, power', ''],
  nowV: ['Correction now, voltage', ''],
  nowI: ['Correction now, current', ''],
}
const groups: readonly [string, readonly (keyof PulsePart)[]][] = [
  [
    'From the document of your own part',
    ['vref', 'foscHz', 'powerGain', 'powerDivisor', 'voltageGain', 'voltageDivisor', 'currentGain', 'currentDivisor'],
  ],
  ['Around it, on the board', ['topOhm', 'bottomOhm', 'shuntOhm']],
  ['What was read', ['powerPeriodUs', 'voltageWidthUs', 'currentWidthUs', 'refP', 'refV', 'refI']],
  ['What is set in the unit', ['timeoutS', 'windowS', 'nowP', 'nowV', 'nowI']],
]
const short = (n: number): string => String(Number(n.toPrecision(5)))

function Worth({ meter }: { meter: PulseMeter }) {
  const corrections = Object.entries(meter.newCorrections)
  return (
    <div className="grid gap-3" role="status">
      <UpdateBars resolution={meter.resolution} />
      {meter.wattPerHz !== null && meter.whPerPulse !== null && (
        <p>
          <span className="font-title text-[1.9rem] leading-tight font-bold">
            {short(meter.whPerPulse * 1000)} mWh a pulse
          </span>{' '}
          <span className="text-ink-2">
            {short(meter.wattPerHz)} W per pulse a second
            {meter.minW === null ? '' : `; below ${short(meter.minW)} W it shows 0`}
          </span>
        </p>
      )}
      {meter.P !== null && (
        <p>
          It reads {short(meter.P)} W{meter.V === null ? '' : `, ${short(meter.V)} V`}
          {meter.I === null ? '' : `, ${short(meter.I)} A`}
          {meter.pf === null ? '' : `: power factor ${meter.pf.toFixed(3)}, which is 1 with a heater`}.
        </p>
      )}
      {corrections.length > 0 && (
        <p>
          New corrections:{' '}
          {corrections.map(([q, c]) => (
            <strong key={q} className="pin mr-4">
              {q} {short(c)}
            </strong>
          ))}
        </p>
      )}
    </div>
  )
}

function Frames({ record: { data, patch } }: Props) {
  const layout = data.frameLayout
  const [frames, setFrames] = useKept('meter frames', '')
  let given: unknown = null
  try {
    given = layout.trim() === '' ? null : JSON.parse(layout)
  } catch {
    given = undefined
  }
  const read = given ? readFrames(frames, given) : null
  const last = read?.good.at(-1)
  return (
    <Fold summary="It sends frames over a line instead">
      {given === undefined && <p className="text-oxide">The layout is not JSON: nothing is decoded by it.</p>}
      {last && (
        <p role="status">
          <strong className="pin">
            {[
              last.P !== null && `${short(last.P)} W`,
              last.V !== null && `${short(last.V)} V`,
              last.I !== null && `${short(last.I)} A`,
            ]
              .filter(Boolean)
              .join(', ')}
          </strong>{' '}
          by the last good one.
        </p>
      )}
      {read && (
        <p className="flex gap-2.5">
          <Tag severity={read.bad + read.unread.length > 0 ? 'watch' : 'ok'} />
          {read.good.length} good, {read.bad} with a bad checksum, which count for nothing; {read.unread.length} lines
          are no frame of this layout.
        </p>
      )}
      <AreaField
        label="Frames in hex, one to a line"
        rows={5}
        value={frames}
        maxLength={200_000}
        onChange={setFrames}
      />
      <AreaField
        label="Layout of a frame: length, header, fields, checksum"
        rows={6}
        value={layout}
        maxLength={10_000}
        onChange={(frameLayout) => patch({ frameLayout })}
        hint="As the command meter pulse takes it: where each field begins, how many bytes it has."
      />
    </Fold>
  )
}

export function Pulse({ record }: Props) {
  const { data, patch } = record
  const part = data.pulse ?? emptyPart
  const outcome = pulseOf(part)
  const wanted = wantedOf(part)
  return (
    <div className="grid gap-4">
      {outcome === null ? (
        <p>
          Still to say: {wanted.map((k) => names[k][0].toLowerCase()).join(', ')}. They stand in the document of the
          part, and on the board: none is guessed.
        </p>
      ) : outcome.ok ? (
        <Worth meter={outcome.value} />
      ) : (
        <p className="text-oxide">{outcome.faults[0]?.message}</p>
      )}
      {groups.map(([title, fields]) => (
        <fieldset key={title} className="grid grid-cols-2 gap-3 sm:grid-cols-4">
          <legend className="mb-1 font-semibold">{title}</legend>
          {fields.map((k) => (
            <NumberField
              key={k}
              label={names[k][0]}
              unit={names[k][1]}
              min={0}
              value={part[k]}
              onChange={(n) => patch({ pulse: { ...part, [k]: n !== null && n > 0 ? n : null } })}
            />
          ))}
        </fieldset>
      ))}
      <Frames record={record} />
    </div>
  )
}
