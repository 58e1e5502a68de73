import { foundPins } from '@fresh-coat/core/pins/session'
import { Card } from '@/components/frame/card'
import { buttonClass, Key, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import type { Editing } from '../editing'
import { fnWords } from '../words'
import { KnownSoFar } from './trial'
import { type At, percent } from './words'

type Props = SurfaceProps<'pins'>

/** What a search found, and the trial functions set back after it. */

export function FoundCard({
  at,
  view,
  edit,
  template,
}: {
  at: At
  view: Props['view']
  edit: Editing
  template: Props['record']['data']['template']
}) {
  const pins = foundPins(at.session, at.plan, String(view.number), template)
  const take = () => {
    edit.take(pins.map((f) => f.pin))
    at.put({ taken: true })
  }
  return (
    <Card
      lead={`${at.session.trials.filter((t) => t.on.length > 0).length} trials`}
      ask={pins.length > 0 ? 'This is what was found' : 'Nothing was found for sure'}
      how={
        pins.length > 0
          ? 'Its channels and levels can be said anew, pin by pin.'
          : 'Feed it another way, or look for fewer at once.'
      }
    >
      <ul className="grid gap-1.5" aria-label="Found">
        {pins.map(({ pin, p, levelUnknown }) => (
          <li key={pin.pin} className="flex gap-2.5">
            <Tag severity={p === null || p >= 0.99 ? 'ok' : 'watch'}>{p === null ? 'pressed' : percent(p)}</Tag>
            <span>
              <strong className="pin">{pin.pin}</strong> {fnWords[pin.fn]}
              {pin.ch ? ` ${pin.ch}` : ''}
              {levelUnknown ? ', its level is not known yet' : `, on at ${pin.active ?? 'high'}`}
            </span>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        {pins.length > 0 && (
          <button type="button" data-key="Enter" className={buttonClass('main')} onClick={take}>
            Take them into the template<Key>Enter</Key>
          </button>
        )}
        <button type="button" className={buttonClass('plain')} onClick={() => at.put({ taken: true })}>
          Leave it at that
        </button>
      </div>
      <KnownSoFar found={at.found} plan={at.plan} />
    </Card>
  )
}

export function RestoreCard({ session, put }: Pick<At, 'session' | 'put'>) {
  const driven = [...new Set(session.trials.flatMap((t) => t.on))]
  return (
    <Card
      lead="Before anything else"
      ask="Set the trial functions back"
      how="In the device’s settings: every pin that was an output for a trial is unused again. One that stays would be driven at the next start."
      answers={[{ label: 'All of them are unused again', pick: () => put({ restored: true }) }]}
    >
      <p className="pin break-words">{driven.join(', ')}</p>
    </Card>
  )
}
