import { hexNumber, hexOf } from '@fresh-coat/core/bytes/text'
import { dayWords } from '@fresh-coat/core/edge/day'
import { within } from '@fresh-coat/core/edge/within'
import { backupOf, restoreDue, restoreOf, type TwinBackup } from '@fresh-coat/core/steps/backup/facts'
import { useState } from 'react'
import { DropFile } from '@/components/files/drop-file'
import { NumberField, SelectField } from '@/components/forms/fields'
import { useKept } from '@/components/frame/frame-context'
import { buttonClass, Fact, Findings, Tag, twoDigits } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { PutBackHere } from './put-back-here'
import { skipWords } from './skip'

const stateWords = {
  verified: 'read twice and equal',
  single: 'read once',
  differ: 'its reads differ',
  skipped: 'skipped',
  none: 'none',
} as const

/** The way back to the stock firmware: the plan, the manifest, and when it was last tried. */
export function PutBack({
  view,
  record,
  twins,
  act,
  gated,
}: Pick<SurfaceProps<'backup'>, 'view' | 'record' | 'act'> & { twins: readonly TwinBackup[]; gated: boolean }) {
  const { data, patch } = record
  const [fromUnit, setFromUnit] = useKept<string | null>('put back from', null)
  const own = backupOf(view)
  const twin = twins.find((t) => String(t.number) === fromUnit) ?? null
  const plan = restoreOf(view, twin)
  const due = restoreDue(view)
  const file = twin?.file ?? own.first
  return (
    <>
      {data.skip && !own.first && data.skip.reason.trim() !== '' && (
        <p>
          It was not kept: {within(skipWords[data.skip.code])}. “{data.skip.reason.trim()}”
        </p>
      )}
      {twins.length > 0 && (
        <SelectField
          label="The copy to put back"
          value={fromUnit}
          none={own.first ? 'This unit’s own' : 'This unit’s own: there is none'}
          options={twins.map((t) => ({
            value: String(t.number),
            label: `${twoDigits(t.number)} ${t.name}, same board, ${stateWords[t.state]}`,
          }))}
          onChange={setFromUnit}
        />
      )}
      <Findings findings={plan.findings} empty="A verified copy of the whole chip: nothing speaks against it." />
      {plan.allowed && (
        <dl>
          <Fact name="File" evidence={<span className="pin break-all select-all">{plan.sha256}</span>}>
            {file?.held === false ? (
              `${file.name}, on your disk`
            ) : (
              <a className="underline underline-offset-4" href={`/api/files/${file?.id}`}>
                {file?.name}
              </a>
            )}
          </Fact>
          <Fact name="Offset">
            <span className="pin select-all">{hexNumber(plan.offset)}</span>
          </Fact>
          <Fact name="Length">
            <span className="pin select-all">{plan.bytes}</span> bytes, the whole{' '}
            {plan.offset === 0 ? 'chip' : 'rest of it'}
          </Fact>
          <Fact name="Afterwards">The read-back digest must equal the hash above.</Fact>
        </dl>
      )}
      <PutBackHere
        view={view}
        act={act}
        plan={plan}
        file={file ?? null}
        fromUnit={twin?.number ?? null}
        gated={gated}
      />
      {plan.sha256 && <CheckAgain sha256={plan.sha256} />}
      <p>
        <a className="underline underline-offset-4" href={`/api/export/manifest?unit=${twin?.number ?? view.number}`}>
          Manifest for sha256sum
        </a>
      </p>
      {own.first && !twin && (
        <div className="flex flex-wrap items-end gap-4">
          <button type="button" className={buttonClass()} onClick={() => patch({ restoreTested: view.today })}>
            Put back today, and it started
          </button>
          <NumberField
            label="Try it again after"
            unit="months"
            min={1}
            max={120}
            whole
            value={data.restoreMonths}
            onChange={(n) => n && patch({ restoreMonths: n })}
            className="w-[11rem]"
          />
          <p className="pb-2 text-ink-2">
            {data.restoreTested ? `Tried ${dayWords(data.restoreTested)}. ` : 'Never tried. '}
            {due ? `Due ${dayWords(due)}.` : 'A due date comes with a verified copy.'}
          </p>
        </div>
      )}
    </>
  )
}

/** Before a file is used, it is hashed again: is it still the one that was read? Nothing of it leaves the page. */
function CheckAgain({ sha256 }: { sha256: string }) {
  const [result, setResult] = useState<{ name: string; state: 'same' | 'other' | 'unreadable' } | null>(null)
  const check = async (file: File) => {
    setResult(null)
    try {
      const digest = await crypto.subtle.digest('SHA-256', await file.arrayBuffer())
      setResult({ name: file.name, state: hexOf(new Uint8Array(digest)) === sha256 ? 'same' : 'other' })
    } catch {
      setResult({ name: file.name, state: 'unreadable' })
    }
  }
  return (
    <div className="grid gap-2">
      <DropFile
        label="Check the file on your disk"
        about="Before every use: its hash is computed here and compared with the one above."
        onFile={(file) => void check(file)}
      />
      {result && (
        <p aria-live="polite">
          <Tag severity={result.state === 'same' ? 'ok' : 'error'}>
            {result.state === 'same' ? 'the same' : result.state === 'other' ? 'another file' : 'not readable'}
          </Tag>{' '}
          <span className="break-all">{result.name}</span>
          {result.state === 'same' && ': byte for byte what was read.'}
          {result.state === 'other' && ': it is not the copy that was read, or it has changed. Do not write it.'}
          {result.state === 'unreadable' && ': see whether it is still where it was.'}
        </p>
      )}
    </div>
  )
}
