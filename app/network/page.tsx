import { parseAddress } from '@fresh-coat/core/network/mac'
import type { Metadata } from 'next'
import Link from 'next/link'
import { AddressMap } from '@/components/drawings/address-map'
import { CaseNumber, Empty, Findings } from '@/components/paint'
import { SiteForm } from '@/components/site-form'
import { database } from '@/server/db'
import { loadShop } from '@/server/views'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Network' }

export default async function Network() {
  const shop = await loadShop(database())
  const placed = shop.units.flatMap((u) => {
    const ip = parseAddress(u.records.join.data.address.trim())
    return ip ? [{ ip, number: u.number, name: u.name, reserved: u.records.name.data.reserved }] : []
  })
  const subnets = [...new Set(placed.map((p) => p.ip.split('.').slice(0, 3).join('.')))].sort()
  const plan = shop.topics
  return (
    <main className="grid gap-6 px-4 py-4 sm:px-6">
      <h1 className="text-[1.5rem]">Network</h1>
      <section className="grid gap-3" aria-labelledby="addresses">
        <h2 id="addresses" className="text-[1.15rem]">
          Addresses <span className="font-normal text-ink-2">{placed.length} known</span>
        </h2>
        {subnets.length === 0 ? (
          <Empty title="No address known yet">
            <p>Units appear here once they are found at their Join step.</p>
          </Empty>
        ) : (
          subnets.map((subnet) => (
            <AddressMap key={subnet} subnet={subnet} units={placed.filter((p) => p.ip.startsWith(`${subnet}.`))} />
          ))
        )}
      </section>
      <section className="grid gap-3" aria-labelledby="names">
        <h2 id="names" className="text-[1.15rem]">
          Names and topics
        </h2>
        {plan && plan.findings.length > 0 && (
          <div className="sheet p-4">
            <Findings findings={plan.findings} label="Names that clash" />
          </div>
        )}
        <div className="sheet overflow-x-auto px-4 py-2">
          <table className="plain">
            <thead>
              <tr>
                <th>Unit</th>
                <th>Topic</th>
                <th>Address</th>
                <th>MAC</th>
                <th>Last hub test</th>
              </tr>
            </thead>
            <tbody>
              {shop.units.map((u) => (
                <tr key={u.id}>
                  <td>
                    <Link href={`/units/${u.number}/name`} className="flex items-center gap-3">
                      <CaseNumber n={u.number} size="small" />
                      <span className="underline underline-offset-4" dir="auto">
                        {u.name}
                      </span>
                    </Link>
                  </td>
                  <td className="pin break-all">{plan?.units.find((t) => t.id === u.id)?.prefix ?? '–'}</td>
                  <td className="pin">{u.records.join.data.address || '–'}</td>
                  <td className="pin">{u.records.join.data.mac || '–'}</td>
                  <td>{u.hubTests[0] ? `${u.hubTests[0].at.slice(0, 10)}, ${u.hubTests[0].hub}` : '–'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </section>
      <section className="grid max-w-3xl gap-3" aria-labelledby="site">
        <h2 id="site" className="text-[1.15rem]">
          Site
        </h2>
        <div className="sheet p-4">
          <SiteForm key={JSON.stringify(shop.site)} site={shop.site} />
        </div>
      </section>
    </main>
  )
}
