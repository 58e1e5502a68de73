import type { MeterFit } from '@fresh-coat/core/metering/fit'
import { readPairs } from '@fresh-coat/core/metering/pairs'
import { useState } from 'react'
import { AreaField, NumberField, readNumber, TextField } from '@/components/forms/fields'
import { useKept, useTypedText } from '@/components/frame/frame-context'
import { buttonClass } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'

type Record = SurfaceProps<'meter'>['record']
export type Point = Record['data']['points'][number]

export const mostPoints = 60

/** "p7": the next id that no point has. */
export const nextId = (points: readonly Point[]): string =>
  `p${Math.max(0, ...points.map((p) => Number(p.id.replace(/\D/g, '')) || 0)) + 1}`

const found = (fit: MeterFit | null, id: string) =>
  fit?.points.find((x) => x.id === id) ?? fit?.verify.find((x) => x.id === id) ?? null

/** One point, to be corrected, kept to verify, or dropped. */
function PointRow({ point, fit, unit, record }: { point: Point; fit: MeterFit | null; unit: string; record: Record }) {
  const { data, patch } = record
  const f = found(fit, point.id)
  const set = (change: Partial<Point>) =>
    patch({ points: data.points.map((x) => (x.id === point.id ? { ...x, ...change } : x)) })
  const shows = (which: 'unit' | 'reference', key: 'indicated' | 'reference') => (
    <td className="min-w-[6.4rem]">
      <NumberField
        bare
        label={`${point.id}: ${which} shows`}
        min={0}
        max={1e6}
        value={point[key]}
        onChange={(n) => set({ [key]: n })}
      />
    </td>
  )
  return (
    <tr>
      <td className="pin">{point.id}</td>
      {shows('unit', 'indicated')}
      {shows('reference', 'reference')}
      <td>
        <select
          aria-label={`${point.id}: used to`}
          className="field !w-auto"
          value={point.role}
          onChange={(e) => set({ role: e.target.value as Point['role'] })}
        >
          <option value="fit">fit</option>
          <option value="verify">verify</option>
        </select>
      </td>
      <td className="pin">{f?.errBeforePct != null ? `${f.errBeforePct.toFixed(2)} %` : ''}</td>
      <td className="pin">{f?.errAfterPct != null ? `${f.errAfterPct.toFixed(3)} %` : ''}</td>
      <td className="pin">{f ? `${f.U.toPrecision(3)} ${unit}` : ''}</td>
      <td>
        <button
          type="button"
          className={`${buttonClass('quiet')} !px-2`}
          aria-label={`Remove ${point.id}`}
          onClick={() => patch({ points: data.points.filter((x) => x.id !== point.id) })}
        >
          Remove
        </button>
      </td>
    </tr>
  )
}

/** All points as a table: the plot's twin, where they are corrected. */
export function PointsTable({ record, fit, unit }: { record: Record; fit: MeterFit | null; unit: string }) {
  const { data, patch } = record
  return (
    <div className="grid gap-3">
      <table className="plain">
        <thead>
          <tr>
            <th>Point</th>
            <th>Unit shows, {unit}</th>
            <th>Reference, {unit}</th>
            <th>For</th>
            <th>Before</th>
            <th>After</th>
            <th>Truth within ±</th>
            <th>
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {data.points.map((p) => (
            <PointRow key={p.id} point={p} fit={fit} unit={unit} record={record} />
          ))}
        </tbody>
      </table>
      <button
        type="button"
        className={`${buttonClass()} justify-self-start`}
        disabled={data.points.length >= mostPoints}
        onClick={() =>
          patch({
            points: [...data.points, { id: nextId(data.points), indicated: null, reference: null, role: 'fit' }],
          })
        }
      >
        Add a point
      </button>
    </div>
  )
}

/** Pairs pasted in any usual form; what is no pair stays in the field and is named. */
export function PastePairs({ record: { data, patch } }: { record: Record }) {
  const [paste, setPaste] = useKept(`meter pairs ${data.quantity}`, '')
  const [unread, setUnread] = useState<string[]>([])
  const take = () => {
    const read = readPairs(paste)
    let n = Number(nextId(data.points).slice(1))
    const room = mostPoints - data.points.length
    const taken = read.pairs.slice(0, room).map(({ indicated, reference }) => ({
      id: `p${n++}`,
      indicated,
      reference,
      role: 'fit' as const,
    }))
    patch({ points: [...data.points, ...taken] })
    setPaste([...read.unread.map((u) => u.text), ...read.pairs.slice(room).map((p) => p.text)].join('\n'))
    setUnread([
      ...read.unread.map((u) => `Line ${u.line} is no pair of numbers: ${u.text}`),
      ...(read.pairs.length > room
        ? [`Only ${mostPoints} points are kept: ${read.pairs.length - room} are left in the field.`]
        : []),
    ])
  }
  return (
    <>
      <AreaField
        label="Pairs, one a line: unit, reference"
        rows={6}
        value={paste}
        maxLength={5000}
        onChange={setPaste}
      />
      <button
        type="button"
        className={`${buttonClass()} justify-self-start`}
        disabled={paste.trim() === ''}
        onClick={take}
      >
        Take them
      </button>
      {unread.length > 0 && (
        <ul role="status" className="text-oxide">
          {unread.slice(0, 6).map((line) => (
            <li key={line}>{line}</li>
          ))}
          {unread.length > 6 && <li>and {unread.length - 6} more</li>}
        </ul>
      )}
    </>
  )
}

/** Readings as they are typed, with spaces between; null where one of them is no number. */
const zeroText = {
  write: (zeros: readonly number[]) => zeros.join('  '),
  read: (text: string): number[] | null => {
    const numbers =
      text.trim() === ''
        ? []
        : text
            .trim()
            .split(/[\s;]+/)
            .map(readNumber)
    const read = numbers.filter((n) => n !== null)
    return read.length < numbers.length ? null : read.slice(0, mostPoints)
  },
}

/** Readings with the relay off: from them follows the least it can show. */
export function Zeros({ record: { data, patch }, unit }: { record: Record; unit: string }) {
  const [text, setText] = useTypedText<readonly number[]>(`meter zeros ${data.quantity}`, data.zeros, zeroText)
  return (
    <TextField
      label={`Readings with the relay off, ${unit}`}
      mono
      value={text}
      onChange={(next) => {
        setText(next)
        const zeros = zeroText.read(next)
        if (zeros) patch({ zeros })
      }}
      hint={
        zeroText.read(text) === null ? (
          <span className="font-semibold text-oxide">Numbers with spaces between.</span>
        ) : (
          'Five of them, with spaces between.'
        )
      }
    />
  )
}
