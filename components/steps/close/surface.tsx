'use client'
import { closeFindings, moduleGoesIn } from '@fresh-coat/core/steps/close/conditions'
import { closingQuestions, nothingWasRecorded } from '@fresh-coat/core/steps/close/questions'
import { useState } from 'react'
import { ClosingDrawing, type GoingBack, goingBack } from '@/components/drawings/closing-drawing'
import { NumberField } from '@/components/forms/fields'
import { type Ask, Questions, Standing } from '@/components/frame/card'
import { StepSheet } from '@/components/frame/sheet'
import { buttonClass, shortMoment, Tag } from '@/components/paint/paint'
import { refitAt } from '@/components/refit/refit'
import type { SurfaceProps } from '@/components/steps/context'
import { handwork } from '@/components/steps/handwork'

type Props = SurfaceProps<'close'>

/** A thing is back, or lies on the bench again. */
function put({ data, patch }: Props['record'], thing: GoingBack): void {
  const back = thing.back < thing.of
  if (!thing.id.startsWith('part ')) return patch({ restored: { ...data.restored, [thing.id]: back ? thing.of : 0 } })
  patch({ partsBack: back ? [...data.partsBack, thing.name] : data.partsBack.filter((x) => x !== thing.name) })
}

/** What goes in next: counted, not ticked away. */
function nextAsk(record: Props['record'], list: readonly GoingBack[]): Ask {
  const next = list.find((t) => t.back < t.of)
  const { data, patch } = record
  const left = list.reduce((n, t) => n + Math.max(0, t.of - t.back), 0)
  return {
    id: `in ${next?.id ?? ''}`,
    name: 'Back in',
    lead: next ? `${left} still on the bench` : '',
    ask: next ? `Back in now: ${next.name}` : '',
    how: next?.note ?? '',
    said: next ? null : list.length > 0 ? `all of ${list.length}` : null,
    optional: !next,
    ...(next
      ? {
          answers: [
            { label: next.of === 1 ? 'It is back' : `All ${next.of} are back`, pick: () => put(record, next) },
            ...(next.of > 1 && !next.id.startsWith('part ')
              ? [
                  {
                    label: 'One more is back',
                    hint: `${next.back} of ${next.of} so far`,
                    pick: () => patch({ restored: { ...data.restored, [next.id]: Math.min(next.of, next.back + 1) } }),
                  },
                ]
              : []),
          ],
        }
      : {}),
  }
}

/** Where Open holds nothing, Close counts itself. */
function countAsks({ view, record: { data, patch } }: Props): Ask[] {
  if (!nothingWasRecorded(view) || view.route === 'built') return []
  const count = (field: 'fastenersOut' | 'fastenersBack' | 'looseParts', name: string, ask: string): Ask => ({
    id: field,
    name,
    lead: 'Nothing was written down at Open: count now',
    ask,
    how: 'None is 0.',
    said: data[field] === null ? null : String(data[field]),
    field: (
      <NumberField
        label={ask}
        value={data[field]}
        min={0}
        max={500}
        whole
        onChange={(n) => patch({ [field]: n })}
        className="max-w-[11rem]"
      />
    ),
  })
  return [
    count('fastenersOut', 'Came out', 'How many fasteners came out?'),
    count('fastenersBack', 'Are back', 'How many fasteners are back?'),
    count('looseParts', 'Left over', 'How many parts are left over?'),
    ...(view.board?.mains === false
      ? []
      : [
          {
            id: 'unharmed',
            name: 'Unharmed',
            ask: 'Did the case come apart without force, blade or heat?',
            said: data.unharmed === null ? null : data.unharmed === 'yes' ? 'Yes, unharmed' : 'No',
            answers: [
              { label: 'Yes, unharmed', pick: () => patch({ unharmed: 'yes' }) },
              { label: 'No', pick: () => patch({ unharmed: 'no' }) },
            ],
          } satisfies Ask,
        ]),
  ]
}

/** It goes in, then it is measured, then the case is closed. */
const moduleAsks = ({ view, record: { data, patch } }: Props): Ask[] =>
  moduleGoesIn(view)
    ? [
        {
          id: 'module-back',
          name: 'Module',
          lead: 'Before it is measured',
          ask: 'Is the module soldered into its place?',
          how: 'Contact 1 where the photo has it; two opposite corners first, flat, then the rest.',
          said: data.moduleBack ? 'in its place' : null,
          answers: [{ label: 'It is in', pick: () => patch({ moduleBack: true }) }],
        },
      ]
    : []

/** Only answers open the way to the mains. */
const closingAsks = ({ view, record: { data, patch } }: Props): Ask[] =>
  closingQuestions(view).map((q) => {
    const answer = data.answers[q.id]
    return {
      id: q.id,
      name: 'Asked',
      lead: 'Before it may go on the mains',
      ask: q.ask,
      said: answer ? `${q.ask} ${answer === 'yes' ? 'Yes' : 'No'}` : null,
      answers: (['yes', 'no'] as const).map((a) => ({
        label: a === 'yes' ? 'Yes' : 'No',
        ...(a === q.safe ? {} : { hint: q.wrong, grave: true }),
        pick: () => patch({ answers: { ...data.answers, [q.id]: a } }),
        chosen: answer === a,
      })),
    }
  })

function Glue({ data, patch }: Props['record']) {
  return (
    <>
      <button
        type="button"
        className={`${buttonClass()} justify-self-start`}
        onClick={() => patch({ gluedAt: new Date().toISOString() })}
      >
        Glued just now
      </button>
      <NumberField
        label="It sets in"
        unit="h"
        min={0}
        max={1000}
        value={data.glueHours}
        onChange={(glueHours) => patch({ glueHours })}
      />
      {data.gluedAt && (
        <p className="text-ink-2">
          Glued {shortMoment(data.gluedAt)}.
          {data.glueHours !== null &&
            ` Set from ${shortMoment(new Date(Date.parse(data.gluedAt) + data.glueHours * 3_600_000).toISOString())}.`}
        </p>
      )}
    </>
  )
}

function glueAsks({ view, record }: Props): Ask[] {
  const { fasteners } = view.records.open.data
  const { data, patch } = record
  return [
    ...(fasteners.some((f) => f.restore === 'glue')
      ? [
          {
            id: 'glue',
            name: 'Glue',
            ask: 'When was it glued, and how long does it set?',
            how: 'Glue that was broken has to be glued again, and set, before any mains.',
            said: data.gluedAt && data.glueHours !== null ? shortMoment(data.gluedAt) : null,
            field: <Glue {...record} />,
          } satisfies Ask,
        ]
      : []),
    ...(fasteners.some((f) => f.kind === 'clip')
      ? [
          {
            id: 'clips',
            name: 'Broken',
            ask: 'How many clips broke?',
            said: `${data.clipsBroken} ${data.clipsBroken === 1 ? 'clip' : 'clips'}`,
            optional: true,
            field: (
              <NumberField
                label="Clips broken"
                value={data.clipsBroken}
                min={0}
                max={500}
                whole
                onChange={(n) => patch({ clipsBroken: n ?? 0 })}
              />
            ),
          } satisfies Ask,
        ]
      : []),
  ]
}

/** The way back: what came out goes in, and the questions before any mains. */
export function CloseSurface(props: Props) {
  const { view, record, assessment } = props
  const { fasteners, parts } = view.records.open.data
  const { data, patch } = record
  const built = view.route === 'built'
  const list = built ? [] : goingBack(fasteners, parts, data.restored, data.partsBack)
  const findings = closeFindings(view)
  const here = assessment.steps.find((s) => s.id === 'close')
  const [asked, setAsked] = useState<string | null>(null)
  const refit = refitAt(view, 'close', record)
  const measuring = refit !== null && refit.judged.verdict !== 'go'
  // Measured while the contacts can still be reached: before anything goes back in.
  const goesIn = moduleGoesIn(view) && !data.moduleBack
  const asks = [
    ...moduleAsks(props),
    ...(goesIn ? [] : (refit?.asks ?? [])),
    ...(measuring || goesIn
      ? []
      : [...countAsks(props), nextAsk(record, list), ...glueAsks(props), ...closingAsks(props)]),
  ]
  return (
    <StepSheet
      title="Close it up"
      say={
        goesIn
          ? 'The module goes in first; then its contacts are measured, and then the case is closed.'
          : measuring
            ? `${refit.reason} It is measured before any power, then closed.`
            : 'The way back, last out first in. Solder wires off before closing.'
      }
      drawing={
        refit && (measuring || built) ? (
          refit.drawing(asked)
        ) : (
          <ClosingDrawing
            list={list}
            empty={
              built
                ? 'Built from parts: its own case is closed with the questions on the card.'
                : 'Nothing was written down at Open: it is counted now, on the card.'
            }
            next={list.find((t) => t.back < t.of)?.id ?? null}
            onToggle={(thing) => put(record, thing)}
          />
        )
      }
      findings={[...(refit?.judged.findings.filter((f) => f.severity === 'error') ?? []), ...findings]}
      verdict={
        findings.length === 0 &&
        !measuring &&
        // Of a built unit nothing came off: what counts is what was asked of its case.
        (!built || here?.ready) && (
          <p className="flex gap-2.5">
            <Tag severity="ok" />{' '}
            {built ? 'Every question before the mains is answered.' : 'Everything that came off is back: 0 left over.'}
          </p>
        )
      }
      card={
        <Questions asks={asks} at={asked} onAt={setAsked} rest={<Standing conditions={here?.conditions ?? []} />} />
      }
      more={[
        moduleGoesIn(view) && handwork('back'),
        view.records.wire.data.held === 'solder' && handwork('leads'),
        fasteners.length > 0 &&
          !built && {
            name: 'All counted at once',
            content: (
              <button
                type="button"
                className={`${buttonClass()} justify-self-start`}
                onClick={() => patch({ restored: Object.fromEntries(fasteners.map((f) => [f.id, f.count])) })}
              >
                I have counted: all of them are back
              </button>
            ),
          },
      ]}
    />
  )
}
