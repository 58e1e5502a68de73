'use client'
import { settleCount, settles } from '@fresh-coat/core/metering/source'
import type { Quantity } from '@fresh-coat/core/steps/meter/quantity'
import { useEffect, useState } from 'react'
import { useUnitOnAir } from '@/components/live/unit-air'
import { useNow } from '@/components/live/use-air'
import { since } from '@/components/live/words'
import { buttonClass, Tag } from '@/components/paint/paint'

const kept = 20
/** A reading older than this is not of this moment: reference and unit would be read apart. */
const mostAgeMs = 120_000

/** What the unit says of itself over the air, while it is calibrated: its last readings, and whether they stand still. */
export function LiveReading({
  number,
  quantity,
  unit,
  step,
  use,
}: {
  number: number
  quantity: Quantity
  unit: string
  step: number
  use: (value: number) => void
}) {
  const { data } = useUnitOnAir(number)
  const now = useNow()
  const field = data?.listening ? data.row?.fields[quantity] : undefined
  const [trace, setTrace] = useState<{ value: number; at: number }[]>([])
  const [value, at] = [field?.value, field?.at]
  useEffect(() => {
    if (typeof value === 'number' && at !== undefined)
      setTrace((t) => (t.at(-1)?.at === at ? t : [...t, { value, at }].slice(-kept)))
  }, [value, at])
  if (typeof value !== 'number' || at === undefined || now === null) return null
  const age = now - at
  if (age > mostAgeMs)
    return (
      <p className="text-[0.93rem] text-ink-2">
        On the air it last said {value} {unit}, {since(age)} ago: too old to take.
      </p>
    )
  const still = settles(
    trace.map((t) => t.value),
    step,
  )
  const missing = Math.max(0, settleCount - trace.length)
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[0.93rem]">
      <Tag severity={still ? 'ok' : 'watch'}>{still ? 'steady' : 'still moving'}</Tag>
      <button type="button" className={`${buttonClass('quiet')} !min-h-0 !px-2 !py-0.5`} onClick={() => use(value)}>
        Take {value}
      </button>
      <span className="w-full">
        On the air: <strong className="pin">{value}</strong> {unit}, {since(age)} ago
        {!still && missing > 0 ? `; ${missing} more to judge it` : ''}
      </span>
    </div>
  )
}
