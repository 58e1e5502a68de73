'use client'
import { type BootLog, bootAdvice, readBootLog } from '@fresh-coat/core/boot/boot-log'
import { questionWords } from '@fresh-coat/core/link/questions'
import { afterLook, bootOf, startLooks } from '@fresh-coat/core/steps/start/facts'
import type { ReactNode } from 'react'
import { Rail, type Stage } from '@/components/drawings/rail'
import { AreaField, TextField } from '@/components/forms/fields'
import { type Ask, Questions, Standing } from '@/components/frame/card'
import { StepSheet } from '@/components/frame/sheet'
import { Console } from '@/components/link/console'
import { WayForm } from '@/components/link/way-form'
import { Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { useListenHere } from './listen-here'

type Props = SurfaceProps<'start'>

const good = new Set(['flash_boot', 'app_text'])

/** How far a start got, by its boot text. */
function stagesOf(boot: BootLog | null, seenBy: string | null, strapFree: boolean): Stage[] {
  const last = boot?.lines.at(-1)
  const runs = boot !== null && good.has(boot.verdict)
  const talks = boot !== null && (boot.boots > 0 || boot.printable > 0.5)
  const seen = runs || (seenBy !== null && seenBy !== 'boot text')
  const state = (reached: boolean, failed = false): Stage['state'] => (reached ? 'reached' : failed ? 'failed' : 'open')
  const stages: Stage[] = [
    { name: 'Strap free', note: strapFree ? 'said so' : 'not said', state: state(strapFree) },
    {
      name: 'Speaks',
      note: boot ? `${Math.round(boot.printable * 100)} % text` : 'nothing heard',
      state: state(talks, boot !== null),
    },
    {
      name: 'Boot ROM',
      note: last ? last.cause.replaceAll('_', ' ') : boot ? `${boot.boots} boot lines` : '',
      state: state((boot?.boots ?? 0) > 0),
    },
    {
      name: 'From flash',
      note: last ? `mode ${last.mode}` : '',
      state: state(last?.mode === 'flash' || runs, Boolean(last)),
    },
    {
      name: 'Runs',
      note: seen ? (runs ? 'by its text' : (seenBy ?? '')) : '',
      state: state(seen, boot !== null && !runs),
    },
  ]
  // A family whose start prints no boot line has no such stage.
  return seen && !last ? stages.filter((s) => s.name !== 'Boot ROM') : stages
}

/** What it answered when it was asked, and what its access point is called. */
function Answers({ view, record: { patch } }: Pick<Props, 'view' | 'record'>) {
  const data = startLooks(view)
  return (
    <div className="grid gap-4">
      {data.answers.length > 0 && (
        <ul className="grid gap-2" aria-label="What it answered">
          {data.answers.map((a) => (
            <li key={a.what + a.said}>
              <Tag severity={a.severity}>{a.severity === 'ok' ? 'it says' : 'look'}</Tag>{' '}
              <strong>{questionWords[a.what]}</strong> <span className="pin">{a.said}</span>: {a.words}
            </li>
          ))}
        </ul>
      )}
      <p className="text-ink-2">
        What a program says of itself is its word: a relay counts as heard when somebody heard it.
      </p>
      <TextField
        label="Name of its access point"
        mono
        value={data.apName}
        maxLength={64}
        onChange={(apName) => patch({ apName })}
      />
    </div>
  )
}

const seenWords = {
  'boot text': 'by its boot text',
  'access point': 'its access point',
  'light or click': 'a light or a click',
}

function asksOf({ view, record: { patch } }: Props, boot: BootLog | null, offer: ReactNode): Ask[] {
  const data = startLooks(view)
  const look = (seen: Partial<Props['record']['data']>) => patch(afterLook(view, seen))
  const runs = boot !== null && good.has(boot.verdict)
  return [
    {
      id: 'strap',
      name: 'Strap',
      ask: 'Is the jumper off, and nothing holds BOOT?',
      how: 'A unit that sits in its loader only looks dead. Take it off, then power off and on.',
      said: data.strapFree ? 'BOOT is free' : null,
      answers: [
        { label: 'Yes, BOOT is free', pick: () => look({ strapFree: true }), chosen: data.strapFree },
        { label: 'No', pick: () => look({ strapFree: false }) },
      ],
    },
    {
      id: 'text',
      name: 'Boot text',
      ask: 'Power on from 3.3 V: what does it print?',
      how: 'Listen from here, or paste the text of a console through the reset. Or say how else you saw it start.',
      said: runs ? 'it starts' : data.seenBy && data.seenBy !== 'boot text' ? `seen: ${seenWords[data.seenBy]}` : null,
      answers: (['access point', 'light or click'] as const).map((seenBy) => ({
        label: seenBy === 'access point' ? 'Its access point is there' : 'A light or a click',
        pick: () => look({ seenBy }),
        chosen: data.seenBy === seenBy,
      })),
      field: (
        <div className="grid gap-3">
          {offer}
          <AreaField
            label="Boot text, as the console shows it"
            value={data.log}
            maxLength={200_000}
            rows={4}
            onChange={(log) => look({ log })}
          />
        </div>
      ),
    },
  ]
}

function Verdict({ boot }: { boot: BootLog | null }) {
  if (!boot) return null
  const last = boot.lines.at(-1)
  const straps = Object.entries(last?.strap ?? {}).map(([pin, level]) => `${pin} ${level ? 'high' : 'low'}`)
  return (
    <p className="flex items-baseline gap-2.5">
      <Tag severity={good.has(boot.verdict) ? 'ok' : 'error'}>{boot.verdict.replaceAll('_', ' ')}</Tag>
      <span>
        <strong>{good.has(boot.verdict) ? 'It runs what is in its flash.' : bootAdvice[boot.verdict]}</strong>{' '}
        <span className="text-ink-2">
          {boot.boots} boot line{boot.boots === 1 ? '' : 's'}
          {last ? `, the last from ${last.family.replaceAll('_', ' ')}` : ''}.
          {straps.length > 0 ? ` Straps: ${straps.join(', ')}.` : ''}
        </span>
      </span>
    </p>
  )
}

/** The first start: how far it got, by what it printed or what was seen. */
export function StartSurface(props: Props) {
  const { view, record, assessment } = props
  const data = startLooks(view)
  const before = data !== view.records.start.data
  const here = assessment.steps.find((s) => s.id === 'start')
  const listening = useListenHere(props)
  const { live } = listening
  const heard = live === null ? null : readBootLog({ text: live.text })
  const boot = heard ? (heard.ok ? heard.value : null) : bootOf(view)
  return (
    <StepSheet
      title="See it start"
      say={`Power off, free BOOT, power on from 3.3 V, and listen on its TX.${before ? ' What was seen before was the start of another image.' : ''}`}
      drawing={
        <div className="grid content-center gap-5">
          <Rail stages={stagesOf(boot, data.seenBy, data.strapFree)} label="How far it got" />
          <Console kept={data.log} live={live} />
        </div>
      }
      verdict={<Verdict boot={boot} />}
      more={[
        { id: 'port', name: 'Where the adapter hangs', content: <WayForm /> },
        {
          id: 'answers',
          name: data.apName ? `What it says of itself: ${data.apName}` : 'What it says of itself',
          content: <Answers view={view} record={record} />,
        },
      ]}
      card={
        listening.card ?? (
          <Questions
            asks={asksOf(props, boot, listening.offer)}
            rest={<Standing conditions={here?.conditions ?? []} />}
          />
        )
      }
    />
  )
}
