import { readPhraseLines, writePhraseLines } from '@fresh-coat/core/profile/as-lines'
import { entityItem } from '@fresh-coat/core/profile/hub'
import { entitiesOf, hubStarts } from '@fresh-coat/core/profile/hub-words'
import { rendered } from '@fresh-coat/core/profile/settings'
import { templateOf } from '@fresh-coat/core/steps/pins/facts'
import { CopyText } from '@/components/forms/copy-text'
import { AreaField } from '@/components/forms/fields'
import { useKept } from '@/components/frame/frame-context'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'hub'>, 'view' | 'record' | 'choices' | 'act'>
type Hub = Props['choices']['hubs'][number]

/** The text that the hub takes for this unit, in the hub's own words; the words are its own data, and can be changed beside it. */

function Words({ hub, act }: { hub: Hub } & Pick<Props, 'act'>) {
  const [text, setText] = useKept(`hub words ${hub.id}`, writePhraseLines(hub.phrases?.phrases ?? {}))
  const read = readPhraseLines(text)
  const save = () =>
    hub.phrases &&
    void act('word-hub', { hubId: hub.id, version: hub.version, phrases: { ...hub.phrases, phrases: read.phrases } })
  return (
    <details>
      <summary className="font-semibold">What {hub.name} takes in</summary>
      <div className="mt-2 grid gap-2">
        <AreaField
          label="Phrases: a key, a colon, what is said"
          rows={9}
          maxLength={20_000}
          value={text}
          onChange={setText}
        />
        {read.fault && <p className="font-semibold text-oxide">{read.fault}</p>}
        <button
          type="button"
          className={`${buttonClass()} justify-self-start`}
          disabled={read.fault !== null}
          onClick={save}
        >
          Keep these words
        </button>
      </div>
    </details>
  )
}

function Start({ hub, act }: { hub: Hub } & Pick<Props, 'act'>) {
  return (
    <div className="grid gap-2">
      <p>Nobody has written down yet what {hub.name} takes in. Begin with</p>
      <div className="flex flex-wrap gap-2">
        {hubStarts.map((s) => (
          <button
            key={s.name}
            type="button"
            className={buttonClass()}
            onClick={() =>
              void act('word-hub', { hubId: hub.id, version: hub.version, phrases: { ...s.phrases, name: hub.name } })
            }
          >
            {s.name}
          </button>
        ))}
      </div>
    </div>
  )
}

export function HubText({ view, record, choices, act }: Props) {
  const hub = choices.hubs.find((h) => h.id === record.data.hubId)
  if (!hub) return <p>Choose the hub first.</p>
  if (!hub.phrases) return <Start hub={hub} act={act} />
  const lamps = new Set(view.records.behaviour.data.channels.flatMap((c) => (c.load?.kind === 'lamp' ? [c.ch] : [])))
  const entities = entitiesOf({
    name: view.name,
    room: view.place,
    topic: view.topic,
    template: templateOf(view),
    hasMeter: view.board?.hasMeter === true,
    lamps,
  })
  if (entities.length === 0) return <p>It needs its pins and its name first: then there is something to tell.</p>
  const shown = rendered(hub.phrases, entities.map(entityItem))
  if (!shown.ok)
    return (
      <>
        <p className="text-oxide" role="alert">
          {shown.faults[0]?.path.replace('/profile/phrases/', '')}: {shown.faults[0]?.message}.
        </p>
        <Words hub={hub} act={act} />
      </>
    )
  const { text, notExpressible } = shown.value
  return (
    <div className="grid gap-3">
      <CopyText text={text} none="Nothing of it can be said in these words." />
      {notExpressible.length > 0 && (
        <p className="text-ochre">
          Not said:{' '}
          {notExpressible
            .map((n) => `${n.on} (${n.missing ? `no ${n.missing.join(', ')}` : `no words for ${n.key}`})`)
            .join(', ')}
          .
        </p>
      )}
      <p className="text-[0.93rem] text-ink-2">
        A connection that nobody tried is a hope: test it both ways afterwards.
      </p>
      <Words hub={hub} act={act} />
    </div>
  )
}
