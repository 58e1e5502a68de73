'use client'
import { hexNumber, sizeWords } from '@fresh-coat/core/bytes/text'
import type { Preflight } from '@fresh-coat/core/flash/preflight/question'
import type { FileFinding } from '@fresh-coat/core/image/image'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import { flashBytesOf } from '@fresh-coat/core/steps/backup/facts'
import { answeredWords, answerTo, isAnswered } from '@fresh-coat/core/steps/check/answered'
import { preflightOf } from '@fresh-coat/core/steps/check/facts'
import { type ChipLayout, chipLayoutOf } from '@fresh-coat/core/unit/chip-layout'
import type { UnitFile } from '@fresh-coat/core/unit/view'
import type { ReactNode } from 'react'
import { ChipStrip, HeaderWords } from '@/components/drawings/chip-strip'
import { LayoutStrip } from '@/components/drawings/flash-strip'
import { ImageStructure } from '@/components/drawings/image-structure'
import { DropFile } from '@/components/files/drop-file'
import { PatchMode } from '@/components/files/image-tools'
import type { Uploading } from '@/components/files/use-upload'
import { SelectField } from '@/components/forms/fields'
import { Card, Count, Counts, Standing } from '@/components/frame/card'
import { type SheetMore, StepSheet } from '@/components/frame/sheet'
import Link from '@/components/link'
import { amount, buttonClass, shortMoment, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { CheckSay } from './say'
import { type SetFile, SetSheet } from './set'
import { useExpectedPlace, useImage } from './use-image'

type Props = SurfaceProps<'check'>

const verdictWords = {
  go: ['ok', 'It may go in.'],
  warn: ['watch', 'It may go in once every warning is answered.'],
  stop: ['error', 'It must not go in.'],
} as const

/** As many as a record of Check holds. */
const mostAnswers = 50

function Choose({
  images,
  fileId,
  uploading,
  note,
  choose,
  take,
  takeAll,
}: {
  images: readonly UnitFile[]
  fileId: string | null
  uploading: Uploading
  note: string
  choose: (fileId: string | null) => void
  take: (file: File) => void
  takeAll: (files: File[]) => void
}) {
  return (
    <>
      <SelectField
        label="From the vault"
        value={fileId}
        options={images.map((f) => ({
          value: f.id,
          label: `${f.name} (${f.build?.test ? 'test image, ' : ''}${sizeWords(f.bytes)})`,
        }))}
        onChange={choose}
      />
      <DropFile
        label="Or drop the image, or choose it"
        about="Up to 16 MiB. Several files that go in together: drop them all at once."
        disabled={uploading.busy}
        onFile={take}
        onFiles={takeAll}
      />
      {note && <p className="text-ink-2">{note}</p>}
      {uploading.state}
    </>
  )
}

/** How long it will take, and what it writes: what counts once it may go in. */
function PlanCounts({ result, verify }: { result: Preflight; verify: string }) {
  const { plan } = result
  if (!plan) return null
  const seconds = (s: number | null) => (s === null ? 'not known: chip size missing' : `${s} s`)
  return (
    <Counts title="The plan">
      <Count name="Erase">
        {plan.erase === 'chip' ? 'the whole chip' : `${plan.eraseSectors} sectors`}, {seconds(plan.seconds.erase)}
      </Count>
      <Count name="Write">
        {amount(plan.payloadBytes)} bytes, {seconds(plan.seconds.write)}
      </Count>
      <Count name="Verify">{verify === 'none' ? 'not checked' : `by ${verify}, ${seconds(plan.seconds.verify)}`}</Count>
      <Count name="Together">{seconds(plan.seconds.total)}</Count>
    </Counts>
  )
}

/** One finding at a time: what stops it, or a warning to answer. */
function Decide({
  finding,
  open,
  answer,
  patch,
}: {
  finding: FileFinding
  open: number
  answer: (warning: FileFinding) => void
  patch: ReactNode
}) {
  const stops = finding.severity === 'error'
  return (
    <Card
      lead={stops ? 'It must not go in' : `It may go in once every warning is answered: ${open} open`}
      ask={finding.message}
      how={finding.next}
      {...(stops ? {} : { answers: [{ label: 'I know, and go on', pick: () => answer(finding) }] })}
    >
      {finding.because && <p className="text-ink-2">{finding.because}</p>}
      {patch}
    </Card>
  )
}

const modeCodes = new Set(['mode-unproven', 'mode-not-possible'])

/** Into which partition a program goes, and what the chip starts now. */
function Partitions({
  layout,
  offset,
  patch,
}: {
  layout: ChipLayout
  offset: number | null
  patch: Props['record']['patch']
}) {
  const apps = layout.table.entries.filter((e) => e.type === 0)
  const into = apps.find((e) => e.offset === offset) ?? null
  const starts = layout.table.active?.label ?? null
  return (
    <>
      <p className="text-ink-2">
        {layout.from === 'read' ? 'As it was read from the chip' : 'As the last write left it'},{' '}
        {shortMoment(layout.at)}.
      </p>
      <LayoutStrip table={layout.table} />
      <SelectField
        label="Into the partition"
        value={into?.label ?? null}
        options={apps.map((e) => ({
          value: e.label,
          label: `${e.label} at ${hexNumber(e.offset)}, room for ${amount(e.length)} bytes`,
        }))}
        onChange={(label) => {
          const chosen = apps.find((e) => e.label === label)
          if (chosen) patch({ offset: chosen.offset })
        }}
      />
      {starts && into && starts !== into.label && (
        <p className="font-semibold text-ochre">
          The chip starts “{starts}” now: written into “{into.label}”, it would not be what starts.
        </p>
      )}
    </>
  )
}

/** One image, or several files that have yet to be made one. */
export function CheckSurface(props: Props) {
  const bring = useImage(props)
  const { set, fileId } = props.record.data
  return set.length > 0 && fileId === null ? (
    <SetSheet {...props} uploading={bring.uploading} add={bring.addToSet} />
  ) : (
    <ImageSheet {...props} bring={bring} />
  )
}

/** What is known of the image, and what of it is still to be decided. */
function judgedOf(view: Props['view'], answered: Props['record']['data']['answered']) {
  const result = preflightOf(view)
  const found = (view.image?.inspection ?? null) as ImageInspection | null
  const extended = found?.images[0]?.format === 'extended'
  const flash = flashBytesOf(view)
  const open = (result?.findings ?? []).filter((f) => f.severity === 'watch' && !isAnswered(answered, f))
  return {
    ...{ result, found, flash, open },
    /** Its place follows from the layout of the chip. */
    placed: Boolean(extended && (found?.kind === 'app' || found?.kind === 'bootloader')),
    layout: extended && found?.kind === 'app' ? chipLayoutOf(view, flash) : null,
    expected: result?.expectedOffset ?? null,
    first: result?.findings.find((f) => f.severity === 'error') ?? open[0],
  }
}

type Judged = ReturnType<typeof judgedOf>

/** The file as it would lie on the chip. */
function TheDrawing({ view, offset, judged }: { view: Props['view']; offset: number | null; judged: Judged }) {
  const { found, result, layout, flash, expected } = judged
  if (!view.image)
    return (
      <p className="rounded-[12px] border border-dashed border-rule p-8 text-center text-ink-2">
        The file is drawn on the chip once one is chosen. The name is a hint, the header is the fact.
      </p>
    )
  return (
    <div className="flex min-h-0 flex-1 flex-col justify-center gap-2">
      <ChipStrip
        chip={{
          fileName: view.image.name,
          bytes: found?.bytes ?? view.image.bytes,
          offset: offset ?? expected,
          chipBytes: flash,
          plan: result?.plan ?? null,
          images: found?.images ?? [],
          layout: layout?.table ?? null,
          stopped: result?.verdict === 'stop',
        }}
      />
      <HeaderWords images={found?.images ?? []} />
    </div>
  )
}

interface Working {
  props: Props
  judged: Judged
  bring: ReturnType<typeof useImage>
  chooser: ReactNode
}

/** Choose one, decide the next thing that speaks against it, or see what is planned. */
function TheCard({ props, judged, bring, chooser }: Working) {
  const { view, record, assessment } = props
  const { data, patch } = record
  const { first, found, open, result } = judged
  const here = assessment.steps.find((s) => s.id === 'check')
  if (!view.image)
    return (
      <Card ask="Which image goes in?" how="The wrong file writes and verifies like the right one, and never starts.">
        {chooser}
      </Card>
    )
  if (!first)
    return (
      <Standing conditions={here?.conditions ?? []}>
        {result && <PlanCounts result={result} verify={data.verify} />}
      </Standing>
    )
  return (
    <Decide
      finding={first}
      open={open.length}
      answer={(warning) => patch({ answered: [...data.answered.slice(1 - mostAnswers), answerTo(warning)] })}
      patch={
        modeCodes.has(first.code) && (
          <PatchMode fileId={view.image.id} mode={found?.images[0]?.mode ?? null} done={bring.patched} />
        )
      }
    />
  )
}

function drawersOf({ props, judged, chooser }: Working): SheetMore[] {
  const { view, record } = props
  const { data, patch } = record
  const { result, layout, expected } = judged
  return [
    view.image && { name: 'Another image', content: chooser },
    data.set.length > 0 && {
      id: 'set',
      name: `Made of ${data.set.length} files`,
      content: <MadeOf set={data.set} again={() => patch({ fileId: null, offset: null, answered: [] })} />,
    },
    data.answered.length > 0 && {
      id: 'answered',
      name: `Answered: ${data.answered.length} ${data.answered.length === 1 ? 'warning' : 'warnings'}`,
      content: <Answered result={result} answered={data.answered} patch={patch} />,
    },
    layout && {
      name: 'The partition it goes into',
      wide: true,
      content: <Partitions layout={layout} offset={data.offset ?? expected} patch={patch} />,
    },
    view.image && {
      name: 'Its bytes and structure',
      content: (
        <p>
          <Link className="underline underline-offset-4" href={`/images/${view.image.id}`}>
            Its bytes, its structure, and what it differs in
          </Link>
        </p>
      ),
    },
  ]
}

/** The image held against the chip: where it lies, what goes, and the one thing to decide before it may go in. */
function ImageSheet({ bring, ...props }: Props & { bring: ReturnType<typeof useImage> }) {
  const { view, record, choices } = props
  const { data } = record
  const judged = judgedOf(view, data.answered)
  const { result, found, expected } = judged
  useExpectedPlace(props, expected, judged.placed)
  const version = found?.images.find((i) => i.app)?.app?.version ?? null
  const [severity, sentence] = result
    ? verdictWords[result.verdict]
    : (['watch', 'Choose an image, and identify the unit first.'] as const)
  const chooser = (
    <Choose
      images={choices.images}
      fileId={data.fileId}
      uploading={bring.uploading}
      note={bring.note}
      choose={bring.choose}
      take={bring.take}
      takeAll={bring.takeAll}
    />
  )
  const working: Working = { props, judged, bring, chooser }
  return (
    <StepSheet
      title="Check the image before it goes in"
      say={
        view.image ? <CheckSay record={record} choices={choices} version={version} expected={expected} /> : undefined
      }
      drawing={<TheDrawing view={view} offset={data.offset} judged={judged} />}
      twin={found ? <ImageStructure images={found.images} bytes={found.gzip?.bytes ?? found.bytes} /> : undefined}
      findings={result?.findings ?? []}
      verdict={
        <p className="flex items-baseline gap-2.5 text-[1.05rem] font-semibold">
          <Tag severity={severity} /> {sentence}
        </p>
      }
      card={<TheCard {...working} />}
      more={drawersOf(working)}
    />
  )
}

/** The files that the image was made of. */
function MadeOf({ set, again }: { set: readonly SetFile[]; again: () => void }) {
  return (
    <>
      <ul className="grid gap-1">
        {set.map((p) => (
          <li key={`${p.fileId} ${p.offset}`} className="flex gap-3">
            <span className="pin">{p.offset === null ? '' : hexNumber(p.offset)}</span>
            <span className="min-w-0 break-all">{p.name}</span>
          </li>
        ))}
      </ul>
      <button type="button" className={`${buttonClass('plain')} justify-self-start`} onClick={again}>
        Change the set
      </button>
    </>
  )
}

function AnsweredWords({ answer, result }: { answer: string; result: Preflight | null }) {
  const { words, found } = answeredWords(answer, result?.findings ?? [])
  return found ? words : `No longer found: ${words}`
}

/** Warnings that were answered, each to be asked again. */
function Answered({
  result,
  answered,
  patch,
}: {
  result: Preflight | null
  answered: readonly string[]
  patch: Props['record']['patch']
}) {
  return (
    <ul className="grid gap-3">
      {answered.map((answer) => (
        <li key={answer} className="grid gap-1">
          <span>
            <AnsweredWords answer={answer} result={result} />
          </span>
          <button
            type="button"
            className="justify-self-start underline underline-offset-4"
            onClick={() => patch({ answered: answered.filter((a) => a !== answer) })}
          >
            Ask me again
          </button>
        </li>
      ))}
    </ul>
  )
}
