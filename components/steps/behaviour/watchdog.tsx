import { runWatchdog, type WatchdogParams, watchdogFormula } from '@fresh-coat/core/behaviour/watchdog'
import { NumberField } from '@/components/forms/fields'
import { buttonClass, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

/** A unit that takes the modem's supply away when the line is gone: what that does over a bad day, and what each knob is worth. */

const usual: WatchdogParams = {
  checkMs: 240_000,
  retryMs: 20_000,
  failMs: 600_000,
  offMs: 12_000,
  bootMs: 150_000,
  coolMs: 900_000,
  startMs: 0,
}
const minute = 60_000
/** A modem that hangs, a short outage, a long one: each ends otherwise. */
const day = {
  untilMs: 240 * minute,
  rebootMs: 110_000,
  minOffMs: 8000,
  outages: [
    { kind: 'hang' as const, from: 17 * minute },
    { kind: 'line' as const, from: 83 * minute, to: 90 * minute },
    { kind: 'line' as const, from: 133 * minute, to: 158 * minute },
  ],
}
const knobs: readonly { key: keyof WatchdogParams; label: string; least: number }[] = [
  { key: 'checkMs', label: 'Looks every', least: 1 },
  { key: 'retryMs', label: 'Looks again after', least: 1 },
  { key: 'failMs', label: 'Gives up after', least: 0 },
  { key: 'offMs', label: 'Takes the supply away for', least: 0 },
  { key: 'bootMs', label: 'Then waits', least: 0 },
  { key: 'coolMs', label: 'Not again within', least: 0 },
]
const width = 760
const minutes = (ms: number): string => `${(ms / minute).toFixed(ms < 10 * minute ? 1 : 0)} min`

function Trace({ run }: { run: ReturnType<typeof runWatchdog> }) {
  const x = (t: number) => (Math.min(t, day.untilMs) / day.untilMs) * width
  return (
    <svg
      viewBox={`-4 0 ${width + 8} 96`}
      className="w-full"
      role="img"
      aria-label={`Over four hours: down for ${minutes(run.downMs)}, ${run.cycles.length} times the supply was taken away, ${run.needless} of them needless`}
    >
      <rect x="0" y="30" width={width} height="20" fill="var(--ok-soft)" />
      {run.down.map((s) => (
        <rect
          key={s.from}
          x={x(s.from)}
          y="30"
          width={Math.max(2, x(s.to) - x(s.from))}
          height="20"
          fill="var(--oxide)"
        />
      ))}
      {day.outages.map((o) => (
        <text key={o.from} x={x(o.from)} y="22" fontSize="13" fill="var(--ink-2)">
          {o.kind === 'hang' ? 'it hangs' : 'line away'}
        </text>
      ))}
      {run.cycles.map((c) => (
        <g key={c.t}>
          <path d={`M${x(c.t)} 30V66`} stroke="var(--ink)" strokeWidth="3" />
          <text
            x={x(c.t)}
            y="82"
            textAnchor="middle"
            fontSize="13"
            fontWeight="700"
            fill={c.kind === 'useful' ? 'var(--verdigris)' : 'var(--oxide)'}
          >
            {c.kind}
          </text>
        </g>
      ))}
      {[0, 1, 2, 3, 4].map((h) => (
        <text
          key={h}
          x={x(h * 60 * minute)}
          y="95"
          textAnchor={h === 0 ? 'start' : h === 4 ? 'end' : 'middle'}
          className="pin"
          style={{ fontSize: 12 }}
          fill="var(--ink-2)"
        >
          {h} h
        </text>
      ))}
    </svg>
  )
}

export function Watchdog({ record: { data, patch } }: Pick<SurfaceProps<'behaviour'>, 'record'>) {
  const params: WatchdogParams = data.watchdog ?? usual
  const set = (change: Partial<WatchdogParams>) => patch({ watchdog: { ...params, ...change } })
  const run = runWatchdog(params, day)
  const formula = watchdogFormula(params, day.rebootMs)
  const tries = Math.ceil(params.failMs / params.retryMs) * params.retryMs
  return (
    <div className="grid gap-4">
      <Trace run={run} />
      <p role="status">
        From an outage to the supply being taken away: {minutes(formula.meanToOffMs)} in the mean,{' '}
        {minutes(formula.worstToOffMs)} at worst; up again after {minutes(formula.meanToUpMs)}.
      </p>
      {params.bootMs + tries < day.rebootMs && (
        <p className="flex gap-2.5">
          <Tag severity="error">loop</Tag> The modem never gets to finish its start.
        </p>
      )}
      {params.offMs < day.minOffMs && (
        <p className="flex gap-2.5">
          <Tag severity="watch">short</Tag> So short an off leaves the modem’s capacitors charged: it may stay as it
          hangs.
        </p>
      )}
      <table className="plain">
        <caption className="text-left text-[0.93rem] text-ink-2">
          What giving up sooner or later would have done on this day
        </caption>
        <thead>
          <tr>
            <th>Gives up after</th>
            <th>Taken away</th>
            <th>Needless</th>
            <th>Down</th>
          </tr>
        </thead>
        <tbody>
          {[2, 5, 10, 30].map((m) => {
            const other = runWatchdog({ ...params, failMs: m * minute }, day)
            return (
              <tr key={m}>
                <td>{m} min</td>
                <td>{other.cycles.length}×</td>
                <td>{other.needless}×</td>
                <td>{minutes(other.downMs)}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <div className="grid grid-cols-2 gap-3">
        {knobs.map((k) => (
          <NumberField
            key={k.key}
            label={k.label}
            unit="s"
            min={k.least}
            max={86_400}
            value={params[k.key] / 1000}
            onChange={(s) => s !== null && s >= k.least && s <= 86_400 && set({ [k.key]: Math.round(s * 1000) })}
          />
        ))}
      </div>
      {data.watchdog && (
        <button
          type="button"
          className={`${buttonClass('quiet')} justify-self-start`}
          onClick={() => patch({ watchdog: null })}
        >
          The usual values again
        </button>
      )}
      <p className="text-[0.93rem] text-ink-2">
        Look at something beyond the modem, and at two of them. The unit has to work without the internet, and its
        contact is wired so that a dead unit leaves the modem on.
      </p>
    </div>
  )
}
