import type { PlacedFinding } from '@fresh-coat/core/edge/finding'
import { activeLevel, isIdle, type PinFunction, type TemplatePin } from '@fresh-coat/core/pins/template'
import { Choice, NumberField, SelectField } from '@/components/forms/fields'
import { Card } from '@/components/frame/card'
import { Word } from '@/components/frame/drawer'
import { buttonClass } from '@/components/paint/paint'
import type { Editing } from './editing'
import { fnGroups, fnWords, usualFns } from './words'

/** Every function, grouped by what a person sees. */
function FunctionList({ value, onChange }: { value: PinFunction | null; onChange: (fn: PinFunction) => void }) {
  return (
    <div className="grid gap-2.5">
      {fnGroups.map((g) => (
        <section key={g.name}>
          <h4 className="text-[0.9rem] font-semibold text-ink-2">{g.name}</h4>
          <div className="flex flex-wrap gap-1.5">
            {g.fns.map((fn) => (
              <button
                key={fn}
                type="button"
                aria-pressed={fn === value}
                className={`min-h-[2.2rem] rounded-[8px] border px-2.5 ${fn === value ? 'border-ink bg-ink text-sheet' : 'border-ink-3 bg-sheet'}`}
                onClick={() => onChange(fn)}
              >
                {fnWords[fn]}
              </button>
            ))}
          </div>
        </section>
      ))}
    </div>
  )
}

/** What a pin is, as a sentence: function, channel, level, pull. */
function PinSentence({ pin, change }: { pin: TemplatePin; change: (to: Partial<TemplatePin>) => void }) {
  return (
    <p className="leading-[1.7]">
      It is{' '}
      <Word name={`${pin.pin} is`} open={<FunctionList value={pin.fn} onChange={(fn) => change({ fn })} />}>
        {fnWords[pin.fn]}
      </Word>
      {!isIdle(pin.fn) && (
        <>
          {' '}
          of{' '}
          <Word
            name={`${pin.pin} channel`}
            open={
              <NumberField
                label={`${pin.pin} channel`}
                min={0}
                max={32}
                whole
                value={pin.ch ?? null}
                onChange={(ch) => change({ ch: ch ?? undefined })}
              />
            }
          >
            {pin.ch === undefined ? 'no channel' : `channel ${pin.ch}`}
          </Word>
          , active{' '}
          <Word
            name={`${pin.pin} is active`}
            open={
              <Choice
                label={`${pin.pin} is active`}
                value={activeLevel(pin)}
                options={[
                  { value: 'high', label: 'high' },
                  { value: 'low', label: 'low' },
                ]}
                onChange={(active) => change({ active })}
              />
            }
          >
            {activeLevel(pin)}
          </Word>
          , with{' '}
          <Word
            name={`${pin.pin} pull`}
            open={
              <SelectField
                label={`${pin.pin} pull`}
                value={pin.pull ?? 'none'}
                options={(['none', 'up', 'down'] as const).map((p) => ({ value: p, label: p }))}
                onChange={(pull) => pull && change({ pull })}
              />
            }
          >
            {pin.pull && pin.pull !== 'none' ? `a pull-${pin.pull}` : 'no pull'}
          </Word>
        </>
      )}
      .
    </p>
  )
}

/** What speaks against a pin, where it stands. */
function Against({ findings }: { findings: readonly PlacedFinding<string>[] }) {
  return (
    <>
      {findings.slice(0, 3).map((f, i) => (
        <p key={`${f.code}-${i}`} className={f.severity === 'error' ? 'font-semibold text-oxide' : 'text-ochre'}>
          {f.message} {f.next}
        </p>
      ))}
    </>
  )
}

/** One pin: what it does, or whether it was seen doing it in this sitting. */
export function PinCard({
  id,
  pin,
  about,
  sitting,
  edit,
  findings,
  otherwise,
  done,
  stay,
}: {
  id: string
  /** Null while nobody has said what it does. */
  pin: TemplatePin | null
  /** What its family says of it. */
  about: string
  sitting: number
  edit: Editing
  findings: readonly PlacedFinding<string>[]
  /** In this sitting it was seen doing something else. */
  otherwise: boolean
  done: () => void
  /** It is asked about further: what it does instead. */
  stay: () => void
}) {
  if (!pin)
    return (
      <Card
        lead={about}
        ask={`What does ${id} do?`}
        answers={usualFns.map((fn) => ({ label: fnWords[fn], pick: () => edit.change(id, { fn }) }))}
      >
        <p>
          <Word name="Something else" open={<FunctionList value={null} onChange={(fn) => edit.change(id, { fn })} />}>
            something else
          </Word>
        </p>
      </Card>
    )
  const seen = (pin.evidence ?? []).length
  if (otherwise)
    return (
      <Card
        lead={`It is not ${fnWords[pin.fn]} · ${about}`}
        ask={`What does ${id} do instead?`}
        answers={usualFns
          .filter((fn) => fn !== pin.fn)
          .map((fn) => ({ label: fnWords[fn], pick: () => edit.change(id, { fn }) }))}
      >
        <p>
          <Word name="Something else" open={<FunctionList value={pin.fn} onChange={(fn) => edit.change(id, { fn })} />}>
            something else
          </Word>
        </p>
        <button
          type="button"
          className={`${buttonClass('quiet')} justify-self-start`}
          onClick={() => edit.see(pin, true)}
        >
          It did its work after all
        </button>
      </Card>
    )
  return (
    <Card
      lead={`Sitting ${sitting} · ${about}`}
      ask={isIdle(pin.fn) ? `${id} is ${fnWords[pin.fn]}` : `${id}: see ${fnWords[pin.fn]} do its work`}
      {...(isIdle(pin.fn)
        ? {}
        : {
            answers: [
              {
                label: 'Seen, it agrees',
                pick: () => {
                  edit.see(pin, true)
                  done()
                },
              },
              {
                label: 'It did something else',
                pick: () => {
                  edit.see(pin, false)
                  stay()
                },
                grave: true,
              },
            ],
          })}
    >
      <PinSentence pin={pin} change={(to) => edit.change(id, to)} />
      <Against findings={findings} />
      {seen > 0 && (
        <p className="text-ink-2">
          {seen} {seen === 1 ? 'look' : 'looks'} so far. Two sittings, with a power cycle between, confirm it.
        </p>
      )}
      <button type="button" className={`${buttonClass('quiet')} justify-self-start`} onClick={() => edit.remove(id)}>
        Nobody knows what it does
      </button>
    </Card>
  )
}
