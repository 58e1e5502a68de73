'use client'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Fold } from '@/components/forms/fold'
import Link from '@/components/link'
import { twoDigits } from '@/components/paint/paint'
import { ask } from '@/components/send'

interface Told {
  number: number
  name: string
  wifi: boolean
  broker: boolean
  keptIn: string[]
}

function Visits({ title, units }: { title: string; units: readonly Told[] }) {
  const elsewhere = [...new Set(units.flatMap((u) => u.keptIn))]
  return (
    <section className="grid gap-1.5" aria-label={title}>
      <h3 className="text-[1.05rem]">
        {title}:{' '}
        <span className="font-normal text-ink-2">
          {units.length === 0
            ? 'nobody was told it'
            : `${units.length} ${units.length === 1 ? 'unit' : 'units'} to visit`}
        </span>
      </h3>
      {units.length > 0 && (
        <p className="flex flex-wrap gap-x-4 gap-y-1">
          {units.map((u) => (
            <Link key={u.number} href={`/units/${u.number}/join`} className="underline underline-offset-4">
              <strong className="font-title">{twoDigits(u.number)}</strong> {u.name}
            </Link>
          ))}
        </p>
      )}
      {elsewhere.length > 0 && <p className="text-ink-2">Noted as put elsewhere too: {elsewhere.join('; ')}.</p>}
    </section>
  )
}

/** Who knows which password: when one changes, these are visited before it does. */
export function WhoWasTold() {
  const [wanted, setWanted] = useState(false)
  const {
    data: units,
    error,
    refetch,
  } = useQuery({ queryKey: ['told'], queryFn: () => ask<Told[]>('/api/live/told'), enabled: wanted, retry: 1 })
  return (
    <Fold
      summary="When a password changes: who knows the Wi-Fi’s, who the broker’s"
      opened={() => {
        setWanted(true)
        if (wanted) void refetch()
      }}
    >
      {units ? (
        <>
          <Visits title="The password of the Wi-Fi" units={units.filter((u) => u.wifi)} />
          <Visits title="The password of the broker" units={units.filter((u) => u.broker)} />
        </>
      ) : (
        <p role={error ? 'alert' : 'status'} className={error ? 'text-oxide' : 'text-ink-2'}>
          {error ? `${error.message} Open it again to ask once more.` : 'Asking who knows them…'}
        </p>
      )}
      <p className="text-ink-2">
        The second network first, then the units one by one, the access point last: a unit that still knows the old one
        finds nobody.
      </p>
    </Fold>
  )
}
