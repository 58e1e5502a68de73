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
import { type SheetMore, StepSheet } from '@/components/frame/sheet'
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

/** The row as it is read: what the readings say, which one is taken next, and what hands do with them. */
function useRow({ view, record, assessment }: Props) {
  const { data, patch } = record
  const [target, setTarget] = useState<Target | null>(null)
  const [passed, setPassed] = useState<string[]>([])
  const n = data.pads.length
  const rows = Math.min(data.rows, Math.max(1, n))
  const order = placesSeenFrom(data.seenFrom, n, rows).map((p) => p.index)
  const readings = Array.from({ length: n }, (_, i) => data.readings[i] ?? {})
  const state = padStateOfReadings(readings, data.railKnown, true, printedBy(data))
  const solution = state.readings > 0 ? state.solution : null
  const powered = state.solution?.poweredAllowed ?? data.railKnown
  const advised = state.solution?.next.find((x) => !passed.includes(`${x.pad} ${x.measure}`)) ?? null
  const asked = target ?? advised
  const now = asked && { ...asked, measure: readNext(asked.measure, readings[asked.pad] ?? {}) }
  const put = (pad: number, reading: PadReading) =>
    patch({ readings: readings.map((r, i) => (i === pad ? reading : r)) as never })
  const choose = (pad: number) => {
    const best = state.solution?.next.find((x) => x.pad === pad)
    const measure = best?.measure ?? openMeasures(readings[pad] ?? {}, powered)[0]
    setTarget(measure ? { pad, measure } : null)
  }
  const pass = () => {
    if (!now || !asked) return
    setPassed([...passed, `${now.pad} ${now.measure}`, `${asked.pad} ${asked.measure}`])
    setTarget(null)
  }
  return {
    ...{ n, rows, order, readings, state, solution, powered, advised, now, target, setTarget, put, choose, pass },
    settled: solution !== null && rowSettled(solution, neededRoles(view)),
    differs: solution?.best.roles.some((r, i) => r !== data.pads[i]) ?? false,
    here: assessment.steps.find((s) => s.id === 'pads'),
    called: (pad: number) => padCalled(data.contacts, pad),
  }
}

type Row = ReturnType<typeof useRow>

/** The one thing to do now: count the pads, take the row, or take the reading that tells most. */
function TheCard({ props, row }: { props: Props; row: Row }) {
  const { view, record } = props
  const { n, target, solution, differs, settled, advised, here, now } = row
  if (n === 0) return <HowManyCard {...props} />
  if (!target && solution && differs && !view.module && (settled || advised === null))
    return <TakeRow record={record} solution={solution} settled={settled} />
  if (!target && here?.ready) return <Standing conditions={here.conditions} />
  if (!now) return <Standing conditions={here?.conditions ?? []} />
  return (
    <ReadingCard
      target={now}
      called={row.called}
      readings={row.readings}
      railKnown={record.data.railKnown}
      solution={row.state.solution}
      put={(pad, reading) => {
        row.put(pad, reading)
        row.setTarget(null)
      }}
      choose={row.setTarget}
      pass={row.pass}
    />
  )
}

function TheDrawing({ props, row }: { props: Props; row: Row }) {
  const { view, record } = props
  const { data } = record
  const { readings, solution, now, choose, n } = row
  const chosen = now?.pad ?? null
  if (view.module)
    return (
      <ModuleField
        module={view.module}
        record={record}
        readings={readings}
        solution={solution}
        chosen={chosen}
        onChoose={choose}
      />
    )
  return (
    <PadField
      pads={drawnPads(props, { ...row.state, solution }, readings, row.order)}
      rows={row.rows}
      face={data.seenFrom}
      chosen={n === 0 ? null : chosen}
      onChoose={choose}
      about={data.pitchMm ? `${data.pitchMm} mm apart` : ''}
    />
  )
}

/** What the readings come to, or what is known of the row without any. */
function TheVerdict({ props: { view, record }, row }: { props: Props; row: Row }) {
  const { solution, settled, n } = row
  if (view.module) return <ModuleVerdict record={record} solution={solution} />
  if (solution) return <Verdict solution={solution} settled={settled} />
  if (n === 0 || !view.board?.pads) return null
  return (
    <p className="text-ink-2">
      The row is known from another unit of this board. One reading of GND and one of 3V3 are a good habit all the same.
    </p>
  )
}

function drawersOf({ view, record }: Props, row: Row): SheetMore[] {
  const { n, order, differs, solution, settled, readings, now, choose } = row
  const photos = view.files.filter((f) => f.kind === 'photo')
  if (n === 0) return []
  return [
    { name: 'By hand', content: <RowByHand record={record} order={order} /> },
    differs &&
      !view.module &&
      solution && {
        name: 'Take the row now',
        content: <TakeRow record={record} solution={solution} settled={settled} />,
      },
    photos.length > 0 && {
      name: 'Where they lie on the photo',
      wide: true,
      content: (
        <PadsOnPhoto
          record={record}
          photos={photos}
          roles={(solution?.best.roles ?? record.data.pads) as PadRole[]}
          readings={readings}
          chosen={now?.pad ?? 0}
          onChoose={choose}
        />
      ),
    },
  ]
}

/** The serial pads: each reading moves the row; the card says which one to take next. */
export function PadsSurface(props: Props) {
  const { view, record } = props
  const row = useRow(props)
  const { n, state, solution, now } = row
  return (
    <StepSheet
      title={view.module ? 'Which contact is what' : 'Which pad is what'}
      say={<PadsSay {...props} count={state.readings} />}
      drawing={<TheDrawing props={props} row={row} />}
      twin={
        n > 0 && (
          <ReadingGrid
            readings={row.readings}
            order={row.order}
            marginals={solution?.marginals ?? null}
            faults={state.faults}
            next={state.solution?.next[0] ?? null}
            poweredAllowed={row.powered}
            chosen={now?.pad ?? 0}
            onChoose={() => {}}
            numberOf={(pad) => record.data.contacts[pad] ?? pad + 1}
            onChange={row.put}
          />
        )
      }
      findings={[...moduleFindings(view), ...padFindings({ ...state, solution }, row.called)]}
      verdict={<TheVerdict props={props} row={row} />}
      card={
        <>
          <TheCard props={props} row={row} />
          <div className="mt-4">
            <PadFacts view={view} />
          </div>
        </>
      }
      more={drawersOf(props, row)}
    />
  )
}
