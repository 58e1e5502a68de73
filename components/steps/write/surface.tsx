'use client'
import { grouped, hexNumber } from '@fresh-coat/core/bytes/text'
import { attemptAdvice } from '@fresh-coat/core/flash/attempts'
import type { WritePlan } from '@fresh-coat/core/flash/preflight/question'
import { writesTried } from '@fresh-coat/core/flash/tried'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import { wordsNotLogged } from '@fresh-coat/core/paste/offer'
import { preflightOf, writeOffsetOf } from '@fresh-coat/core/steps/check/facts'
import { gateHolds, gatesFor } from '@fresh-coat/core/unit/gates'
import type { AttemptOutcome, UnitFile } from '@fresh-coat/core/unit/view'
import { useState } from 'react'
import { WritePlanDrawing } from '@/components/drawings/write-plan'
import { PatchMode } from '@/components/files/image-tools'
import { copyByHand, useCopy } from '@/components/forms/copy'
import { Choice } from '@/components/forms/fields'
import { Card, Standing } from '@/components/frame/card'
import { type SheetMore, StepSheet } from '@/components/frame/sheet'
import { useRefresh } from '@/components/frame/use-refresh'
import { WayForm } from '@/components/link/way-form'
import { buttonClass, Key, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Armed } from './armed'
import { AttemptTable, outcomeWords, WhatWorked } from './attempts'
import { LogAttempt, type LogProps } from './log'
import { OwnLine } from './own-line'
import { useWriteHere, WriteHere, WriteHereDrawing } from './write-here'

type Props = SurfaceProps<'write'>

interface Fact {
  name: string
  value: string
  /** Copied as it is; null where there is nothing to copy. */
  copy: string | null
}

/** The mode that a file carries for the chip; null where it says none. */
type Mode = ImageInspection['images'][number]['mode'] | null
const modeOf = (view: Props['view']): Mode =>
  (view.image?.inspection as ImageInspection | null)?.images[0]?.mode ?? null

/** Files of a set that is written one by one; empty where the image goes in as it is. */
const partsOf = ({ view, record }: Pick<Props, 'view' | 'record'>) =>
  record.data.byParts && view.image ? view.records.check.data.set.filter((p) => p.offset !== null) : []

function factsOf({ view, record }: Pick<Props, 'view' | 'record'>): Fact[] {
  if (!view.image) return []
  const check = view.records.check.data
  const offset = writeOffsetOf(view)
  const mode = modeOf(view)
  const at = offset === null ? null : hexNumber(offset)
  const parts = partsOf({ view, record })
  if (parts.length > 0)
    return [
      ...parts.map((p) => ({
        name: hexNumber(p.offset ?? 0),
        value: `${p.name}, ${grouped(p.bytes)} bytes`,
        copy: p.name,
      })),
      { name: 'Rate', value: `${grouped(check.baud)} baud`, copy: String(check.baud) },
      {
        name: 'Erase',
        value: check.eraseAll ? 'the whole chip, once, before the first' : 'only the written sectors',
        copy: null,
      },
    ]
  return [
    { name: 'File', value: view.image.name, copy: view.image.name },
    { name: 'Offset', value: at ?? 'not known: see the check', copy: at },
    { name: 'Length', value: `${grouped(view.image.bytes)} bytes`, copy: String(view.image.bytes) },
    { name: 'Rate', value: `${grouped(check.baud)} baud`, copy: String(check.baud) },
    { name: 'Erase', value: check.eraseAll ? 'the whole chip' : 'only the written sectors', copy: null },
    ...(mode ? [{ name: 'Mode', value: `${mode}, as the file carries it`, copy: mode }] : []),
    { name: 'SHA-256', value: view.image.sha256, copy: view.image.sha256 },
  ]
}

/** Plain facts for any tool, each copied by a press. */
function Facts({ facts }: { facts: readonly Fact[] }) {
  const { copy, said } = useCopy()
  return (
    <dl className="grid grid-cols-[5.4rem_minmax(0,1fr)] gap-x-4 gap-y-1 text-[1.05rem]">
      {facts.map((f) => (
        <div key={f.name} className="contents">
          <dt className="text-ink-2">{f.name}</dt>
          <dd className="min-w-0">
            {f.copy === null ? (
              f.value
            ) : (
              <button
                type="button"
                className="max-w-full truncate text-left align-bottom font-semibold hover:underline"
                title="Copy it"
                onClick={() => copy(f.copy as string, f.name)}
              >
                <span className={f.name === 'SHA-256' || f.name === 'Offset' ? 'pin' : ''}>{f.value}</span>
                {said(f.name) === 'copied' && <span className="ml-2 font-normal text-verdigris">copied</span>}
              </button>
            )}
            {said(f.name) === 'refused' && <p role="alert">{copyByHand}</p>}
          </dd>
        </div>
      ))}
    </dl>
  )
}

/** What the link itself took: erasing and verifying are planned apart. */
const linkSeconds = (plan: WritePlan, seconds: number): number | null =>
  plan.seconds.erase === null
    ? null
    : Math.max(0, Math.round((seconds - plan.seconds.erase - plan.seconds.verify) * 10) / 10)

/** Sends one attempt with what the check says of it. */
function useLog({ view, act }: Pick<Props, 'view' | 'act'>) {
  const { verify } = view.records.check.data
  return (attempt: {
    outcome: AttemptOutcome
    minutes: number
    verified: boolean
    message: string
    seconds: number | null
    tool?: string
    system?: string
    wordsId?: string | null
  }) =>
    act('log-attempt', {
      ...attempt,
      unitId: view.id,
      verify,
      verified: attempt.outcome === 'done' && verify !== 'none' && attempt.verified,
    })
}

function BothHands({
  view,
  plan,
  open,
  beside,
  log,
}: {
  view: Props['view']
  plan: WritePlan
  open: boolean
  /** Another way to write it stands above. */
  beside: boolean
  log: ReturnType<typeof useLog>
}) {
  const [armed, setArmed] = useState(false)
  const check = view.records.check.data
  return (
    <>
      <button
        type="button"
        data-key="b"
        className={`${buttonClass(beside ? 'plain' : 'main')} min-h-[3rem] text-[1.1rem]`}
        disabled={open}
        onClick={() => setArmed(true)}
      >
        Both hands full
        <Key>b</Key>
      </button>
      <Armed
        open={armed}
        onOpenChange={setArmed}
        plannedSeconds={plan.seconds.total}
        verify={check.verify}
        facts={[
          ['File', view.image?.name ?? ''],
          ['Offset', hexNumber(plan.regions[0]?.offset ?? 0)],
          ['Rate', `${check.baud} baud`],
          ['Erase', plan.erase === 'chip' ? 'whole chip' : `${plan.eraseSectors} sectors`],
        ]}
        log={(said, seconds) =>
          log({
            ...said,
            minutes: Math.max(1, Math.ceil(seconds / 60)),
            message: '',
            seconds: linkSeconds(plan, seconds),
          })
        }
      />
    </>
  )
}

/** How the writes so far went, and what is tried next. */
function Verdict({ view }: Pick<Props, 'view'>) {
  const advice = attemptAdvice(view.attempts, modeOf(view))
  const [last] = view.attempts
  return (
    <>
      {advice && (
        <p className="flex gap-2.5">
          <Tag severity="watch" /> {advice}
        </p>
      )}
      {last && (
        <p className="flex gap-2.5">
          <Tag severity={last.outcome === 'done' ? (last.verified ? 'ok' : 'watch') : 'error'}>last</Tag>
          {outcomeWords[last.outcome]}
          {last.verified ? `, equal by ${last.verify}` : ''}
          {last.message ? `: “${last.message}”` : ''}
        </p>
      )}
    </>
  )
}

/** What logging an attempt goes by, on the card and in its drawer. */
function logProps({ view }: Props, open: boolean, log: ReturnType<typeof useLog>) {
  const words = wordsNotLogged(view)
  return {
    verify: view.records.check.data.verify,
    lead: `Attempt ${view.attempts.length + 1}`,
    words,
    busy: open,
    log: ({ outcome, minutes, ...rest }: Parameters<LogProps['log']>[0]) =>
      log({ ...rest, outcome, minutes: minutes ?? 0 }),
  } satisfies Partial<LogProps>
}

type Linked = ReturnType<typeof useWriteHere>
interface Working {
  props: Props
  linked: Linked
  plan: WritePlan | null
  open: boolean
  log: ReturnType<typeof useLog>
  logging: ReturnType<typeof logProps>
}

function TheCard({ props, linked, plan, open, log, logging }: Working) {
  const { view, assessment } = props
  const here = assessment.steps.find((s) => s.id === 'write')
  const beside = linked.unable === null
  if (linked.card) return linked.card
  if (here?.ready) return <Standing conditions={here.conditions} />
  if (!view.image || !plan)
    return (
      <Card
        ask={view.image ? 'The check stops it' : 'No image is chosen'}
        how="Check the image says what may go in, where, and what is in the way."
      />
    )
  return (
    <LogAttempt
      {...logging}
      key={logging.words?.id ?? ''}
      above={<WriteHere {...linked} attempt={view.attempts.length + 1} />}
      beside={beside}
      overhead={writesTried(view).overheads[view.adapter?.name ?? ''] ?? null}
    >
      <BothHands view={view} plan={plan} open={open} beside={beside} log={log} />
    </LogAttempt>
  )
}

/** What a line of one's own is filled with, once for each file that is written. */
function lineValues(props: Props, file: UnitFile) {
  const parts = partsOf(props)
  const { baud } = props.view.records.check.data
  return (parts.length > 0 ? parts : [{ ...file, offset: writeOffsetOf(props.view) }]).map((p) => ({
    file: p.name,
    offset: p.offset === null ? '' : hexNumber(p.offset),
    baud: String(baud),
    bytes: String(p.bytes),
    sha256: p.sha256,
  }))
}

/** One file or its parts: the chip holds the same. */
function ByParts({ record, count }: { record: Props['record']; count: number }) {
  return (
    <>
      <p>
        The image was made of {count} files. Written one by one, each at its own offset, or as the one file, the chip
        holds the same.
      </p>
      <Choice
        label="It is written"
        value={record.data.byParts ? 'parts' : 'one'}
        options={[
          { value: 'one', label: 'As one file' },
          { value: 'parts', label: 'By parts' },
        ]}
        onChange={(how) => record.patch({ byParts: how === 'parts' })}
      />
    </>
  )
}

function SaveFile({ file, mode, done }: { file: UnitFile; mode: Mode; done: () => void }) {
  return (
    <>
      <a className={`${buttonClass('main')} justify-self-start`} href={`/api/files/${file.id}`}>
        Save {file.name}
      </a>
      <PatchMode fileId={file.id} mode={mode} done={done} />
    </>
  )
}

/** Drawers about the file that is written. */
function fileDrawers(props: Props, refresh: () => void): SheetMore[] {
  const { view, record, choices } = props
  const file = view.image
  if (!file) return []
  const { set } = view.records.check.data
  return [
    { name: 'A line of your own', content: <OwnLine lines={choices.lines} values={lineValues(props, file)} /> },
    set.length > 1 && {
      id: 'parts',
      name: record.data.byParts ? `Written by parts: ${set.length} files` : 'Write it by parts',
      content: <ByParts record={record} count={set.length} />,
    },
    { id: 'port', name: 'Where the adapter hangs', content: <WayForm /> },
    { name: 'Save the file', content: <SaveFile file={file} mode={modeOf(view)} done={refresh} /> },
  ]
}

/** Drawers about what was tried. */
function attemptDrawers({ props, plan, logging }: Working): SheetMore[] {
  const { view, act, assessment } = props
  const tried = writesTried(view)
  const ready = assessment.steps.find((s) => s.id === 'write')?.ready
  return [
    ready &&
      view.image &&
      plan && { name: 'Log another attempt', content: <LogAttempt {...logging} overhead={null} /> },
    view.attempts.length > 0 && {
      id: 'attempts',
      name: `Attempts on this unit: ${view.attempts.length}`,
      wide: true,
      content: (
        <AttemptTable
          attempts={view.attempts}
          annotate={(attemptId, text) => act('annotate-attempt', { attemptId, text })}
        />
      ),
    },
    tried.count > 0 && {
      name: view.board ? 'What worked on this board' : 'What worked',
      wide: true,
      content: <WhatWorked tried={tried} what="write" />,
    },
  ]
}

/** Writing: what any tool needs, the time it takes, and how it went. */
export function WriteSurface(props: Props) {
  const { view } = props
  const refresh = useRefresh()
  const log = useLog(props)
  const linked = useWriteHere(props)
  const plan = preflightOf(view)?.plan ?? null
  const open = gatesFor(view, 'write').some((g) => !gateHolds(view, g))
  const working: Working = { props, linked, plan, open, log, logging: logProps(props, open, log) }
  return (
    <StepSheet
      title="Write it"
      say="From this page, or with any tool you like: the facts it needs are here, each copied by a press."
      drawing={
        linked.shown ? (
          <WriteHereDrawing
            view={linked.desk}
            offset={writeOffsetOf(view) ?? 0}
            bytes={linked.bytes}
            whole={plan?.erase === 'chip'}
          />
        ) : (
          <div className="grid content-center gap-6">
            <WritePlanDrawing plan={plan} />
            {view.image ? (
              <Facts facts={factsOf(props)} />
            ) : (
              <p className="text-ink-2">Choose an image at Check the image first.</p>
            )}
          </div>
        )
      }
      verdict={<Verdict view={view} />}
      card={<TheCard {...working} />}
      more={[
        ...fileDrawers(props, () => void refresh()),
        !view.image && { id: 'port', name: 'Where the adapter hangs', content: <WayForm /> },
        ...attemptDrawers(working),
      ]}
    />
  )
}
