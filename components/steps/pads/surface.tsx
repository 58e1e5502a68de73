'use client'
import { type Finding, finding } from '@fresh-coat/core/edge/finding'
import { factsOf, isKnownFamily } from '@fresh-coat/core/families/families'
import { placesSeenFrom } from '@fresh-coat/core/pads/face'
import { measureName, readNext } from '@fresh-coat/core/pads/how'
import type { PadReading } from '@fresh-coat/core/pads/readings'
import type { PadSolution } from '@fresh-coat/core/pads/solve'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import { type PadState, padStateOfReadings, printedBy } from '@fresh-coat/core/steps/pads/facts'
import { moduleFindings, neededRoles, padCalled, rowSettled } from '@fresh-coat/core/steps/pads/row'
import { type PadRole, padRoles } from '@fresh-coat/core/wiring/wiring'
import { useState } from 'react'
import { type DrawnPad, PadField } from '@/components/drawings/pad-field'
import { Answers, Card, Count, Counts, Standing } from '@/components/frame/card'
import { StepSheet } from '@/components/frame/sheet'
import { percentOf, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { ModuleField, ModuleVerdict, OrModule } from './module'
import { PadsOnPhoto } from './on-photo'
import { ReadingCard, type Target } from './reading-card'
import { ReadingGrid } from './reading-grid'
import { notesOf, openMeasures } from './readings'
import { PadsSay, RowByHand, withPads } from './say'

type Props = SurfaceProps<'pads'>

const upper = (s: string) => `${s.charAt(0).toUpperCase()}${s.slice(1)}`
const roleWord = (r: string) => (r === 'UNKNOWN' ? 'no role' : r)

/** What disagrees, what cannot be, what is only worth a note. */
function padFindings({ solution, faults }: PadState, called: (pad: number) => string): Finding[] {
  return [
    ...faults.map((f) =>
      finding(
        'reading-refused',
        'error',
        `${upper(called(f.pad))}: ${f.message}`,
        '',
        'It is kept, and left out of the answer.',
      ),
    ),
    ...(solution?.conflicts ?? []).map((c) =>
      finding(
        'pad-conflict',
        'error',
        `${upper(called(c.pad))}: ${measureName(c.measure)} says ${roleWord(c.better)}, ${c.against ? `but ${measureName(c.against)} says ${roleWord(c.role)}` : `but the rest of the row makes it ${roleWord(c.role)}`}.`,
        `One of the two is wrong: “${c.value}” fits ${roleWord(c.better)} ${c.ratio.toFixed(0)} times better.`,
        'Take both again before you go on.',
      ),
    ),
    ...(solution?.labelsSwapped
      ? [
          finding(
            'labels-swapped',
            'ok',
            'The print is written from the other side: “TX” says where the adapter’s TX goes.',
            'Worth a note, no alarm.',
            '',
          ),
        ]
      : []),
  ]
}

/** The row in one line, the runner-up, and whether it may be powered. */
function Verdict({ solution, settled }: { solution: PadSolution; settled: boolean }) {
  const row = (roles: readonly PadRole[]) => roles.map((r) => (r === 'UNKNOWN' ? '?' : r)).join(' · ')
  return (
    <div className="grid gap-x-8 gap-y-1.5 md:grid-cols-2">
      <p className="flex items-baseline gap-2.5">
        <Tag severity={settled ? 'ok' : 'watch'}>{percentOf(solution.best.p)}</Tag>
        <span>
          <span className="pin">{row(solution.best.roles)}</span>. Runner-up {percentOf(solution.runnerUp.p)}:{' '}
          <span className="pin">{row(solution.runnerUp.roles)}</span>.
        </span>
      </p>
      <p className="flex items-baseline gap-2.5">
        <Tag severity={solution.safeToWire ? 'ok' : 'watch'}>
          {solution.safeToWire ? 'may be powered' : 'no power yet'}
        </Tag>
        <span>
          {solution.safeToWire
            ? 'GND and 3V3 are proven by the meter.'
            : 'GND and 3V3 must each be 97 % sure, by the meter: swapping them destroys the part.'}
        </span>
      </p>
    </div>
  )
}

/** The second role of a pad while it is nearly as likely as the first. */
function alsoPossible(solution: PadSolution | null, index: number, role: PadRole): PadRole | null {
  const marginal = solution?.marginals[index]
  if (!marginal) return null
  const [second] = [...padRoles].filter((r) => r !== role).sort((a, b) => marginal[b] - marginal[a])
  return second && marginal[second] > 0.2 && second !== 'UNKNOWN' ? second : null
}

function drawnPads(
  props: Props,
  state: PadState,
  readings: readonly PadReading[],
  order: readonly number[],
): DrawnPad[] {
  const { data } = props.record
  const { solution, readings: count } = state
  return order.map((index) => {
    const role = (solution?.best.roles[index] ?? data.pads[index] ?? 'UNKNOWN') as PadRole
    return {
      index,
      role,
      or: alsoPossible(solution, index, role),
      sure: solution?.marginals[index]?.[role] ?? null,
      square: readings[index]?.square ?? (count === 0 && index === 0),
      label: readings[index]?.label ?? '',
      conflict: solution?.conflicts.some((c) => c.pad === index) ?? false,
      notes: notesOf(readings[index] ?? {}),
    }
  })
}

/** "Take this row": the row that follows from the readings becomes the unit's. */
function TakeRow({ record, solution, settled }: { record: Props['record']; solution: PadSolution; settled: boolean }) {
  const { data, patch } = record
  const { roles, p } = solution.best
  return (
    <Card
      lead={`${percentOf(p)} by the readings`}
      ask={settled ? 'The row is clear. Take it?' : 'Take the row as it stands?'}
      answers={[
        {
          label: settled ? 'Take this row' : 'Take this row as it stands',
          hint: roles.map((r) => (r === 'UNKNOWN' ? '?' : r)).join(' '),
          pick: () =>
            patch({
              pads: roles,
              ...(data.bootBy === null && roles.includes('BOOT') ? { bootBy: 'pad' as const } : {}),
            }),
        },
      ]}
    />
  )
}

function HowManyCard(props: Props) {
  const { record } = props
  return (
    <Card
      ask="How many pads lie together?"
      how="Count the holes or gold dots near the chip. Which one is what follows from the readings."
      answers={[]}
    >
      <Answers
        from={3}
        answers={[3, 4, 5, 6, 7, 8, 9, 10].map((n) => ({
          label: `${n} pads`,
          pick: () => record.patch(withPads(record, n)),
        }))}
      />
      <OrModule {...props} />
    </Card>
  )
}

/** What counts for the pads of this family. */
function PadFacts({ view }: Pick<Props, 'view'>) {
  const family = familyOf(view)?.family ?? null
  if (!family || !isKnownFamily(family)) return null
  const facts = factsOf(family)
  return (
    <Counts>
      <Count name="Family" note={`its text comes at ${facts.bootBaud} baud`}>
        {facts.family}: TX is {facts.uart.tx}, RX is {facts.uart.rx}
      </Count>
      <Count name="Strap">{facts.bootStrap}</Count>
    </Counts>
  )
}

/** The serial pads: each reading moves the row; the card says which one to take next. */
export function PadsSurface(props: Props) {
  const { view, record, assessment } = props
  const { data, patch } = record
  const [target, setTarget] = useState<Target | null>(null)
  const [passed, setPassed] = useState<string[]>([])
  const n = data.pads.length
  const rows = Math.min(data.rows, Math.max(1, n))
  const order = placesSeenFrom(data.seenFrom, n, rows).map((p) => p.index)
  const readings = Array.from({ length: n }, (_, i) => data.readings[i] ?? {})
  const state = padStateOfReadings(readings, data.railKnown, true, printedBy(data))
  const taken = state.readings > 0
  const solution = taken ? state.solution : null
  const powered = state.solution?.poweredAllowed ?? data.railKnown
  const advised = state.solution?.next.find((x) => !passed.includes(`${x.pad} ${x.measure}`)) ?? null
  const asked = target ?? advised
  const now = asked && { ...asked, measure: readNext(asked.measure, readings[asked.pad] ?? {}) }
  const here = assessment.steps.find((s) => s.id === 'pads')
  const called = (pad: number) => padCalled(data.contacts, pad)
  const settled = solution !== null && rowSettled(solution, neededRoles(view))
  const differs = solution?.best.roles.some((r, i) => r !== data.pads[i]) ?? false
  const put = (pad: number, reading: PadReading) => {
    patch({ readings: readings.map((r, i) => (i === pad ? reading : r)) as never })
    setTarget(null)
  }
  const choose = (pad: number) => {
    const best = state.solution?.next.find((x) => x.pad === pad)
    const measure = best?.measure ?? openMeasures(readings[pad] ?? {}, powered)[0]
    setTarget(measure ? { pad, measure } : null)
  }
  const photos = view.files.filter((f) => f.kind === 'photo')
  const card =
    n === 0 ? (
      <HowManyCard {...props} />
    ) : !target && solution && differs && !view.module && (settled || advised === null) ? (
      <TakeRow record={record} solution={solution} settled={settled} />
    ) : !target && here?.ready ? (
      <Standing conditions={here.conditions} />
    ) : now ? (
      <ReadingCard
        target={now}
        called={called}
        readings={readings}
        railKnown={data.railKnown}
        solution={state.solution}
        put={put}
        choose={setTarget}
        pass={() => {
          setPassed([...passed, `${now.pad} ${now.measure}`, ...(asked ? [`${asked.pad} ${asked.measure}`] : [])])
          setTarget(null)
        }}
      />
    ) : (
      <Standing conditions={here?.conditions ?? []} />
    )
  const grid = n > 0 && (
    <ReadingGrid
      readings={readings}
      order={order}
      marginals={solution?.marginals ?? null}
      faults={state.faults}
      next={state.solution?.next[0] ?? null}
      poweredAllowed={powered}
      chosen={now?.pad ?? 0}
      onChoose={() => {}}
      numberOf={(pad) => data.contacts[pad] ?? pad + 1}
      onChange={(index, cell) => patch({ readings: readings.map((r, i) => (i === index ? cell : r)) as never })}
    />
  )
  return (
    <StepSheet
      title={view.module ? 'Which contact is what' : 'Which pad is what'}
      say={<PadsSay {...props} count={state.readings} />}
      drawing={
        view.module ? (
          <ModuleField
            module={view.module}
            record={record}
            readings={readings}
            solution={solution}
            chosen={now?.pad ?? null}
            onChoose={choose}
          />
        ) : (
          <PadField
            pads={drawnPads(props, { ...state, solution }, readings, order)}
            rows={rows}
            face={data.seenFrom}
            chosen={n === 0 ? null : (now?.pad ?? null)}
            onChoose={choose}
            about={data.pitchMm ? `${data.pitchMm} mm apart` : ''}
          />
        )
      }
      twin={grid}
      findings={[...moduleFindings(view), ...padFindings({ ...state, solution }, called)]}
      verdict={
        view.module ? (
          <ModuleVerdict record={record} solution={solution} />
        ) : solution ? (
          <Verdict solution={solution} settled={settled} />
        ) : (
          n > 0 &&
          view.board?.pads && (
            <p className="text-ink-2">
              The row is known from another unit of this board. One reading of GND and one of 3V3 are a good habit all
              the same.
            </p>
          )
        )
      }
      card={
        <>
          {card}
          <div className="mt-4">
            <PadFacts view={view} />
          </div>
        </>
      }
      more={[
        n > 0 && { name: 'By hand', content: <RowByHand record={record} order={order} /> },
        n > 0 &&
          differs &&
          !view.module &&
          solution && {
            name: 'Take the row now',
            content: <TakeRow record={record} solution={solution} settled={settled} />,
          },
        n > 0 &&
          photos.length > 0 && {
            name: 'Where they lie on the photo',
            wide: true,
            content: (
              <PadsOnPhoto
                record={record}
                photos={photos}
                roles={(solution?.best.roles ?? data.pads) as PadRole[]}
                readings={readings}
                chosen={now?.pad ?? 0}
                onChoose={choose}
              />
            ),
          },
      ]}
    />
  )
}
