'use client'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { useUnitOnAir } from '@/components/live/unit-air'
import { buttonClass, clockOf, Tag } from '@/components/paint/paint'

/** From which address the unit was heard last: as planned, or not yet. It is evidence; a person takes it. */
export function HeardAt({ view, use }: { view: UnitView; use: (seen: { address: string; at: string }) => void }) {
  const { data } = useUnitOnAir(view.number)
  const ip = data?.row?.fields.ip
  const seen = view.records.name.data.seenAt
  const planned = view.records.join.data.address.trim()
  if (!data?.listening || !ip || typeof ip.value !== 'string') return null
  const same = ip.value === planned
  return (
    <div className="grid gap-1.5 text-[0.93rem]" aria-live="polite">
      <p className="flex flex-wrap items-baseline gap-x-2.5">
        <Tag severity={same ? 'ok' : 'watch'}>{same ? 'heard' : 'elsewhere'}</Tag>
        <span>
          It spoke from <span className="pin">{ip.value}</span> at {clockOf(new Date(ip.at).toISOString())}
          {same ? '.' : `; on record is ${planned || 'none'}. After a new reservation it is powered off and on.`}
        </span>
      </p>
      {same && seen?.address === ip.value && <p className="text-ink-2">Verified: it was heard from there.</p>}
      {same && seen?.address !== ip.value && (
        <button
          type="button"
          className={`${buttonClass('quiet')} justify-self-start`}
          onClick={() => use({ address: ip.value as string, at: new Date(ip.at).toISOString() })}
        >
          Take it as verified
        </button>
      )}
    </div>
  )
}
