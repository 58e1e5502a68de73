'use client'
import { dayWords } from '@fresh-coat/core/edge/day'
import { nth } from '@fresh-coat/core/edge/nth'
import {
  type ChannelPrediction,
  type Drill,
  drillOrder,
  drillWords,
  predictDrill,
} from '@fresh-coat/core/steps/prove/drills'
import { NumberField, TextField, Tick } from '@/components/forms/fields'
import { useKept } from '@/components/frame/frame-context'
import { useUnitOnAir } from '@/components/live/unit-air'
import { useNow } from '@/components/live/use-air'
import { since } from '@/components/live/words'
import { buttonClass, clockOf, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = SurfaceProps<'prove'>

/** What was predicted of one channel, as one sentence. */
function channelWords(c: ChannelPrediction, several: boolean): string {
  const parts = [
    c.meanwhile,
    c.local === null ? '' : c.local ? 'its button still works' : 'its button does nothing',
    `it is ${c.after} when that is back${c.loadAfter && c.loadAfter !== c.after ? `, so its load is ${c.loadAfter}` : ''}`,
  ].filter(Boolean)
  const words = parts.join('; ')
  return several ? `Channel ${c.ch}: ${words}.` : `${words.charAt(0).toUpperCase()}${words.slice(1)}.`
}

/** How long the unit was away when it was heard last, offered as what was timed. */
export function HeardAway({ view, use }: { view: Props['view']; use: (seconds: number) => void }) {
  const { data } = useUnitOnAir(view.number)
  const now = useNow()
  if (!data?.listening || now === null) return null
  // What it did days ago was no drill.
  const back = data.happenings.findIndex((h) => h.kind === 'online' && now - h.at < freshMs)
  const away = data.happenings.slice(back + 1).find((h) => h.kind === 'offline')
  if (back < 0 || !away) return null
  const came = nth(data.happenings, back)
  const seconds = Math.round((came.at - away.at) / 1000)
  return (
    <p className="flex flex-wrap items-baseline gap-x-3 text-[0.93rem]">
      Heard: away at {clockOf(new Date(away.at).toISOString())}, on the air again {since(came.at - away.at)} later.
      <button type="button" className="underline underline-offset-4" onClick={() => use(seconds)}>
        Take {seconds} s
      </button>
    </p>
  )
}

/** So long ago it may still be the one that was just tried. */
const freshMs = 30 * 60_000

const empty = { seen: '', seconds: null as number | null, sure: false }

function OneDrill({ drill, props }: { drill: Drill; props: Props }) {
  const { view, record } = props
  const [typed, setTyped] = useKept(`drill ${drill}`, empty)
  const prediction = predictDrill(view, drill)
  const last = record.data.drills.filter((d) => d.drill === drill).at(-1)
  const words = drillWords[drill]
  const log = (as: 'predicted' | 'otherwise') => {
    record.patch({
      drills: [
        ...record.data.drills.slice(-59),
        { drill, on: view.today, as, seen: as === 'predicted' ? '' : typed.seen.trim(), seconds: typed.seconds },
      ],
    })
    setTyped(empty)
  }
  return (
    <section className="grid gap-2 border-t border-rule pt-3 first:border-t-0" aria-label={words.title}>
      <h3 className="flex flex-wrap items-baseline gap-x-3 text-[1.05rem]">
        {words.title}
        {last && (
          <span className="text-[0.93rem] font-normal text-ink-2">
            <Tag severity={last.as === 'predicted' ? 'ok' : 'watch'}>
              {last.as === 'predicted' ? 'as predicted' : 'otherwise'}
            </Tag>{' '}
            {dayWords(last.on)}
            {last.seconds !== null && `, back after ${last.seconds} s`}
            {last.seen && `: ${last.seen}`}
          </span>
        )}
      </h3>
      {prediction === null ? (
        <p className="text-ink-2">Nothing is predicted without its pins: say what you see.</p>
      ) : (
        <ul className="grid gap-0.5">
          {prediction.channels.map((c) => (
            <li key={c.ch}>{channelWords(c, prediction.channels.length > 1)}</li>
          ))}
          {prediction.lost.length > 0 && <li className="text-ink-2">Gone meanwhile: {prediction.lost.join('; ')}.</li>}
        </ul>
      )}
      <p className="text-ink-2">{words.how}</p>
      {prediction?.guarded && (
        <Tick
          label="Its load is off or unplugged, or somebody stands beside it"
          checked={typed.sure}
          onChange={(sure) => setTyped({ ...typed, sure })}
        />
      )}
      <div className="grid items-end gap-3 sm:grid-cols-[10rem_minmax(0,1fr)]">
        <NumberField
          label="Back after"
          unit="s"
          min={0}
          max={100_000}
          value={typed.seconds}
          onChange={(seconds) => setTyped({ ...typed, seconds })}
        />
        <TextField
          label="What went otherwise"
          value={typed.seen}
          maxLength={500}
          onChange={(seen) => setTyped({ ...typed, seen })}
        />
      </div>
      {view.topic !== null && <HeardAway view={view} use={(seconds) => setTyped({ ...typed, seconds })} />}
      <span className="flex flex-wrap gap-2">
        <button
          type="button"
          className={buttonClass('plain')}
          disabled={prediction?.guarded === true && !typed.sure}
          onClick={() => log('predicted')}
        >
          As predicted
        </button>
        <button
          type="button"
          className={buttonClass('plain')}
          disabled={typed.seen.trim() === '' || (prediction?.guarded === true && !typed.sure)}
          onClick={() => log('otherwise')}
        >
          It did otherwise
        </button>
      </span>
    </section>
  )
}

/** What else may go away for a while: each predicted from its rules, tried when it is worth it, and only a difference is written out. */
export const Drills = (props: Props) => (
  <div className="grid gap-4">
    {drillOrder(props.view)
      .filter((drill) => drill !== 'mains-off')
      .map((drill) => (
        <OneDrill key={drill} drill={drill} props={props} />
      ))}
  </div>
)

/** What the power cut is predicted to do, beside the drawing of it. */
export function PowerCutPredicted({ view }: Pick<Props, 'view'>) {
  const prediction = predictDrill(view, 'mains-off')
  if (!prediction) return null
  return (
    <ul className="grid gap-0.5" aria-label="Predicted">
      {prediction.channels.map((c) => (
        <li key={c.ch}>Predicted: {channelWords({ ...c, local: null }, prediction.channels.length > 1)}</li>
      ))}
    </ul>
  )
}
