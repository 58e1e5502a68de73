import { type BootLog, bootAdvice } from '@fresh-coat/core/boot/boot-log'
import { entryLogOf } from '@fresh-coat/core/steps/wire/facts'
import { useState } from 'react'
import { ChooseFile } from '@/components/files/choose-file'
import { AreaField, Choice } from '@/components/forms/fields'
import { amount, buttonClass, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'wire'>, 'view' | 'record' | 'act'>

const evidenceFor: Record<string, string> = { LX106: 'cause', LX6: 'rst', LX7_or_RV32: 'rst' }
const largestCapture = 200_000

/** Which evidence a legible boot text is for the family; null when it says nothing of it. */
function evidenceOf(boot: BootLog | null, baud: number | null): string | null {
  const form = boot?.family ? (evidenceFor[boot.family] ?? null) : null
  if (form && baud && [74880, 115200].includes(baud)) return `${form}_${baud}`
  return boot?.verdict === 'loader_waiting' && baud === 115200 ? 'c_115200' : null
}

const isGood = (boot: BootLog) => boot.verdict === 'serial_download' || boot.verdict === 'loader_waiting'

function lastLineWords(boot: BootLog): string {
  const last = boot.lines.at(-1)
  if (!last) return ''
  const straps = Object.entries(last.strap).map(([pin, level]) => `${pin} ${level ? 'high' : 'low'}`)
  return ` The last boot line is from ${last.family.replaceAll('_', ' ')}: ${last.cause.replaceAll('_', ' ')}, mode ${last.mode}; ${straps.join(', ')}.`
}

function Judged({ boot, baud, take }: { boot: BootLog; baud: number | null; take: (value: string) => void }) {
  const value = evidenceOf(boot, baud)
  const good = isGood(boot)
  return (
    <div className="grid gap-1.5" aria-live="polite">
      <p className="flex flex-wrap items-center gap-2.5">
        <Tag severity={good ? 'ok' : 'error'}>{boot.verdict.replaceAll('_', ' ')}</Tag>
        <strong>
          {good ? 'It is in download mode. ' : ''}
          {bootAdvice[boot.verdict]}
        </strong>
      </p>
      <p className="text-ink-2">
        {Math.round(boot.printable * 100)} % of it is text.
        {boot.likelyBaud !== null && ` It was sent at ${amount(boot.likelyBaud)} baud: read it again at that rate.`}
        {lastLineWords(boot)}
      </p>
      {value && (
        <button type="button" className={`${buttonClass('quiet')} justify-self-start`} onClick={() => take(value)}>
          Take this text as evidence for the family
        </button>
      )}
    </div>
  )
}

/** What came out of TX through the reset, judged; a legible boot text is evidence for the family too. */
export function EntryLog({ view, record, act }: Props) {
  const { data, patch } = record
  const [fault, setFault] = useState('')
  const boot = entryLogOf(view)
  const readBytes = async (file: File | undefined) => {
    setFault('')
    if (!file) return
    if (file.size === 0) return setFault('The file is empty. Nothing was taken; save the capture again.')
    if (file.size > largestCapture)
      return setFault(
        `This capture has ${amount(file.size)} bytes; one reset has far fewer. Save only the part around it.`,
      )
    const bytes = new Uint8Array(await file.arrayBuffer())
    patch({ log: '', logHex: [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('') })
  }
  return (
    <>
      <Choice
        label="Read at"
        value={data.logBaud === null ? null : String(data.logBaud)}
        options={['74880', '115200', '9600', '57600'].map((b) => ({ value: b, label: amount(Number(b)) }))}
        onChange={(b) => patch({ logBaud: Number(b) })}
      />
      {data.logHex ? (
        <p className="text-ink-2">
          {amount(data.logHex.length / 2)} bytes of a capture.{' '}
          <button type="button" className="underline" onClick={() => patch({ logHex: '' })}>
            Leave them out
          </button>
        </p>
      ) : (
        <AreaField
          label="Its text, pasted"
          value={data.log}
          maxLength={largestCapture}
          rows={5}
          placeholder="What the console printed through the reset"
          onChange={(log) => patch({ log })}
        />
      )}
      <ChooseFile className={`${buttonClass('plain')} justify-self-start`} onFiles={([file]) => void readBytes(file)}>
        Or bytes saved by a console
      </ChooseFile>
      {fault && (
        <p role="alert" className="font-semibold text-oxide">
          {fault}
        </p>
      )}
      {boot && (
        <Judged
          boot={boot}
          baud={data.logBaud}
          take={(value) => void act('add-evidence', { unitId: view.id, kind: 'boot_text', value })}
        />
      )}
    </>
  )
}
