'use client'
import { chooseEntry } from '@fresh-coat/core/boot/entry'
import type { Finding } from '@fresh-coat/core/edge/finding'
import { entryMethods, factsOf, isKnownFamily } from '@fresh-coat/core/families/families'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import { padsOf } from '@fresh-coat/core/steps/pads/facts'
import { entryLogOf, jigOf, wiringOf } from '@fresh-coat/core/steps/wire/facts'
import { entryInstructions } from '@fresh-coat/core/steps/wire/instructions'
import { isMoved, leadsInOrder, leadsOn, nextLead, withAllLeads, withLead } from '@fresh-coat/core/steps/wire/leads'
import { ownLeads } from '@fresh-coat/core/steps/wire/own-leads'
import { holds } from '@fresh-coat/core/steps/wire/record'
import { type Connection, leadColours, type PadRole } from '@fresh-coat/core/wiring/wiring'
import { useState } from 'react'
import { WiringDrawing } from '@/components/drawings/wiring-drawing'
import { Choice, NumberField } from '@/components/forms/fields'
import { type Ask, Card, Questions, Standing } from '@/components/frame/card'
import { Word } from '@/components/frame/drawer'
import { InstructionList } from '@/components/frame/instruction-list'
import { StepSheet } from '@/components/frame/sheet'
import Link from '@/components/link'
import { Tag, twoDigits } from '@/components/paint/paint'
import { refitAt } from '@/components/refit/refit'
import type { SurfaceProps } from '@/components/steps/context'
import { handwork } from '@/components/steps/handwork'
import { Divider, wantsDivider } from './divider'
import { EntryLog } from './entry-log'
import { OwnLeads, ownLeadAsk, ownLeadFindings, RegulatorFields, RegulatorVerdict } from './own-leads'
import { PlugOrJig, straightWords } from './plug'
import { contactWords, entryWords, holdLabels, powerWords } from './words'

type Props = SurfaceProps<'wire'>

function adapterAsk({ record: { data, patch }, choices, view }: Props): Ask {
  return {
    id: 'adapter',
    name: 'Adapter',
    ask: 'Which adapter?',
    said: view.adapter?.name ?? null,
    how:
      choices.adapters.length === 0 ? (
        <Link href="/kit" className="underline underline-offset-4">
          Add your adapter under Kit
        </Link>
      ) : (
        'The list of leads follows from its pins.'
      ),
    answers: choices.adapters.map((a) => ({
      label: a.name,
      hint: `${a.logicV} V, ${a.max3v3Ma ? `${a.max3v3Ma} mA` : 'current not known'}`,
      pick: () => patch({ adapterId: a.id }),
      chosen: data.adapterId === a.id,
    })),
  }
}

function entryAsk({ view, record: { data, patch } }: Props): Ask {
  const family = familyOf(view)?.family ?? null
  const pads = padsOf(view)
  const usual = family && isKnownFamily(family) ? factsOf(family).entry : []
  const advised =
    family && view.adapter
      ? chooseEntry({ family, adapterPins: view.adapter.pins, pads: pads.pads, bootBy: pads.bootBy })
      : null
  const hint = (e: (typeof entryMethods)[number]) =>
    e === advised ? 'suits what is known' : usual.includes(e) ? '' : 'unusual here'
  return {
    id: 'entry',
    name: 'Way in',
    ask: 'Into download mode by what?',
    said: data.entry ? entryWords[data.entry] : null,
    answers: entryMethods.map((e) => ({
      label: entryWords[e],
      hint: hint(e),
      pick: () => patch({ entry: e }),
      chosen: data.entry === e,
    })),
  }
}

/** "pad TX", or "TX, contact 14" of a module. */
function padWord(view: Props['view'], role: PadRole): string {
  const { pads, contacts = [] } = padsOf(view)
  const contact = contacts[pads.indexOf(role)]
  return contact ? `${role}, contact ${contact}` : `pad ${role}`
}

const howOf = (view: Props['view'], next: Connection, on: number): string =>
  isMoved(view, next)
    ? 'It was on elsewhere before the adapter or the row changed: look where it goes now.'
    : on === 0
      ? 'The adapter is not in the computer yet: its TX would feed the part.'
      : 'It holds when you pull at it a little.'

function leadAsk(props: Props): Ask {
  const { view, record } = props
  const next = nextLead(view)
  const all = leadsInOrder(view)
  const on = leadsOn(view).length
  // One that went elsewhere before is looked at by itself.
  const atOnce = all.length - on > 1 && !all.some((c) => isMoved(view, c))
  return {
    id: `lead ${next?.pad ?? ''}`,
    name: 'Leads',
    lead: next ? `Lead ${on + 1} of ${all.length}` : '',
    ask: next ? `Adapter ${next.pin} to ${padWord(view, next.pad)}, ${leadColours[next.pad] ?? 'any colour'}` : '',
    how: next ? `Pin ${next.adapter + 1} of the adapter. ${howOf(view, next, on)}` : '',
    said: next ? null : all.length > 0 ? `all ${all.length} on` : null,
    optional: next === null,
    ...(next
      ? {
          answers: [
            { label: 'It is on', pick: () => record.patch(withLead(view, next.pad, true)) },
            ...(atOnce
              ? [
                  {
                    label: on === 0 ? `All ${all.length} are on` : `The other ${all.length - on} are on too`,
                    hint: 'each as it is drawn',
                    pick: () => record.patch(withAllLeads(view)),
                  },
                ]
              : []),
          ],
        }
      : {}),
  }
}

const heldAsk = ({ record: { data, patch } }: Props): Ask => ({
  id: 'held',
  name: 'Held by',
  ask: 'What holds the leads?',
  said: data.held ? holdLabels[data.held] : null,
  optional: true,
  answers: holds.map((h) => ({ label: holdLabels[h], pick: () => patch({ held: h }), chosen: data.held === h })),
})

/** What speaks against wiring it so, before anything else is done. */
function Wrong({ finding }: { finding: Finding }) {
  return (
    <Card lead="This first" ask={finding.message} how={finding.next}>
      {finding.because && <p className="text-ink-2">{finding.because}</p>}
    </Card>
  )
}

function Say({ view, record }: Props) {
  const { data, patch } = record
  const plan = wiringOf(view)
  return (
    <>
      {view.adapter
        ? `${view.adapter.pins.length} pins to ${padsOf(view).pads.length} pads; GND first, supply last. `
        : ''}
      3.3 V comes from{' '}
      <Word
        name="3.3 V comes from"
        open={
          <>
            <Choice
              label="3.3 V comes from"
              value={data.power}
              options={[
                { value: 'adapter3v3', label: 'Adapter 3V3' },
                { value: 'bench', label: 'Bench supply' },
                { value: 'adapter5v', label: 'Adapter 5V, to a pad' },
                { value: 'regulator', label: 'My own regulator on the adapter’s 5V' },
              ]}
              onChange={(power) => patch({ power })}
            />
            {data.power === 'regulator' && <RegulatorFields record={record} />}
            {data.power === 'bench' && (
              <NumberField
                label="Bench supply set to"
                unit="V"
                min={0}
                max={60}
                value={data.benchV}
                onChange={(v) => v !== null && patch({ benchV: v })}
              />
            )}
          </>
        }
      >
        {powerWords[data.power]}
        {data.power === 'bench' ? ` at ${data.benchV} V` : ''}
      </Word>
      . {plan?.contact && contactWords[plan.contact]}
    </>
  )
}

function Drawing({ view, record }: Props) {
  const plan = wiringOf(view)
  const pads = padsOf(view)
  if (!plan || !view.adapter)
    return (
      <p className="rounded-[12px] border border-dashed border-rule p-8 text-center text-ink-2">
        The leads are drawn when family, pads, adapter and way in are known.
      </p>
    )
  return (
    <WiringDrawing
      pins={view.adapter.pins}
      pads={pads.pads}
      contacts={pads.contacts ?? []}
      plan={plan}
      adapterName={view.adapter.name}
      boardName={`Unit ${twoDigits(view.number)}`}
      family={familyOf(view)?.family ?? ''}
      joined={leadsOn(view)}
      next={nextLead(view)?.pad ?? null}
      onToggle={(pad) => record.patch(withLead(view, pad, !leadsOn(view).includes(pad)))}
    />
  )
}

/** The leads once more as a list. */
function Twin({ view, record }: Pick<Props, 'view' | 'record'>) {
  const on = leadsOn(view)
  return (
    <ol className="grid gap-1.5" aria-label="Leads, in the order to connect">
      {ownLeads(view).map((l) => (
        <li key={l.id} className="flex gap-3">
          <span className="pin w-5 text-ink-2">·</span>
          <span>
            {l.words}
            {record.data.ties.includes(l.id) ? ': made' : ''}
          </span>
        </li>
      ))}
      {leadsInOrder(view).map((c, i) => (
        <li key={`${c.adapter}-${c.pad}`} className="flex gap-3">
          <span className="pin w-5 text-ink-2">{i + 1}</span>
          <span>
            Adapter <strong className="pin">{c.pin}</strong> (pin {c.adapter + 1}) to{' '}
            <strong className="pin">{padWord(view, c.pad)}</strong>, {leadColours[c.pad] ?? 'any colour'}
            {on.includes(c.pad) ? ': on' : ''}
          </span>
        </li>
      ))}
    </ol>
  )
}

/** Does it plug straight on, in a line; or nothing speaks against the leads. */
function Verdict({ view }: Pick<Props, 'view'>) {
  const plan = wiringOf(view)
  const straight = jigOf(view)?.straight
  if (!plan || !view.adapter) return null
  return (
    <>
      {plan.findings.length === 0 && (
        <p className="flex gap-2.5">
          <Tag severity="ok" />
          Logic, supply and leads: nothing speaks against it.
        </p>
      )}
      {straight && (
        <p className="flex gap-2.5">
          <Tag severity="ok">plug</Tag>
          {straightWords(straight, view.adapter.pins)}
        </p>
      )}
    </>
  )
}

/** The adapter wired to the pads: every lead in its order, what speaks against it, and the way into download mode. */
export function WireSurface(props: Props) {
  const { view, record, assessment, act } = props
  const plan = wiringOf(view)
  const wrong = plan?.findings.find((f) => f.severity === 'error' && f.code !== 'mains-on')
  const here = assessment.steps.find((s) => s.id === 'wire')
  const entry = entryInstructions(view, 'read')
  const [asked, setAsked] = useState<string | null>(null)
  const refit = refitAt(view, 'wire', record)
  const wired = plan !== null && !wrong && nextLead(view) === null
  const asks = [
    adapterAsk(props),
    entryAsk(props),
    ...ownLeadAsk(props),
    ...(plan && !wrong ? [leadAsk(props)] : []),
    heldAsk(props),
    ...(wired && refit ? refit.asks : []),
  ]
  const measuring = wired && refit !== null && refit.judged.verdict !== 'go'
  return (
    <StepSheet
      title="Wire the adapter to the pads"
      say={<Say {...props} />}
      drawing={measuring ? refit.drawing(asked) : <Drawing {...props} />}
      twin={plan && <Twin view={view} record={record} />}
      findings={[
        ...ownLeadFindings(view),
        ...(measuring ? refit.judged.findings.filter((f) => f.severity === 'error') : []),
        ...(plan?.findings ?? []),
      ]}
      verdict={
        <>
          <OwnLeads view={view} record={record} />
          <RegulatorVerdict view={view} />
          <Verdict view={view} />
        </>
      }
      card={
        <Questions
          asks={asks}
          at={asked}
          onAt={setAsked}
          rest={wrong ? <Wrong finding={wrong} /> : <Standing conditions={here?.conditions ?? []} />}
        />
      }
      more={[
        record.data.held === 'solder' && handwork('leads'),
        { name: 'Plug or jig', wide: true, content: <PlugOrJig {...props} /> },
        wantsDivider(props) && { name: 'Divider in front of RX', content: <Divider view={view} record={record} /> },
        {
          name: 'Into download mode',
          content: (
            <InstructionList steps={entry} empty="Choose the way into download mode: the steps are made from it." />
          ),
        },
        {
          id: 'log',
          name: `What its TX says${entryLogOf(view) ? ': judged' : ''}`,
          content: <EntryLog view={view} record={record} act={act} />,
        },
      ]}
    />
  )
}
