import { senseMains } from '@fresh-coat/core/behaviour/ac-sense'
import { Choice, NumberField, TextField } from '@/components/forms/fields'
import { useKept } from '@/components/frame/frame-context'
import { Tag } from '@/components/paint/paint'

/** A mains input that gives pulses while it is pressed: how many in a window are a press, and how long one has to press. */

interface Given {
  windowMs: number
  pulsesPerCycle: 1 | 2
  deadMs: number
  noise: string
}
const start: Given = { windowMs: 300, pulsesPerCycle: 1, deadMs: 0, noise: '0' }
const width = 420

/** Counts on a line: what noise gives, what a press gives, and where the threshold lies between. */
function Counts({
  noiseMax,
  least,
  most,
  threshold,
}: {
  noiseMax: number
  least: number
  most: number
  threshold: number | null
}) {
  const end = Math.max(most, noiseMax, threshold ?? 0) + 2
  const x = (n: number) => (n / end) * width
  return (
    <svg
      viewBox={`-6 0 ${width + 12} 92`}
      className="w-full"
      role="img"
      aria-label={`Released up to ${noiseMax} counts, pressed ${least} to ${most}${threshold === null ? ', too near to tell apart' : `, a press from ${threshold}`}`}
    >
      <rect x="0" y="34" width={width} height="18" rx="4" fill="var(--sheet-2)" />
      <rect x="0" y="34" width={Math.max(3, x(noiseMax))} height="18" rx="4" fill="var(--ochre-line)" />
      <rect x={x(least)} y="34" width={Math.max(3, x(most) - x(least))} height="18" rx="4" fill="var(--verdigris)" />
      <text x="0" y="24" fontSize="14" fill="var(--ink-2)">
        released, up to {noiseMax}
      </text>
      <text x={width} y="24" textAnchor="end" fontSize="14" fill="var(--ink-2)">
        pressed, {least === most ? least : `${least} to ${most}`}
      </text>
      {threshold !== null && (
        <>
          <path d={`M${x(threshold)} 28V62`} stroke="var(--ink)" strokeWidth="3" />
          <text x={x(threshold)} y="80" textAnchor="middle" fontSize="14" fontWeight="700" fill="var(--ink)">
            from {threshold}
          </text>
        </>
      )}
    </svg>
  )
}

export function MainsInput() {
  const [given, setGiven] = useKept<Given>('mains input', start)
  const set = (change: Partial<Given>) => setGiven({ ...given, ...change })
  const noise = (given.noise.match(/\d+/g) ?? []).map(Number).slice(0, 100)
  const sense = senseMains({
    hz: [50, 60],
    pulsesPerCycle: given.pulsesPerCycle,
    edges: 1,
    windowMs: given.windowMs,
    deadMs: given.deadMs,
    noise,
    pressMaxMs: 1500,
  })
  const least = Math.min(...sense.perHz.map((h) => h.min))
  const most = Math.max(...sense.perHz.map((h) => h.max))
  return (
    <div className="grid gap-4">
      <Counts noiseMax={sense.noiseMax} least={least} most={most} threshold={sense.threshold} />
      <p className="flex gap-2.5" role="status">
        <Tag severity={sense.separable ? 'ok' : 'error'}>{sense.separable ? 'tells' : 'does not tell'}</Tag>
        <span>
          {sense.separable
            ? `A press from ${sense.threshold} counts in ${given.windowMs} ms, on 50 and 60 Hz. Pressed for ${sense.sureMs} ms it is always heard, from ${sense.bestMs} ms sometimes; after ${sense.worstMs} ms at the latest. Then nothing counts for ${sense.lockoutMs} ms.`
            : `Pressed and released are too near: a window of ${sense.needWindowMs} ms would tell them apart.`}
          {sense.perHz.some((h) => h.boundary) &&
            ' The dead time is a whole number of pulses: jitter decides between two counts.'}
        </span>
      </p>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Window"
          unit="ms"
          min={10}
          max={10_000}
          whole
          value={given.windowMs}
          onChange={(n) => n !== null && n >= 10 && set({ windowMs: n })}
        />
        <NumberField
          label="Deaf after a pulse for"
          unit="ms"
          min={0}
          max={1000}
          value={given.deadMs}
          onChange={(n) => n !== null && n >= 0 && set({ deadMs: n })}
        />
      </div>
      <Choice
        label="Pulses a cycle"
        value={String(given.pulsesPerCycle)}
        options={[
          { value: '1', label: 'one' },
          { value: '2', label: 'two' },
        ]}
        onChange={(n) => set({ pulsesPerCycle: n === '2' ? 2 : 1 })}
      />
      <TextField
        label="Counts with the button released"
        mono
        value={given.noise}
        maxLength={200}
        placeholder="0 2 1"
        hint="A long cable beside live wires couples pulses in: read some windows."
        onChange={(text) => set({ noise: text })}
      />
      <p className="text-[0.93rem] text-ink-2">
        These boards have no isolation: all of the electronics is at mains potential.
      </p>
    </div>
  )
}
