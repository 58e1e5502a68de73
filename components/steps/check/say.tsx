import { hexNumber } from '@fresh-coat/core/bytes/text'
import { languageNames, variantNames } from '@fresh-coat/core/flash/preflight/file-name'
import { Choice, NumberField, OffsetField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { Word } from '@/components/frame/drawer'
import { amount } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'check'>, 'record' | 'choices'> & {
  /** Version that the file itself says. */
  version: string | null
  /** Where the file belongs. */
  expected: number | null
}

const verifyWords = { digest: 'by digest', readback: 'by reading it back', none: 'not at all' }

function versionHint(version: string | null, said: string) {
  if (!version) return ''
  const same = said.trim() === '' || said.trim() === version
  return <span className={same ? '' : 'font-semibold text-ochre'}>The file says {version}.</span>
}

function FirmwareFields({ record: { data, patch }, choices, version }: Props) {
  return (
    <>
      <SelectField
        label="Firmware"
        value={data.firmware || null}
        none="Not said"
        options={choices.profiles.map((p) => ({ value: p.name, label: p.name }))}
        onChange={(firmware) => patch({ firmware: firmware ?? '' })}
      />
      <TextField
        label="Version"
        value={data.firmwareVersion}
        maxLength={40}
        onChange={(firmwareVersion) => patch({ firmwareVersion })}
        hint={versionHint(version, data.firmwareVersion)}
      />
      <SelectField
        label="You want the build"
        value={data.variant}
        none="No matter"
        options={variantNames.map((v) => ({ value: v, label: v }))}
        onChange={(variant) => patch({ variant: variant as typeof data.variant })}
      />
      <SelectField
        label="and the language"
        value={data.language}
        none="No matter"
        options={languageNames.map((l) => ({ value: l, label: l }))}
        onChange={(language) => patch({ language })}
        hint="Two letters in a file name are a language, not a country: uk is Ukrainian."
      />
    </>
  )
}

/** What goes where, how fast, and how it is checked: as a sentence. */
export function CheckSay(props: Props) {
  const { record, version, expected } = props
  const { data, patch } = record
  const firmware = [data.firmware, data.firmwareVersion].filter(Boolean).join(' ')
  return (
    <>
      It is{' '}
      <Word name="Firmware and version" faulty={firmware === ''} open={<FirmwareFields {...props} />}>
        {firmware || (version ? `version ${version}, of a firmware nobody named` : 'a firmware nobody named')}
      </Word>
      , written at{' '}
      <Word
        name="Write at offset"
        faulty={data.offset === null}
        open={
          <OffsetField
            label="Write at offset"
            value={data.offset}
            onChange={(offset) => patch({ offset })}
            hint={expected === null ? '' : `This file belongs at ${hexNumber(expected)}.`}
          />
        }
      >
        {data.offset === null ? 'a place nobody knows' : hexNumber(data.offset)}
      </Word>{' '}
      at{' '}
      <Word
        name="Rate"
        open={
          <NumberField
            label="Rate"
            unit="baud"
            min={300}
            max={4000000}
            whole
            value={data.baud}
            onChange={(baud) => baud && patch({ baud })}
          />
        }
      >
        {amount(data.baud)} baud
      </Word>
      ,{' '}
      <Word
        name="Erase"
        open={
          <Tick
            label="Erase the whole chip first"
            checked={data.eraseAll}
            onChange={(eraseAll) => patch({ eraseAll })}
          />
        }
      >
        {data.eraseAll ? 'the whole chip erased first' : 'only its own sectors erased'}
      </Word>
      , checked{' '}
      <Word
        name="Verify by"
        faulty={data.verify === 'none'}
        open={
          <Choice
            label="Verify by"
            value={data.verify}
            options={[
              { value: 'digest', label: 'Digest' },
              { value: 'readback', label: 'Read-back' },
              { value: 'none', label: 'Nothing' },
            ]}
            onChange={(verify) => patch({ verify })}
          />
        }
      >
        {verifyWords[data.verify]}
      </Word>
      . The flash hangs on{' '}
      <Word
        name="Data lines to the flash"
        open={
          <Choice
            label="Data lines to the flash"
            value={data.dataLines === null ? null : (String(data.dataLines) as '2' | '4')}
            options={[
              { value: '2', label: 'Two' },
              { value: '4', label: 'Four' },
            ]}
            onChange={(n) => patch({ dataLines: n === '2' ? 2 : 4 })}
          />
        }
      >
        {data.dataLines === null
          ? 'a number of lines nobody counted'
          : data.dataLines === 2
            ? 'two lines'
            : 'four lines'}
      </Word>
      .
    </>
  )
}
