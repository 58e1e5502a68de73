'use client'
import { factsOf, isKnownFamily, type KnownFamily } from '@fresh-coat/core/families/families'
import { checkTemplate } from '@fresh-coat/core/pins/check'
import { plainPin } from '@fresh-coat/core/pins/plain'
import { confidenceOf, isIdle, type TemplatePin } from '@fresh-coat/core/pins/template'
import { naturalOrder } from '@fresh-coat/core/pins/words'
import { backupOf } from '@fresh-coat/core/steps/backup/facts'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import { useState } from 'react'
import { type DrawnPin, ModuleDrawing } from '@/components/drawings/module-drawing'
import { CopyText } from '@/components/forms/copy-text'
import { AreaField } from '@/components/forms/fields'
import { type Ask, Questions, Standing } from '@/components/frame/card'
import { Word } from '@/components/frame/drawer'
import { useKept } from '@/components/frame/frame-context'
import { type SheetMore, StepSheet } from '@/components/frame/sheet'
import { buttonClass, Notice, Tag } from '@/components/paint/paint'
import { TwinProgram } from '@/components/steps/backup/twin-program'
import type { SurfaceProps } from '@/components/steps/context'
import { handwork } from '@/components/steps/handwork'
import { type Editing, editing } from './editing'
import { LightBench } from './lights'
import { MergePins } from './merge'
import { Motors } from './motors'
import { NamedPins } from './named'
import { LineForTrials } from './over-line'
import { PinCard } from './pin-card'
import { MovingPins, useProbe } from './probe/probe'
import { AddedSensors } from './sensors'
import { SparePin } from './spare'
import { fnWords } from './words'

type Props = SurfaceProps<'pins'>

/** How sure a pin is on this very unit: what was seen on others only is inherited, never confirmed. */
function sureOf(view: Props['view'], pin: TemplatePin | undefined): DrawnPin['sure'] {
  if (!pin || isIdle(pin.fn)) return ''
  const confidence = confidenceOf(pin.evidence)
  const seenHere = (pin.evidence ?? []).some((e) => e.unit === String(view.number))
  return confidence === 'assumed' || seenHere ? confidence : 'inherited'
}

const closedWords = /\bflash\b/

function drawnPins(
  view: Props['view'],
  family: KnownFamily,
  pins: readonly TemplatePin[],
  wrong: ReadonlySet<string>,
): DrawnPin[] {
  const table = factsOf(family).pins
  return Object.keys(table)
    .sort(naturalOrder)
    .map((id) => {
      const pin = pins.find((p) => p.pin === id)
      const channel = pin?.ch !== undefined && !isIdle(pin.fn) ? ` ${pin.ch}` : ''
      return {
        pin: id,
        does: pin ? `${fnWords[pin.fn].replace(/^(a|the) /, '')}${channel}` : '',
        sure: sureOf(view, pin),
        wrong: wrong.has(id),
        closed: pin === undefined && closedWords.test(String(table[id])),
      }
    })
}

const powerWords = { adapter: 'the adapter', rail: 'a bench supply', mains: 'the mains, case closed' }

/** What is about to happen decides the gates: relays are found on mains, with the case closed. */
const powerAsk = ({ record: { data, patch } }: Props): Ask => ({
  id: 'power',
  name: 'Powered by',
  ask: 'What powers it while its pins are tried?',
  how: 'Lights and buttons show on 3.3 V. Relays are found on mains, with the case closed.',
  said: data.power ? powerWords[data.power] : null,
  answers: [
    { label: 'The adapter', pick: () => patch({ power: 'adapter' }), chosen: data.power === 'adapter' },
    { label: 'A bench supply', pick: () => patch({ power: 'rail' }), chosen: data.power === 'rail' },
    { label: 'The mains, case closed', pick: () => patch({ power: 'mains' }), chosen: data.power === 'mains' },
  ],
})

/** The template as text: to take along, or to bring one in. */
function AsText({ edit, template }: { edit: Editing; template: unknown }) {
  const [text, setText] = useKept('pin template text', '')
  const [fault, setFault] = useState<string | null>(null)
  return (
    <>
      {template !== null && (
        <section className="grid gap-2" aria-label="This template">
          <CopyText text={JSON.stringify(template, null, 1)} />
        </section>
      )}
      <AreaField label="Bring in a pin template" rows={5} value={text} onChange={setText} />
      {fault && <Notice severity="error" title={fault} />}
      <button
        type="button"
        className={`${buttonClass()} justify-self-start`}
        disabled={text.trim() === ''}
        onClick={() => {
          const wrong = edit.bring(text)
          setFault(wrong)
          if (wrong === null) setText('')
        }}
      >
        Use it for this board
      </button>
    </>
  )
}

/** The same in words: pin, what it does, how sure, what its family says. */
function Twin({ drawn, family }: { drawn: readonly DrawnPin[]; family: KnownFamily }) {
  return (
    <table className="plain">
      <thead>
        <tr>
          <th>Pin</th>
          <th>Does</th>
          <th>How sure</th>
          <th>Its family says</th>
        </tr>
      </thead>
      <tbody>
        {drawn.map((p) => (
          <tr key={p.pin}>
            <td className="pin">{p.pin}</td>
            <td>{p.does || 'nobody knows'}</td>
            <td>{p.sure}</td>
            <td className="text-ink-2">{plainPin(String(factsOf(family).pins[p.pin]))}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** Pins of a family that may be used at all. */
const usablePins = (family: KnownFamily): ReadonlySet<string> =>
  new Set(Object.entries(factsOf(family).pins).flatMap(([pin, says]) => (closedWords.test(says) ? [] : [pin])))

const lightFns: ReadonlySet<string> = new Set(['dim', 'cool', 'warm', 'bright', 'temp'])

/** The pins of a family as they are written down, what speaks against them, and which one is asked about. */
function usePins(props: Props, family: KnownFamily) {
  const { view, record, assessment } = props
  const { data } = record
  const [chosen, setChosen] = useState<string | null>(null)
  const edit = editing(props, family)
  const usable = usablePins(family)
  const probe = useProbe(props, family, usable, edit)
  const check = data.template ? checkTemplate(data.template) : null
  const here = assessment.steps.find((s) => s.id === 'pins')
  const looksNow = (p: TemplatePin | undefined) =>
    (p?.evidence ?? []).filter((e) => e.unit === String(view.number) && e.sitting === `s${data.sitting}`)
  const unseen = edit.pins.find(
    (p) => !isIdle(p.fn) && confidenceOf(p.evidence) !== 'confirmed' && looksNow(p).length === 0,
  )
  return {
    ...{ edit, usable, probe, check, here, setChosen },
    findings: check?.findings ?? [],
    now: chosen ?? (here?.ready ? null : (unseen?.pin ?? null)),
    seenOtherwise: (p: TemplatePin | undefined) => looksNow(p).some((e) => !e.agrees),
  }
}

interface Pins {
  props: Props
  family: KnownFamily
  pins: ReturnType<typeof usePins>
}

/** Sittings and supply: what the looks at a pin count for. */
function Say(props: Props) {
  const { data, patch } = props.record
  const { answers } = powerAsk(props)
  return (
    <>
      See each do its work in two sittings, with a power cycle between; then it is confirmed. This is{' '}
      <Word
        name="Sitting"
        open={
          <button type="button" className={buttonClass()} onClick={() => patch({ sitting: data.sitting + 1 })}>
            Power was cycled: sitting {data.sitting + 1}
          </button>
        }
      >
        sitting {data.sitting}
      </Word>
      {data.power && ', powered by '}
      {data.power && (
        <Word
          name="Powered by"
          open={answers?.map((a) => (
            <button key={String(a.label)} type="button" className={buttonClass()} onClick={a.pick}>
              {a.label}
            </button>
          ))}
        >
          {powerWords[data.power]}
        </Word>
      )}
      .
    </>
  )
}

/** A pin that is asked about, or what is still asked of all of them. */
function TheCard({ props, family, pins }: Pins) {
  const { data } = props.record
  const { edit, probe, here, now, findings, seenOtherwise, setChosen } = pins
  if (probe.card) return probe.card
  if (data.power === null || !now)
    return (
      <Questions
        asks={[powerAsk(props)]}
        rest={
          <Standing conditions={here?.conditions ?? []}>
            {!here?.ready && <p className="text-ink-2">Press a pin in the drawing to say what it does.</p>}
            {data.power !== null && probe.offer}
          </Standing>
        }
      />
    )
  const pin = edit.pins.find((p) => p.pin === now)
  return (
    <PinCard
      key={now}
      id={now}
      pin={pin ?? null}
      about={plainPin(String(factsOf(family).pins[now] ?? ''))}
      sitting={data.sitting}
      edit={edit}
      findings={findings.filter((f) => f.at === now)}
      otherwise={seenOtherwise(pin)}
      done={() => setChosen(null)}
      stay={() => setChosen(now)}
    />
  )
}

/** Drawers about what is found out at the unit itself. */
function trialDrawers({ props, family, pins: { edit, usable, probe } }: Pins): SheetMore[] {
  const { view, record, choices } = props
  const { data, patch } = record
  return [
    handwork('sensor'),
    handwork('drill'),
    {
      id: 'sensors',
      name: data.sensors.length > 0 ? `Added sensors: ${data.sensors.length}` : 'An added sensor, tried',
      content: <AddedSensors sensors={data.sensors} put={(sensors) => patch({ sensors })} />,
    },
    {
      name: 'A spare pin',
      content: <SparePin view={view} family={family} pins={[...usable]} template={edit.pins} />,
    },
    edit.pins.some((p) => lightFns.has(p.fn)) && {
      name: 'Light bench',
      content: <LightBench record={record} edit={edit} pins={edit.pins} />,
    },
    data.session !== null &&
      !data.session.restored && {
        name: 'Drive pins over the line',
        content: <LineForTrials view={view} choices={choices} record={record} />,
      },
    probe.roll !== null && { name: 'The trials', wide: true, content: probe.roll },
    { name: 'Pins that change by themselves', content: <MovingPins record={record} /> },
  ]
}

/** Drawers about what is known from elsewhere. */
function templateDrawers({ props, family, pins: { edit, usable } }: Pins): SheetMore[] {
  const { view, record } = props
  const { template } = record.data
  const motors = template?.motors ?? []
  return [
    edit.pins.filter((p) => p.fn === 'relay').length > 1 && {
      id: 'motors',
      name: motors.length > 0 ? `Motors: ${motors.length}` : 'A motor',
      content: <Motors template={template} replace={edit.replace} />,
    },
    {
      name: 'Another board’s pins',
      wide: true,
      content: <MergePins boardId={view.board?.id ?? null} family={family} template={template} edit={edit} />,
    },
    { name: 'As text', content: <AsText edit={edit} template={template} /> },
    backupOf(view).first && {
      name: 'Named in its stock backup',
      content: <NamedPins number={view.number} usable={usable} edit={edit} />,
    },
  ]
}

function KnownPins({ props, family }: { props: Props; family: KnownFamily }) {
  const { view, choices } = props
  const pins = usePins(props, family)
  const { edit, probe, check, findings, now, setChosen } = pins
  const wrong = new Set(findings.filter((f) => f.severity === 'error').map((f) => f.at))
  const drawn = drawnPins(view, family, edit.pins, wrong)
  const all: Pins = { props, family, pins }
  return (
    <StepSheet
      title="Which pin does what"
      say={probe.say ?? <Say {...props} />}
      drawing={probe.drawing ?? <ModuleDrawing pins={drawn} chip={family} chosen={now} onChoose={setChosen} />}
      twin={<Twin drawn={drawn} family={family} />}
      findings={(probe.drawing ? [] : findings).map((f) => ({ ...f, message: `${f.at}: ${f.message}` }))}
      verdict={
        <>
          {check && findings.length === 0 && edit.pins.length > 0 && (
            <p className="flex gap-2.5">
              <Tag severity="ok" /> Nothing speaks against it.
            </p>
          )}
          <TwinProgram view={view} twins={choices.twins} />
        </>
      }
      card={<TheCard {...all} />}
      more={[...trialDrawers(all), ...templateDrawers(all)]}
    />
  )
}

/** Which pin does what: the module with its pins, one of them asked about at a time. */
export function PinsSurface(props: Props) {
  const family = familyOf(props.view)?.family ?? null
  const here = props.assessment.steps.find((s) => s.id === 'pins')
  if (!family || !isKnownFamily(family))
    return (
      <StepSheet
        title="Which pin does what"
        drawing={
          <p className="rounded-[12px] border border-dashed border-rule p-8 text-center text-ink-2">
            The family is not known yet: its pin table decides which pins there are.
          </p>
        }
        card={<Standing conditions={here?.conditions ?? []} />}
      />
    )
  return <KnownPins props={props} family={family} />
}
