import { crossedBy, fitTravel } from '@fresh-coat/core/behaviour/travel'
import { templateOf } from '@fresh-coat/core/steps/pins/facts'
import { useEffect, useRef, useState } from 'react'
import { Choice } from '@/components/forms/fields'
import { useKept } from '@/components/frame/frame-context'
import { StepLink } from '@/components/frame/step-link'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'behaviour'>, 'view' | 'record'>
type Way = 'open' | 'close'

/** A motor's runs, timed with one key; which way is crossed, by two questions. */

const warningWords = {
  'few-open': 'fewer than three runs open',
  'few-close': 'fewer than three runs close',
  'spread-open': 'its runs open scatter widely',
  'spread-close': 'its runs close scatter widely',
  ratio: 'one way takes much longer than the other',
} as const

/** Seconds since it was started, while it runs. */
function Stopwatch({ done }: { done: (ms: number) => void }) {
  const [began, setBegan] = useState<number | null>(null)
  const [shown, setShown] = useState(0)
  const frame = useRef(0)
  useEffect(() => {
    if (began === null) return
    const tick = () => {
      setShown(performance.now() - began)
      frame.current = requestAnimationFrame(tick)
    }
    tick()
    return () => cancelAnimationFrame(frame.current)
  }, [began])
  const press = () => {
    if (began === null) {
      setShown(0)
      setBegan(performance.now())
      return
    }
    done(Math.round(performance.now() - began))
    setBegan(null)
  }
  return (
    <button
      type="button"
      className={`${buttonClass('main')} min-h-[4rem] justify-self-stretch text-[1.3rem]`}
      onClick={press}
    >
      {began === null ? 'Start with the motor' : `${(shown / 1000).toFixed(1)} s: it stands at its end`}
    </button>
  )
}

function Runs({
  runs,
  dropped,
  remove,
}: {
  runs: readonly { dir: Way; ms: number; at: number }[]
  dropped: readonly number[]
  remove: (at: number) => void
}) {
  const most = Math.max(1, ...runs.map((r) => r.ms))
  return (
    <ul className="grid gap-1" aria-label="Runs">
      {runs.map((r) => (
        <li key={r.at} className="grid grid-cols-[3.6rem_minmax(0,1fr)_5.5rem_auto] items-center gap-2">
          <span className="text-ink-2">{r.dir}</span>
          <span className="h-3 rounded-[3px] bg-sheet-2">
            <span
              className={`block h-3 rounded-[3px] ${dropped.includes(r.ms) ? 'bg-oxide' : 'bg-prussian'}`}
              style={{ width: `${(100 * r.ms) / most}%` }}
            />
          </span>
          <span className="pin">{(r.ms / 1000).toFixed(2)} s</span>
          <button
            type="button"
            className="min-h-6 underline"
            aria-label={`Take the run of ${(r.ms / 1000).toFixed(2)} s out`}
            onClick={() => remove(r.at)}
          >
            {dropped.includes(r.ms) ? 'far off' : 'out'}
          </button>
        </li>
      ))}
    </ul>
  )
}

const cures = {
  nothing: 'Nothing is crossed.',
  outputs:
    'The outputs are crossed: swap the two output wires, or open and close in the template and the inputs’ channels with them.',
  inputs: 'The inputs are crossed: swap the two input wires, or the channels of the two inputs.',
  both: 'Outputs and inputs are crossed: swap both pairs together, input 1 and output 1 with input 2 and output 2.',
} as const
const moves = [
  { value: 'open', label: 'it opens' },
  { value: 'close', label: 'it closes' },
] as const

function Crossed({ fixed, number }: { fixed: boolean; number: number }) {
  const [hub, setHub] = useKept<Way | null>('hub opens', null)
  const [wall, setWall] = useKept<Way | null>('wall opens', null)
  const crossed = crossedBy(hub, wall)
  return (
    <div className="grid gap-2 border-t border-rule pt-3">
      <Choice label="The hub says open" value={hub} options={moves.map((m) => ({ ...m }))} onChange={setHub} />
      <Choice
        label="The wall’s upper button is pressed"
        value={wall}
        options={moves.map((m) => ({ ...m }))}
        onChange={setWall}
      />
      {crossed && (
        <p role="status" className={crossed === 'nothing' ? '' : 'font-semibold text-ochre'}>
          {cures[crossed]}{' '}
          {(crossed === 'outputs' || crossed === 'both') && (
            <>
              In the template that is one press, at{' '}
              <StepLink step="pins" number={number} className="underline underline-offset-4">
                Pins
              </StepLink>
              , under Motors.{' '}
            </>
          )}
          {crossed !== 'nothing' &&
            (fixed
              ? 'Wires of fixed wiring are for whoever may do it; here only the template is changed.'
              : 'Wires are changed with the circuit off and proved dead.')}
        </p>
      )}
    </div>
  )
}

export function Travel({ view, record: { data, patch } }: Props) {
  const template = templateOf(view)
  const [dir, setDir] = useState<Way>('open')
  const motor = template?.motors?.[0]
  if (!motor) return <p>The pin template has no motor.</p>
  const known = data.travels.find((t) => t.open === motor.open) ?? {
    open: motor.open,
    openMs: 0,
    closeMs: 0,
    marginMs: 500,
    runs: [],
  }
  const both = (['open', 'close'] as const).every((d) => known.runs.some((r) => r.dir === d))
  const fit = both ? fitTravel(known.runs, { tolPct: 5, meanMove: 0.5 }) : null
  const put = (runs: typeof known.runs) => {
    const whole = (['open', 'close'] as const).every((d) => runs.some((r) => r.dir === d))
    const next = whole ? fitTravel(runs, { tolPct: 5, meanMove: 0.5 }) : null
    const row = {
      ...known,
      runs,
      ...(next
        ? {
            openMs: Math.round(next.open.meanMs),
            closeMs: Math.round(next.close.meanMs),
            marginMs: Math.max(next.open.marginMs, next.close.marginMs),
          }
        : {}),
    }
    patch({ travels: [...data.travels.filter((t) => t.open !== motor.open), row] })
  }
  return (
    <div className="grid gap-4">
      <p>Three to five runs each way, from end to end, motor warm. Up is usually slower than down.</p>
      <Choice
        label="It runs"
        value={dir}
        options={(['open', 'close'] as const).map((d) => ({ value: d, label: d }))}
        onChange={(d) => d && setDir(d)}
      />
      <Stopwatch
        done={(ms) => {
          if (ms > 0) put([...known.runs, { dir, ms }].slice(-40))
        }}
      />
      {known.runs.length > 0 && (
        <Runs
          runs={known.runs.map((r, at) => ({ ...r, at }))}
          dropped={fit ? [...fit.open.dropped, ...fit.close.dropped] : []}
          remove={(at) => put(known.runs.filter((_, i) => i !== at))}
        />
      )}
      {fit && (
        <p role="status">
          Opens in {(fit.open.meanMs / 1000).toFixed(2)} s, closes in {(fit.close.meanMs / 1000).toFixed(2)} s
          {fit.rehomeMoves === null ? '.' : `; run to an end after ${fit.rehomeMoves} moves at the latest.`}
          {fit.warnings.length > 0 && (
            <span className="text-ochre"> Look: {fit.warnings.map((w) => warningWords[w]).join(', ')}.</span>
          )}
        </p>
      )}
      <Crossed fixed={view.board?.fixedWiring === true} number={view.number} />
    </div>
  )
}
