'use client'
import { factsOf, isKnownFamily, type KnownFamily } from '@fresh-coat/core/families/families'
import { checkTemplate } from '@fresh-coat/core/pins/check'
import {
  activeLevel,
  confidenceOf,
  isIdle,
  type PinFunction,
  PinTemplate,
  pinFunctions,
  type TemplatePin,
} from '@fresh-coat/core/pins/template'
import { naturalOrder } from '@fresh-coat/core/pins/words'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import { fromOthers } from '@fresh-coat/core/unit/own-look'
import { useState } from 'react'
import { AreaField, Choice, NumberField, SelectField } from '@/components/forms/fields'
import { buttonClass, Notice, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'

const confidenceTag = { assumed: 'watch', seen: 'watch', confirmed: 'ok' } as const
const row = 'grid grid-cols-2 items-center gap-2 sm:grid-cols-[4.6rem_7.4rem_4.6rem_5.4rem_5.4rem_1fr]'
const levels = [
  { value: 'high', label: 'high' },
  { value: 'low', label: 'low' },
] as const

/** How sure a pin is on this very unit: what was seen on others only is inherited, never confirmed. */
function PinTag({ view, evidence }: { view: SurfaceProps<'pins'>['view']; evidence: TemplatePin['evidence'] }) {
  const seenHere = (evidence ?? []).some((e) => e.unit === String(view.number))
  const confidence = confidenceOf(evidence)
  if (confidence === 'assumed' || seenHere) return <Tag severity={confidenceTag[confidence]}>{confidence}</Tag>
  return (
    <>
      <Tag severity="watch">inherited</Tag>
      <span className="sr-only">{fromOthers(view)}</span>
    </>
  )
}

/** What is about to happen decides the gates: relays are found on mains, with the case closed. */
function Powered({ record: { data, patch }, gates }: Pick<SurfaceProps<'pins'>, 'record' | 'gates'>) {
  return (
    <>
      <Choice
        label="What powers it while its pins are tried?"
        value={data.power}
        options={[
          { value: 'adapter', label: 'The adapter' },
          { value: 'rail', label: 'A bench supply' },
          { value: 'mains', label: 'The mains, case closed' },
        ]}
        onChange={(power) => patch({ power })}
      />
      {gates}
    </>
  )
}

export function PinsSurface({ view, record, gates }: SurfaceProps<'pins'>) {
  const { data, patch } = record
  const [text, setText] = useState('')
  const [fault, setFault] = useState('')
  const family = familyOf(view)?.family ?? null
  const template = data.template
  const start = (known: KnownFamily): PinTemplate => ({
    format: 'fresh-coat/pin-template',
    version: 1,
    board: view.board?.name || `unit ${view.number}`,
    family: known,
    pins: [],
  })
  if (!family || !isKnownFamily(family))
    return (
      <>
        <StepHeading title="Which pin does what" />
        <p className="rounded-[10px] border border-dashed border-rule p-4 text-ink-2">
          The family is not known yet: its pin table decides which pins there are.
        </p>
      </>
    )
  const check = template ? checkTemplate(template) : null
  const pins = template?.pins ?? []
  const put = (next: TemplatePin[]) => patch({ template: { ...(template ?? start(family)), pins: next } })
  const free = Object.keys(factsOf(family).pins)
    .filter((p) => !pins.some((x) => x.pin === p))
    .sort(naturalOrder)
  const set = (i: number, change: Partial<TemplatePin>) => put(pins.map((p, j) => (j === i ? { ...p, ...change } : p)))
  const see = (i: number, agrees: boolean) => {
    const pin = pins[i] as TemplatePin
    const mine = { unit: String(view.number), sitting: `s${data.sitting}` }
    const rest = (pin.evidence ?? []).filter((e) => e.unit !== mine.unit || e.sitting !== mine.sitting)
    set(i, { evidence: [...rest, { ...mine, agrees }] })
  }
  const paste = () => {
    try {
      const parsed = PinTemplate.safeParse(JSON.parse(text))
      if (!parsed.success) return setFault(parsed.error.issues[0]?.message ?? 'This is not a pin template')
      // Copied knowledge starts as assumed: its evidence is of another board.
      patch({
        template: {
          ...parsed.data,
          board: view.board?.name || parsed.data.board,
          pins: parsed.data.pins.map(({ evidence: _, confidence: __, ...p }) => p),
        },
      })
      setText('')
      setFault('')
    } catch {
      setFault('This is not JSON. Nothing was changed.')
    }
  }
  const notes = new Map<string, string[]>()
  for (const f of check?.findings ?? []) notes.set(f.at, [...(notes.get(f.at) ?? []), f.code])
  return (
    <>
      <StepHeading title="Which pin does what">
        One row per pin of the {family}. See each do its work in two sittings, with a power cycle between; then it is
        confirmed. This is sitting {data.sitting}.
      </StepHeading>
      <Powered record={record} gates={gates} />
      <div className="flex flex-wrap gap-2">
        <button type="button" className={buttonClass()} onClick={() => patch({ sitting: data.sitting + 1 })}>
          Power was cycled: sitting {data.sitting + 1}
        </button>
      </div>
      <div className="grid">
        {pins.length > 0 && (
          <div
            className={`${row} max-sm:hidden border-b border-rule pb-1 text-[0.9rem] font-semibold text-ink-2`}
            aria-hidden="true"
          >
            <span>Pin</span>
            <span>Is</span>
            <span>Channel</span>
            <span>Active</span>
            <span>Pull</span>
            <span>Evidence</span>
          </div>
        )}
        {pins.map((pin, i) => (
          <div key={`${pin.pin}-${i}`} className={`${row} border-b border-rule-2 py-1.5`}>
            <p className="pin text-[1.02rem] font-semibold">
              {pin.pin}
              {notes.has(pin.pin) && (
                <span className="block text-[0.8rem] font-normal text-ochre">{notes.get(pin.pin)?.join(' ')}</span>
              )}
            </p>
            <SelectField
              bare
              label={`${pin.pin} is`}
              value={pin.fn}
              options={pinFunctions.map((f) => ({ value: f, label: f }))}
              onChange={(fn) => fn && set(i, { fn: fn as PinFunction })}
            />
            <NumberField
              bare
              label={`${pin.pin} channel`}
              min={0}
              max={32}
              whole
              value={pin.ch ?? null}
              onChange={(ch) => set(i, { ch: ch ?? undefined })}
            />
            <SelectField
              bare
              label={`${pin.pin} is active`}
              value={activeLevel(pin)}
              options={levels}
              onChange={(active) => active && set(i, { active })}
            />
            <SelectField
              bare
              label={`${pin.pin} pull`}
              value={pin.pull ?? 'none'}
              options={(['none', 'up', 'down'] as const).map((p) => ({ value: p, label: p }))}
              onChange={(pull) => pull && set(i, { pull })}
            />
            <div className="flex flex-wrap items-center gap-x-1 max-sm:col-span-2">
              {!isIdle(pin.fn) && (
                <span className="self-center">
                  <PinTag view={view} evidence={pin.evidence} />
                </span>
              )}
              <button
                type="button"
                className={`${buttonClass('plain')} !px-3`}
                aria-label={`${pin.pin}: seen, it agrees`}
                onClick={() => see(i, true)}
              >
                Seen
              </button>
              <button
                type="button"
                className={`${buttonClass('quiet')} !px-2`}
                aria-label={`${pin.pin}: it did something else`}
                onClick={() => see(i, false)}
              >
                Not so
              </button>
              <button
                type="button"
                className={`${buttonClass('quiet')} !px-2`}
                aria-label={`Remove ${pin.pin}`}
                onClick={() => put(pins.filter((_, j) => j !== i))}
              >
                Remove
              </button>
            </div>
          </div>
        ))}
        {free.length > 0 && (
          <SelectField
            label="Add a pin"
            value={null}
            none="Choose a pin…"
            options={free.map((p) => ({ value: p, label: `${p}  ${factsOf(family).pins[p]}` }))}
            onChange={(p) => p && put([...pins, { pin: p, fn: 'relay' }])}
            className="mt-3 max-w-[24rem]"
          />
        )}
      </div>
      {check && (
        <Block title="What the family says to this">
          <ul className="grid gap-x-8 gap-y-2.5 lg:grid-cols-2" aria-live="polite">
            {check.findings.map((f, i) => (
              <li key={`${f.code}-${f.at}-${i}`} className="flex gap-2.5">
                <Tag severity={f.severity} />
                <div>
                  <p>
                    <span className="pin font-semibold">{f.at}</span> {f.message}
                  </p>
                  <p className="text-[0.9rem] text-ink-2">
                    {f.because} {f.next} <span className="pin text-ink-3">{f.code}</span>
                  </p>
                </div>
              </li>
            ))}
          </ul>
          {check.findings.length === 0 && <p>Nothing speaks against it.</p>}
        </Block>
      )}
      <details className="rounded-[10px] border border-rule p-3">
        <summary className="font-semibold">As JSON: take it along, or bring one in</summary>
        <div className="mt-3 grid gap-3">
          {template && (
            <AreaField label="This template" rows={5} value={JSON.stringify(template, null, 1)} onChange={() => {}} />
          )}
          <AreaField label="Bring in a pin template" rows={4} value={text} onChange={setText} />
          {fault && <Notice severity="error" title={fault} />}
          <button
            type="button"
            className={`${buttonClass()} justify-self-start`}
            disabled={text.trim() === ''}
            onClick={paste}
          >
            Use it for this board
          </button>
        </div>
      </details>
    </>
  )
}
