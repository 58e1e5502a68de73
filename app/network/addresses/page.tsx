import type { Metadata } from 'next'
import { AddressPlan } from '@/components/network/address-plan'
import { database, inSnapshot } from '@/server/db/client'
import { sitePlanOf, unitsToPlan } from '@/server/network/addresses'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Address plan' }

export default async function Addresses() {
  const { site, plan } = await inSnapshot(database(), async (tx) => ({
    site: await sitePlanOf(tx),
    plan: await unitsToPlan(tx),
  }))
  return <AddressPlan key={JSON.stringify(site)} site={site} units={plan.units} beyond={plan.beyond} />
}
