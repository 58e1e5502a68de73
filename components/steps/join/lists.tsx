import { type Columns, cellsOf, guessColumns } from '@fresh-coat/core/network/columns'
import { useMemo, useState } from 'react'
import { AreaField } from '@/components/forms/fields'
import { buttonClass } from '@/components/paint/paint'
import { ask } from '@/components/send'
import type { SurfaceProps } from '@/components/steps/context'

type Record_ = SurfaceProps<'join'>['record']

/** Lists of who is on the network: pasted, taken from a file, or from what the app hears; and what their columns are. */

const mostBytes = 1_000_000

function FromFile({ name, take }: { name: string; take: (text: string) => void }) {
  const [fault, setFault] = useState('')
  return (
    <label className="text-[0.93rem] text-ink-2">
      <span className="underline underline-offset-4">or a file</span>
      <input
        type="file"
        aria-label={`${name}, from a file`}
        className="sr-only"
        onChange={(e) => {
          const file = e.target.files?.[0]
          e.target.value = ''
          if (!file) return
          if (file.size > mostBytes) return setFault('It is larger than a list of a network: nothing was taken.')
          setFault('')
          void file.text().then(take)
        }}
      />
      {fault && <span className="block font-semibold text-oxide">{fault}</span>}
    </label>
  )
}

export function ListFields({ record: { data, patch }, listening }: { record: Record_; listening: boolean }) {
  const [said, setSaid] = useState('')
  const drop = (field: 'before' | 'after') => ({
    onDragOver: (e: React.DragEvent) => e.preventDefault(),
    onDrop: (e: React.DragEvent) => {
      const file = e.dataTransfer.files[0]
      if (!file) return
      e.preventDefault()
      if (file.size <= mostBytes) void file.text().then((text) => patch({ [field]: text }))
    },
  })
  return (
    <>
      <div {...drop('after')} className="grid gap-1">
        <AreaField
          label="List after it joined"
          rows={5}
          value={data.after}
          maxLength={mostBytes}
          placeholder="Paste a DHCP lease list, ip neigh, arp -a, a router’s table, or drop a file…"
          onChange={(after) => patch({ after })}
        />
        <span className="flex flex-wrap gap-x-4">
          <FromFile name="Who is on the network now" take={(after) => patch({ after })} />
          {listening && (
            <button
              type="button"
              className="text-[0.93rem] text-ink-2 underline underline-offset-4"
              onClick={() =>
                void ask<string>('/api/live/heard').then(
                  (text) => {
                    if (text) patch({ after: text })
                    setSaid(text ? '' : 'Nobody who speaks on the air has said an address yet.')
                  },
                  (why: Error) => setSaid(why.message),
                )
              }
            >
              or who speaks on the air
            </button>
          )}
        </span>
        {said && <p className="text-[0.93rem] text-ink-2">{said}</p>}
      </div>
      <div {...drop('before')} className="grid gap-1">
        <AreaField
          label="List before it joined (optional)"
          rows={3}
          value={data.before}
          maxLength={mostBytes}
          onChange={(before) => patch({ before })}
        />
        <FromFile name="Who was on the network before" take={(before) => patch({ before })} />
      </div>
    </>
  )
}

const shownRows = 6
const parts = [
  ['mac', 'MAC'],
  ['address', 'address'],
  ['name', 'name'],
] as const
const noColumns: Columns = { mac: null, address: null, name: null }

/** The first rows as they are cut; a press on a column says what it is, the next press the next thing, then nothing. */
export function ColumnPicker({ record: { data, patch } }: { record: Record_ }) {
  const rows = useMemo(() => cellsOf(data.after, shownRows), [data.after])
  const width = Math.max(0, ...rows.map((r) => r.length))
  const columns = data.columns ?? noColumns
  const partOf = (i: number) => parts.findIndex(([part]) => columns[part] === i)
  const turn = (i: number) => {
    const was = partOf(i)
    const next: Columns = { ...columns }
    for (const [part] of parts) if (next[part] === i) next[part] = null
    const to = parts[was + 1]
    if (to) next[to[0]] = i
    patch({ columns: next.mac === null && next.address === null && next.name === null ? null : next })
  }
  if (data.after.trim() === '') return <p className="text-ink-2">Paste a list first.</p>
  return (
    <div className="grid gap-3">
      <p>Press a column until it says what it is. Rows without a MAC and without an address are left out.</p>
      <div className="overflow-x-auto">
        <table className="plain">
          <thead>
            <tr>
              {Array.from({ length: width }, (_, i) => (
                <th key={i}>
                  <button
                    type="button"
                    aria-label={`Column ${i + 1}: ${parts[partOf(i)]?.[1] ?? 'nothing'}`}
                    className={`rounded-[7px] border px-2 py-1 ${partOf(i) < 0 ? 'border-rule text-ink-3' : 'border-ink font-bold'}`}
                    onClick={() => turn(i)}
                  >
                    {parts[partOf(i)]?.[1] ?? '…'}
                  </button>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, r) => (
              <tr key={r}>
                {Array.from({ length: width }, (_, i) => (
                  <td key={i} className="pin max-w-[16rem] truncate">
                    {row[i] ?? ''}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <span className="flex flex-wrap gap-2">
        <button
          type="button"
          className={buttonClass()}
          onClick={() => patch({ columns: guessColumns(cellsOf(data.after, 200)) })}
        >
          As they look
        </button>
        {data.columns && (
          <button type="button" className={buttonClass('quiet')} onClick={() => patch({ columns: null })}>
            Let the app tell
          </button>
        )}
      </span>
    </div>
  )
}
