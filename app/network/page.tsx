import { foldAlike } from '@fresh-coat/core/edge/alike'
import { parseAddress } from '@fresh-coat/core/network/mac'
import type { Metadata } from 'next'
import { AddressMap } from '@/components/drawings/address-map'
import Link from '@/components/link'
import { ListenerForm, OnAir } from '@/components/live/on-air'
import { SiteForm } from '@/components/network/site-form'
import { WhoWasTold } from '@/components/network/told'
import { UnitTable } from '@/components/network/unit-table'
import { pack } from '@/components/packed'
import { Empty, Findings } from '@/components/paint/paint'
import { database } from '@/server/db/client'
import { networkRoom, rowsAPage } from '@/server/network/room'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Network' }

export default async function Network({ searchParams }: { searchParams: Promise<{ after?: string }> }) {
  const after = Math.max(0, Math.floor(Number((await searchParams).after ?? 0)) || 0)
  const net = await networkRoom(database(), after)
  const placed = net.addressed.flatMap((u) => {
    const ip = parseAddress(u.address)
    return ip ? [{ ip, number: u.number, name: u.name, reserved: u.reserved }] : []
  })
  const subnets = [...new Set(placed.map((p) => p.ip.split('.').slice(0, 3).join('.')))].sort()
  return (
    <main className="grid gap-4 px-4 py-3.5 sm:px-5">
      <OnAir
        initial={net.air}
        after={0}
        senders={net.senders}
        listener={{ on: net.listener.on, user: net.listener.user, ca: net.listener.ca }}
        broker={net.site.air.broker.host}
      />
      <section className="grid gap-2" aria-labelledby="addresses">
        <h2 id="addresses" className="text-[1.15rem]">
          Addresses{' '}
          <span className="font-normal text-ink-2">
            {placed.length} {placed.length === 1 ? 'address' : 'addresses'} known
          </span>{' '}
          <Link href="/network/addresses" className="text-[1rem] font-normal underline underline-offset-4">
            Plan them
          </Link>{' '}
          <Link href="/network/updates" className="text-[1rem] font-normal underline underline-offset-4">
            Updates
          </Link>
        </h2>
        {subnets.length === 0 ? (
          <Empty title="No address known yet">
            <p>Units appear here once they are found at their Join step.</p>
          </Empty>
        ) : (
          subnets.map((subnet) => (
            <AddressMap
              key={subnet}
              subnet={subnet}
              given={pack(placed.filter((p) => p.ip.startsWith(`${subnet}.`)))}
            />
          ))
        )}
      </section>
      <section className="grid gap-3" aria-labelledby="names">
        <h2 id="names" className="text-[1.15rem]">
          Names and topics
        </h2>
        {net.findings.length > 0 && (
          <div className="sheet p-4">
            <Findings findings={foldAlike(net.findings)} label="Names that clash" />
          </div>
        )}
        {net.rows.length === 0 ? (
          <p className="text-ink-2">Every unit stands here with its topic, once there is one.</p>
        ) : (
          <UnitTable given={pack(net.rows.slice(0, rowsAPage))} />
        )}
        {net.rows.length > rowsAPage && (
          <Link href={`/network?after=${net.rows[rowsAPage - 1]?.number}`} className="underline underline-offset-4">
            The next {rowsAPage}
          </Link>
        )}
      </section>
      <section className="grid max-w-3xl gap-3" aria-labelledby="listener">
        <h2 id="listener" className="text-[1.15rem]">
          Listening
        </h2>
        <div className="sheet p-4">
          <ListenerForm
            key={JSON.stringify(net.listener)}
            setting={{
              on: net.listener.on,
              user: net.listener.user,
              ca: net.listener.ca,
              hasPassword: net.listener.secretId !== null,
            }}
          />
        </div>
      </section>
      <section className="grid max-w-3xl gap-3" aria-labelledby="site">
        <h2 id="site" className="text-[1.15rem]">
          Site
        </h2>
        <div className="sheet p-4">
          <SiteForm key={JSON.stringify(net.site)} site={net.site} />
        </div>
        <div className="sheet p-4">
          <WhoWasTold />
        </div>
      </section>
    </main>
  )
}
