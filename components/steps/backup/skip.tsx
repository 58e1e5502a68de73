import { backupSkipCodes } from '@fresh-coat/core/steps/backup/record'
import { AreaField, SelectField } from '@/components/forms/fields'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

export const skipWords = {
  'read-protected': 'The chip refuses to be read',
  'already-replaced': 'It came with open firmware',
  'no-read-path': 'The way in cannot read',
  twin: 'A twin of the same board is backed up',
  owner: 'The owner decides so',
}

/** No backup, and the reason that is shown wherever one is wanted later. */
export function Skip({ record: { data, patch } }: Pick<SurfaceProps<'backup'>, 'record'>) {
  return (
    <>
      {data.skip === null ? (
        <button
          type="button"
          className={`${buttonClass()} justify-self-start`}
          onClick={() => patch({ skip: { code: 'read-protected', reason: '' } })}
        >
          There will be no backup
        </button>
      ) : (
        <div className="grid gap-3">
          <SelectField
            label="Why"
            value={data.skip.code}
            options={backupSkipCodes.map((c) => ({ value: c, label: skipWords[c] }))}
            onChange={(code) => code && patch({ skip: { code, reason: data.skip?.reason ?? '' } })}
          />
          <AreaField
            label="In a sentence of at least 15 characters"
            rows={2}
            mono={false}
            maxLength={1000}
            value={data.skip.reason}
            onChange={(reason) => patch({ skip: { code: data.skip?.code ?? 'owner', reason } })}
          />
          <button
            type="button"
            className={`${buttonClass('quiet')} justify-self-start`}
            onClick={() => patch({ skip: null })}
          >
            I will read it after all
          </button>
        </div>
      )}
    </>
  )
}
