import type { Metadata } from 'next'
import { AddressPlan } from '@/components/network/address-plan'
import { database, inSnapshot } from '@/server/db/client'
import { addressesRoom, addressesShown } from '@/server/network/addresses'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Address plan' }

export default async function Addresses() {
  const { site, board, beyond } = await inSnapshot(database(), addressesRoom)
  return <AddressPlan key={JSON.stringify(site)} site={site} board={board} shown={addressesShown} beyond={beyond} />
}
