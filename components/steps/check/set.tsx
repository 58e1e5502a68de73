'use client'
import { hexNumber } from '@fresh-coat/core/bytes/text'
import { hasError } from '@fresh-coat/core/edge/finding'
import type { ImageInspection } from '@fresh-coat/core/image/inspect'
import { guessOffsets, type PartToPlace } from '@fresh-coat/core/image/place-part'
import type { ImageSet } from '@fresh-coat/core/image/set'
import { flashBytesOf } from '@fresh-coat/core/steps/backup/facts'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import type { StepData } from '@fresh-coat/core/unit/records'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { type DrawnPart, SetStrip } from '@/components/drawings/set-strip'
import { DropFile } from '@/components/files/drop-file'
import type { Uploading } from '@/components/files/use-upload'
import { OffsetField } from '@/components/forms/fields'
import { Card } from '@/components/frame/card'
import { StepSheet } from '@/components/frame/sheet'
import { buttonClass, Tag } from '@/components/paint/paint'
import { ask } from '@/components/send'
import type { SurfaceProps } from '@/components/steps/context'

/** Several files that go in together: drawn on the chip, judged as one, and made one file before they go in. */

type Props = SurfaceProps<'check'>
export type SetFile = StepData['check']['set'][number]

/** A file is called something, whatever its record holds. */
const nameOf = ({ name }: Pick<SetFile, 'name'>): string => name.trim() || 'a file without a name'

export interface KeptPart extends Omit<PartToPlace, 'inspection'> {
  id: string
  sha256: string
  inspection: ImageInspection
}

/** Files with a place for each, as far as anybody can tell from what is in them. */
export function placed(parts: readonly KeptPart[], view: Props['view']): SetFile[] {
  const offsets = guessOffsets(parts, familyOf(view)?.family ?? 'OTHER')
  return parts.map(({ id, name, bytes, sha256 }, i) => ({
    fileId: id,
    name,
    bytes,
    sha256,
    offset: offsets[i] ?? null,
  }))
}

function fetchJudgement(number: number, set: readonly SetFile[]): Promise<ImageSet> {
  const query = new URLSearchParams(set.map((p) => ['part', `${p.fileId}@${p.offset}`]))
  return ask(`/api/units/${number}/set?${query}`)
}

/** The judgement of the set as it stands; null while a place is missing or it has not come. */
function useJudgement(number: number, set: readonly SetFile[]) {
  const whole = set.length > 1 && set.every((p) => p.offset !== null)
  return useQuery({
    queryKey: ['set', number, ...set.map((p) => `${p.fileId}@${p.offset}`)],
    queryFn: () => fetchJudgement(number, set),
    enabled: whole,
    placeholderData: whole ? keepPreviousData : undefined,
    retry: 1,
    networkMode: 'always',
  })
}

const kindWords: Record<string, string> = {
  app: 'program',
  bootloader: 'boot loader',
  'partition-table': 'partition table',
  merged: 'whole chip',
  blank: 'blank',
  'ota-container': 'packed for the air',
  unknown: 'data',
}

const drawnOf = (set: readonly SetFile[], judged: ImageSet | null): DrawnPart[] =>
  set.map((p) => ({
    name: p.name,
    offset: p.offset,
    bytes: p.bytes,
    kind: kindWords[judged?.parts.find((j) => j.sha256 === p.sha256)?.kind ?? ''] ?? 'not judged yet',
    wrong: judged?.findings.some((f) => f.severity === 'error' && f.at !== null && f.at === p.offset) ?? false,
  }))

/** Where each file goes, to be corrected; and out with one that does not belong. */
function Places({ set, change }: { set: readonly SetFile[]; change: (set: SetFile[]) => void }) {
  return (
    <ul className="grid gap-2" aria-label="Files of the set">
      {set.map((part, i) => (
        <li key={`${part.fileId} ${i}`} className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
          <OffsetField
            label={nameOf(part)}
            value={part.offset}
            onChange={(offset) => change(set.map((p, j) => (j === i ? { ...p, offset } : p)))}
            hint=""
          />
          <button
            type="button"
            className={buttonClass('quiet')}
            aria-label={`Leave ${nameOf(part)} out`}
            onClick={() => change(set.filter((_, j) => j !== i))}
          >
            out
          </button>
        </li>
      ))}
    </ul>
  )
}

function verdictOf(set: readonly SetFile[], judged: ImageSet | null, fault: string) {
  if (fault) return { ask: 'The set cannot be judged', how: fault, ready: false }
  const homeless = set.filter((p) => p.offset === null)
  if (homeless.length > 0)
    return {
      ask: `Where does ${nameOf(homeless[0] as SetFile)} go?`,
      how: 'It says nothing of itself. The notes of its build name the address.',
      ready: false,
    }
  if (set.length < 2) return { ask: 'One file is no set', how: 'Add the others, or choose one image.', ready: false }
  if (!judged) return { ask: 'Judging the set…', how: '', ready: false }
  const against = judged.findings.find((f) => f.severity === 'error')
  if (against) return { ask: against.message, how: against.next, ready: false }
  return {
    ask: 'They fit together',
    how: 'They are made one file, from 0x0, with blank flash between them. Written as one or by parts, the chip holds the same.',
    ready: true,
  }
}

export function SetSheet({
  view,
  record,
  act,
  uploading,
  add,
}: Pick<Props, 'view' | 'record' | 'act'> & { uploading: Uploading; add: (files: File[]) => void }) {
  const { data, patch } = record
  const change = (set: SetFile[]) => patch({ set })
  // The version is that of the set on screen, once it is saved.
  const merge = async () => (await record.flush()) && act('merge-set', { unitId: view.id, version: record.version() })
  const query = useJudgement(view.number, data.set)
  const judged = query.data ?? null
  const { ask, how, ready } = verdictOf(data.set, judged, query.error?.message ?? '')
  return (
    <StepSheet
      title="Check the files before they go in"
      say={`${data.set.length} files for one chip; each was placed by what is in it.`}
      drawing={<SetStrip parts={drawnOf(data.set, judged)} chipBytes={flashBytesOf(view)} />}
      findings={judged?.findings ?? []}
      verdict={
        judged && (
          <p className="flex items-baseline gap-2.5 font-semibold">
            <Tag severity={hasError(judged.findings) ? 'error' : 'ok'} />
            {judged.merged
              ? `Together ${judged.merged.bytes} bytes, up to ${hexNumber(judged.merged.bytes)}.`
              : 'They cannot be one file while two of them lie on each other.'}
          </p>
        )
      }
      card={
        <Card
          ask={ask}
          how={how}
          {...(ready
            ? {
                answers: [
                  {
                    label: 'Make one file of them',
                    pick: () => void merge(),
                  },
                ],
              }
            : {})}
        >
          <Places set={data.set} change={change} />
          {uploading.state}
        </Card>
      }
      more={[
        {
          name: 'Add a file',
          content: (
            <>
              <DropFile
                label="Drop more files, or choose them"
                about="Each goes into the vault and is placed by what is in it."
                disabled={uploading.busy}
                onFile={(file) => add([file])}
                onFiles={add}
              />
              {uploading.state}
            </>
          ),
        },
        {
          name: 'Choose one image instead',
          content: (
            <button type="button" className={`${buttonClass('plain')} justify-self-start`} onClick={() => change([])}>
              Put the set away
            </button>
          ),
        },
      ]}
    />
  )
}
