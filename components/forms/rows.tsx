'use client'
import { type ReactNode, useState } from 'react'
import { buttonClass } from '@/components/paint/paint'

/**
 * Things of one kind in a form, one a row with its fields beside each other: each can be taken off, another one is added below.
 * @param columns the class with the columns of a row; its last column is the button that takes it off
 * @param least so many always stay
 * @param most no more than so many can be added
 * @param fresh what another one begins as
 * @param gone told which one was taken off, where something else goes with it
 */
export function Rows<T extends object>({
  rows,
  columns,
  least = 0,
  most,
  another,
  fresh,
  onChange,
  children,
}: {
  rows: readonly T[]
  columns: string
  least?: number
  most: number
  another: string
  fresh: () => T
  onChange: (rows: T[], gone: number | null) => void
  children: (row: T, put: (change: Partial<T>) => void, at: number) => ReactNode
}) {
  // Who took one off goes on typing in the others: a row keeps its fields whatever stands before it.
  const [ids, setIds] = useState(() => rows.map((_, i) => i))
  return (
    <>
      {rows.map((row, i) => (
        <div key={ids[i] ?? `row ${i + 1}`} className={`grid items-end gap-3 ${columns}`}>
          {children(
            row,
            (change) =>
              onChange(
                rows.map((r, k) => (k === i ? { ...r, ...change } : r)),
                null,
              ),
            i,
          )}
          <button
            type="button"
            className={`${buttonClass('quiet')} justify-self-start`}
            disabled={rows.length <= least}
            onClick={() => {
              setIds(ids.filter((_, k) => k !== i))
              onChange(
                rows.filter((_, k) => k !== i),
                i,
              )
            }}
          >
            Take it off
          </button>
        </div>
      ))}
      <button
        type="button"
        className={`${buttonClass()} justify-self-start`}
        disabled={rows.length >= most}
        onClick={() => {
          setIds([...ids, Math.max(-1, ...ids) + 1])
          onChange([...rows, fresh()], null)
        }}
      >
        {another}
      </button>
    </>
  )
}
