import { contactsOf, type KitModule } from '@fresh-coat/core/module/map'
import type { PadReading } from '@fresh-coat/core/pads/readings'
import type { PadSolution } from '@fresh-coat/core/pads/solve'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import { alike, withModule, withoutModule } from '@fresh-coat/core/steps/pads/row'
import { ContactMap, type DrawnContact } from '@/components/drawings/contact-map'
import { type Answer, Answers } from '@/components/frame/card'
import Link from '@/components/link'
import { Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { notesOf } from './readings'

type Props = Pick<SurfaceProps<'pads'>, 'view' | 'record' | 'choices'>

/** Modules of the kit, those of this unit's family first. */
function answersOf({ view, record, choices }: Props): Answer[] {
  const family = familyOf(view)?.family ?? null
  const { moduleId, readings } = record.data
  const measured = readings.filter((r) => Object.values(r).some((x) => x !== undefined)).length
  const hint = (m: KitModule): string => {
    if (!fits(m)) return `${m.family}: another family`
    return m.id !== moduleId && measured > 0 ? 'what was measured of this row goes; undo brings it back' : m.family
  }
  const fits = (m: KitModule) => family === null || alike(family, m.family)
  return [...choices.modules]
    .sort((a, b) => Number(fits(b)) - Number(fits(a)))
    .map((m) => ({
      label: m.name,
      hint: hint(m),
      grave: !fits(m),
      chosen: moduleId === m.id,
      pick: () => record.patch(withModule(m, record.data) as Partial<typeof record.data>),
    }))
}

const mostOffered = 3

const toKit = (
  <Link href="/kit#modules" className="underline underline-offset-4">
    {' '}
    Write down the contacts of a module under Kit
  </Link>
)

/** Beside the number of pads: it may be a module whose contacts are known. One line, so that the card stays on one screen. */
export function OrModule(props: Props) {
  const all = answersOf(props)
  const fitting = all.filter((a) => !a.grave)
  const answers = (fitting.length > 0 ? fitting : all).slice(0, mostOffered)
  return (
    <p className="mt-3 flex flex-wrap gap-x-3 gap-y-1 text-ink-2">
      {answers.length > 0
        ? 'Or the contacts of a module:'
        : 'Or, where nothing is brought out, the contacts of its module:'}
      {answers.map((a) => (
        <button key={String(a.label)} type="button" className="underline underline-offset-4" onClick={a.pick}>
          {a.label}
          {a.grave && ` (${String(a.hint)})`}
        </button>
      ))}
      {answers.length === 0 && toKit}
    </p>
  )
}

/** Which module it is, or none. */
export function ModuleChoice(props: Props) {
  const { record } = props
  return (
    <>
      <Answers
        answers={[
          ...answersOf(props),
          {
            label: 'No module: pads of the board',
            chosen: record.data.moduleId === null,
            pick: () => record.patch(withoutModule(record.data)),
          },
        ]}
      />
      <p>{toKit}</p>
    </>
  )
}

/** How far the meter has got along the contacts, and whether the supply is proven. */
export function ModuleVerdict({ record, solution }: Pick<Props, 'record'> & { solution: PadSolution | null }) {
  const { readings, pads } = record.data
  const measured = pads.filter((_, i) => Object.values(readings[i] ?? {}).some((x) => x !== undefined)).length
  const safe = solution?.safeToWire ?? false
  return (
    <div className="grid gap-x-8 gap-y-1.5 md:grid-cols-2">
      <p className="flex items-baseline gap-2.5">
        <Tag severity={measured > 0 ? 'ok' : 'watch'}>{measured} measured</Tag>
        <span>The map counts as print: of {pads.length} contacts that matter, the meter has to find GND and 3V3.</span>
      </p>
      <p className="flex items-baseline gap-2.5">
        <Tag severity={safe ? 'ok' : 'watch'}>{safe ? 'may be powered' : 'no power yet'}</Tag>
        <span>
          {safe
            ? 'GND and 3V3 are proven by the meter.'
            : 'GND and 3V3 must each be 97 % sure, by the meter: swapping them destroys the part.'}
        </span>
      </p>
    </div>
  )
}

/** The module's contacts with what the meter found, in the place of a row of pads. */
export function ModuleField({
  module,
  record,
  readings,
  solution,
  chosen,
  onChoose,
}: Pick<Props, 'record'> & {
  module: KitModule
  readings: readonly PadReading[]
  solution: PadSolution | null
  chosen: number | null
  onChoose: (pad: number) => void
}) {
  const { contacts, pads } = record.data
  const drawn = contactsOf(module).map((c): DrawnContact => {
    const pad = contacts.indexOf(c.n)
    const reading = readings[pad] ?? {}
    const measured = Object.values(reading).some((x) => x !== undefined)
    const role = pads[pad] ?? 'UNKNOWN'
    const sure = measured ? (solution?.marginals[pad]?.[role] ?? null) : null
    return {
      ...c,
      role: pad >= 0 && c.role !== 'EN' ? role : c.role,
      sure,
      wrong: sure !== null && role !== 'UNKNOWN' && sure < 0.03,
      note: notesOf(reading).join(', '),
    }
  })
  return (
    <ContactMap
      name={module.name}
      contacts={drawn}
      chosen={chosen === null ? null : (contacts[chosen] ?? null)}
      onChoose={(n) => {
        const pad = contacts.indexOf(n)
        if (pad >= 0) onChoose(pad)
      }}
    />
  )
}
