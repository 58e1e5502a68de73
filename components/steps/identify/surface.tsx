'use client'
import { type Finding, finding } from '@fresh-coat/core/edge/finding'
import { checkKinds, type Evidence, type Identification, identify } from '@fresh-coat/core/identify/identify'
import { countsOf, countsSentence } from '@fresh-coat/core/identify/markings'
import { railFindings } from '@fresh-coat/core/refit/of-unit'
import { fromOthers, looksOf } from '@fresh-coat/core/unit/own-look'
import { useState } from 'react'
import { BoardDrawing, type SeenOnBoard } from '@/components/drawings/board-drawing'
import { CheckPicture } from '@/components/drawings/check-pictures'
import { PosteriorBars } from '@/components/drawings/posterior-bars'
import { SelectField, TextField } from '@/components/forms/fields'
import { type Ask, Questions, Standing } from '@/components/frame/card'
import { StepSheet } from '@/components/frame/sheet'
import { buttonClass, percentOf, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Decide, MarkingCounts } from './decide'
import { useMarking } from './use-marking'
import { kindAsks, kindWords, riskWords, valueWord, verdictWords } from './words'

type Props = SurfaceProps<'identify'>

/** Below this a check tells nothing worth its minutes. */
const leastBits = 0.005
const sures = ['1', '0.9', '0.7', '0.5', '0.3']
const contactsDrawn: { [value: string]: number } = {
  le8: 8,
  '9_14': 12,
  '15_18': 16,
  '19_24': 22,
  ge25: 28,
  nomodule: 0,
}

/** The evidence as it is put, changed and taken back. */
function evidenceOf({ data, patch }: Props['record']) {
  const of = (kind: string) => data.evidence.find((e) => e.kind === kind) ?? null
  const put = (kind: string, item: Evidence | null) =>
    patch({ evidence: [...data.evidence.filter((e) => e.kind !== kind), ...(item ? [item] : [])] })
  return { of, put }
}

function seenOf(record: Props['record'], found: Identification | null): SeenOnBoard {
  const { of } = evidenceOf(record)
  const crystal = of('crystal')?.value
  const contacts = of('edge_contacts')?.value
  return {
    crystal: crystal === undefined ? null : crystal === 'none' ? 'none' : `${crystal} MHz`,
    flash: (of('flash_chip')?.value as SeenOnBoard['flash'] | undefined) ?? null,
    contacts: contacts === undefined ? null : (contactsDrawn[contacts] ?? null),
    printed: record.data.printed,
    chip: found?.leader ?? '?',
    chipNote: found ? percentOf(found.posterior[found.leader]) : '',
  }
}

/** How sure a person is, for an answer already given. */
function Sure({ item, onChange }: { item: Evidence; onChange: (item: Evidence | null) => void }) {
  return (
    <>
      <SelectField
        label="How sure are you?"
        value={String(item.sure ?? 1)}
        options={sures.map((s) => ({ value: s, label: `${Math.round(Number(s) * 100)} %` }))}
        onChange={(s) => onChange({ ...item, sure: Number(s ?? '1') })}
      />
      <button type="button" className={`${buttonClass('quiet')} justify-self-start`} onClick={() => onChange(null)}>
        Not looked at after all
      </button>
    </>
  )
}

/** The checks as questions, the one that tells most per minute first. */
function checkAsks(record: Props['record'], found: Identification | null, wanted: boolean): Ask[] {
  const { of, put } = evidenceOf(record)
  const next = found?.next ?? []
  const order = [...next.map((n) => n.kind), ...checkKinds.map((k) => k.kind)]
  const kinds = [...new Set(order)].flatMap((kind) => checkKinds.find((k) => k.kind === kind) ?? [])
  const best = next.find((n) => n.bits >= leastBits)?.kind
  return kinds.map((kind) => {
    const item = of(kind.kind)
    const tells = next.find((n) => n.kind === kind.kind)
    const bits = tells && (tells.bits >= leastBits ? `${tells.bits.toFixed(2)} bit in ` : 'enough is known; ')
    return {
      id: kind.kind,
      name: kindWords[kind.kind] ?? kind.kind,
      ...(tells ? { lead: `Tells most: ${bits}${tells.minutes} min, ${riskWords[tells.risk]}` } : {}),
      ...(kindAsks[kind.kind] as { ask: string; how: string }),
      said: item?.value
        ? `${valueWord(kind.kind, item.value)}${(item.sure ?? 1) < 1 ? `, ${Math.round((item.sure ?? 1) * 100)} % sure` : ''}`
        : null,
      optional: !wanted || kind.kind !== best,
      answers: Object.keys(kind.values).map((value) => ({
        label: valueWord(kind.kind, value),
        picture: <CheckPicture kind={kind.kind} value={value} />,
        pick: () =>
          put(kind.kind, { kind: kind.kind, value, ...(item?.sure === undefined ? {} : { sure: item.sure }) }),
        chosen: item?.value === value,
      })),
      ...(item ? { field: <Sure item={item} onChange={(changed) => put(kind.kind, changed)} /> } : {}),
    }
  })
}

/** What this workshop found for the same print before. */
function Printed({ view, record, choices }: Props) {
  const { data, patch } = record
  const met = useMarking(data.printed, choices.markings)
  const counts = met ? countsOf(met, view.number) : {}
  const words = countsSentence(counts)
  return (
    <>
      <TextField
        label="Printed on the chip"
        mono
        maxLength={80}
        value={data.printed}
        onChange={(printed) => patch({ printed })}
        hint="As you read it. It is kept for the next one like it."
      />
      {data.printed.trim() !== '' && words === '' && (
        <p className="text-ink-2">Not met before. Once this unit is identified, it counts for the next.</p>
      )}
      {words !== '' && (
        <p className="grid gap-2" aria-live="polite">
          <span>
            Met before: <strong>{words}</strong>.
          </span>
          <button
            type="button"
            className={`${buttonClass('plain')} justify-self-start`}
            onClick={() =>
              evidenceOf(record).put('marking', { kind: 'marking', counts: counts as { [family: string]: number } })
            }
          >
            Take it as evidence
          </button>
        </p>
      )}
    </>
  )
}

function conflictFindings(found: Identification | null): Finding[] {
  return (found?.conflicts ?? []).map((c) =>
    finding(
      'identify-conflict',
      'error',
      `${kindWords[c.kind]}, ${c.value === 'counts' ? 'these counts' : valueWord(c.kind, c.value)}: the rest says ${found?.leader}, but this fits ${c.better} ${c.ratio.toFixed(0)} times better.`,
      '',
      'One of the two is wrong. Look at it again; nothing is averaged away.',
    ),
  )
}

function Verdict({ view, found }: { view: Props['view']; found: Identification }) {
  const looked = looksOf(view).identify
  const sure = found.verdict === 'identified' || found.verdict === 'arm968_unsplit'
  const severity = found.verdict === 'conflict' ? 'error' : looked && sure ? 'ok' : 'watch'
  return (
    <p className="flex items-baseline gap-2.5">
      <Tag severity={severity}>{looked ? verdictWords[found.verdict] : 'Inherited'}</Tag>
      <span>
        {!looked && `Known ${fromOthers(view)}; nobody has looked at this one yet. `}
        {found.leader} leads, then {found.runnerUp};{' '}
        {found.entropyBits < leastBits ? 'next to nothing is' : `${found.entropyBits.toFixed(2)} bits are`} still open.
      </span>
    </p>
  )
}

/** The same in words: every check, what it showed, and what it would tell. */
function Twin({ record, found }: { record: Props['record']; found: Identification | null }) {
  const { of } = evidenceOf(record)
  return (
    <table className="plain">
      <thead>
        <tr>
          <th>Check</th>
          <th>Seen</th>
          <th>Tells</th>
          <th>Takes</th>
          <th>Risk</th>
        </tr>
      </thead>
      <tbody>
        {checkKinds.map((k) => {
          const item = of(k.kind)
          const tells = found?.next.find((n) => n.kind === k.kind)
          return (
            <tr key={k.kind}>
              <td>{kindWords[k.kind]}</td>
              <td>{item?.value ? valueWord(k.kind, item.value) : 'not looked at'}</td>
              <td>{tells ? (tells.bits < leastBits ? 'enough' : `${tells.bits.toFixed(2)} bit`) : ''}</td>
              <td className="whitespace-nowrap">{k.minutes} min</td>
              <td>{riskWords[k.risk]}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

/** Which chip it is: what is seen moves the bars; what would tell most is asked next. */
export function IdentifySurface(props: Props) {
  const { view, record, assessment } = props
  const { data } = record
  const [asked, setAsked] = useState<string | null>(null)
  const outcome = identify({ evidence: data.evidence, ...(view.prior ? { prior: view.prior } : {}) })
  const found = outcome.ok ? outcome.value : null
  const here = assessment.steps.find((s) => s.id === 'identify')
  const { of, put } = evidenceOf(record)
  const asks: Ask[] = [
    ...checkAsks(record, found, !here?.ready),
    {
      id: 'printed',
      name: 'Printed',
      ask: 'What is printed on the chip?',
      said: data.printed || null,
      optional: true,
      field: <Printed {...props} />,
    },
  ]
  const marking = of('marking')
  return (
    <StepSheet
      title="Which chip is it"
      say="Say what you see; the bars move with every answer. Press a part of the board to say what it is."
      drawing={
        <div className="grid h-full min-h-0 items-center gap-6 md:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)]">
          <BoardDrawing
            seen={seenOf(record, found)}
            asked={asked ?? asks.find((a) => a.said === null && !a.optional)?.id ?? null}
            onAsk={setAsked}
          />
          {found && <PosteriorBars posterior={found.posterior} />}
        </div>
      }
      twin={<Twin record={record} found={found} />}
      findings={[...conflictFindings(found), ...railFindings(view)]}
      verdict={found && <Verdict view={view} found={found} />}
      card={
        <Questions
          asks={asks}
          at={asked}
          onAt={setAsked}
          rest={<Standing conditions={here?.conditions ?? []} lead={found ? verdictWords[found.verdict] : ''} />}
        />
      }
      more={[
        {
          id: 'markings',
          name: `Markings met before${marking ? `: ${countsSentence(marking.counts ?? {})}` : ''}`,
          content: (
            <MarkingCounts
              counts={marking?.counts ?? {}}
              onChange={(counts) => put('marking', Object.keys(counts).length > 0 ? { kind: 'marking', counts } : null)}
            />
          ),
        },
        {
          id: 'decide',
          name: data.decision ? `Decided: ${data.decision.family}` : 'Decide, with your reason',
          content: <Decide record={record} first={view.board?.family ?? found?.leader ?? 'OTHER'} />,
        },
      ]}
    />
  )
}
