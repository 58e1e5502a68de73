'use client'
import { dayOf, dayWords } from '@fresh-coat/core/edge/day'
import { updateOf } from '@fresh-coat/core/steps/watch/installed'
import { nextDue, proofsOf } from '@fresh-coat/core/steps/watch/proven'
import { inAll, moneyWords } from '@fresh-coat/core/unit/cost'
import { Certificate } from '@/components/drawings/certificate'
import { TextField } from '@/components/forms/fields'
import { Card, Count, Counts } from '@/components/frame/card'
import { StepSheet } from '@/components/frame/sheet'
import { StepLink } from '@/components/frame/step-link'
import { UnitAir, useUnitOnAir } from '@/components/live/unit-air'
import { useNow } from '@/components/live/use-air'
import { numberOf, since, standingOf, stateWords } from '@/components/live/words'
import { amount, buttonClass, Tag, twoDigits } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { InstalledFacts, NoteInstalled, Ran, UpdateFields, UpdatePath, useInstalled } from './updates'

type Props = SurfaceProps<'watch'>

/** "; 9.50 € paid, 19.90 € with the work", as far as it was written down. */
function costOf({ money, records }: Props['view'], minutes: number): string {
  const { paid } = records.arrive.data
  if (paid === null) return ''
  const all = inAll(paid, minutes, money)
  return `; ${moneyWords(paid, money)} paid${all === null ? '' : `, ${moneyWords(all, money)} with the work`}`
}

/** Minutes at the bench, and what the board has from it. */
function taughtWords({ view, choices }: Props): string {
  const mine = choices.pace?.units.find((u) => u.number === view.number)
  const took = mine ? `${Math.round(mine.minutes)} minutes at the bench${costOf(view, mine.minutes)}.` : ''
  const others = (view.board?.unitNumbers ?? []).filter((n) => n !== view.number)
  const taught =
    view.board && view.inService
      ? others.length > 0
        ? `What it taught is filled in at ${others.slice(0, 4).map(twoDigits).join(', ')} of the same board.`
        : 'What it taught is kept for the next of its board.'
      : ''
  return [took, taught].filter(Boolean).join(' ')
}

/** The next thing: what waits, an update that is on its way, or the next day something falls due. */
function NextDue(props: Props) {
  const { view, assessment } = props
  const [first] = assessment.waiting
  const { every, wanted } = useInstalled(props)
  const { path } = updateOf(view, every, wanted)
  const due = nextDue(view)
  if (!assessment.inService) return <Card ask="Not in service yet" how="Finish Prove, and this page begins to watch." />
  if (first)
    return (
      <Card
        lead={
          assessment.waiting.length > 1 ? `${assessment.waiting.length} things wait on you` : 'One thing waits on you'
        }
        ask={first.text}
        how={first.next}
      >
        <StepLink number={view.number} step={first.step} className={`${buttonClass('main')} justify-self-start`}>
          Go there
        </StepLink>
        <ul className="grid gap-2">
          {assessment.waiting.slice(1, 4).map((w) => (
            <li key={`${w.step} ${w.text}`} className="flex gap-2.5">
              <Tag severity={w.severity} />
              <StepLink number={view.number} step={w.step} className="underline underline-offset-4">
                {w.text}
              </StepLink>
            </li>
          ))}
        </ul>
      </Card>
    )
  if (path && path.steps.length > 0)
    return (
      <Card lead="Over the air" ask={`Bring it to ${path.steps[0]?.to}`}>
        <UpdatePath {...props} />
      </Card>
    )
  return (
    <Card
      lead="Nothing waits on you"
      ask={due ? `${due.what}: ${dayWords(due.day)}` : 'Nothing falls due'}
      how="What went stale or falls due shows up here and on the Bench."
    />
  )
}

/** What it is at this moment, as far as it is heard. */
function Now({ number }: { number: number }) {
  const { data } = useUnitOnAir(number)
  const row = data?.row ?? null
  const now = useNow() ?? row?.heardAt ?? 0
  if (!data?.listening) return null
  if (!row) return <Count name="Now">not heard yet</Count>
  const watts = numberOf(row.fields, 'P')
  const there = row.presence === 'online' && !row.flapping
  const said = [
    there ? '' : standingOf(row),
    stateWords(row.fields).words,
    watts === null ? '' : `${amount(watts)} W`,
  ].filter(Boolean)
  return (
    <Count
      name="Now"
      note={row.heardAt === null ? 'only told of, never heard' : `heard ${since(now - row.heardAt)} ago`}
    >
      <span className={there ? '' : 'text-ochre'}>{said.join(', ') || 'on the air'}</span>
    </Count>
  )
}

/** What leaves the app about one unit. */
function Papers({ number }: { number: number }) {
  const link = 'underline underline-offset-4 justify-self-start min-h-[2.4rem]'
  return (
    <>
      <a href={`/labels?units=${number}`} className={link}>
        Its label, to print
      </a>
      <a href={`/api/export/sheet/${number}`} download className={link}>
        Job sheet, to tick on paper
      </a>
      <a href={`/api/export/thing/${number}`} download className={link}>
        Description as a thing of the web, for other programs
      </a>
      <p className="text-ink-2">No secret stands in any of them.</p>
    </>
  )
}

/** The finished coat, and the next thing due. */
export function WatchSurface(props: Props) {
  const { view, assessment, record } = props
  const { ran } = useInstalled(props)
  const proven = view.records.prove.done
  return (
    <StepSheet
      title={assessment.inService ? 'In service' : 'Not in service yet'}
      drawing={
        <Certificate
          number={view.number}
          name={view.name}
          board={view.board?.name ?? 'Board not named yet'}
          coats={assessment.coats}
          proofs={proofsOf(view, assessment.steps)}
          sentence={
            assessment.inService && proven
              ? `In service since ${dayWords(dayOf(proven.at, view.zone))}${view.place ? `, ${view.place}` : ''}`
              : 'Not in service yet'
          }
          taught={taughtWords(props)}
        />
      }
      card={
        <>
          <NextDue {...props} />
          <div className="mt-4">
            <Counts title="It runs">
              {view.topic !== null && <Now number={view.number} />}
              <InstalledFacts {...props} />
              <Count name="Note">
                <span dir="auto">{record.data.note || 'none'}</span>
              </Count>
            </Counts>
          </div>
        </>
      }
      more={[
        view.topic !== null && { id: 'air', name: 'On the air', wide: true, content: <UnitAir view={view} /> },
        {
          name: 'What should run',
          wide: true,
          content: (
            <>
              <UpdateFields {...props} />
              <UpdatePath {...props} />
            </>
          ),
        },
        { name: 'Note what runs on it', content: <NoteInstalled {...props} /> },
        { name: 'Papers', content: <Papers number={view.number} /> },
        ran.length > 0 && { id: 'ran', name: `What it ran: ${ran.length} on record`, content: <Ran ran={ran} /> },
        {
          name: 'Note',
          content: (
            <TextField
              label="Note"
              value={record.data.note}
              maxLength={2000}
              onChange={(note) => record.patch({ note })}
            />
          ),
        },
      ]}
    />
  )
}
