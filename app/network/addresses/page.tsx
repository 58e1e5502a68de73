import type { Metadata } from 'next'
import { AddressPlan } from '@/components/network/address-plan'
import { pack } from '@/components/packed'
import { database } from '@/server/db/client'
import { lookInto } from '@/server/db/warm'
import { addressesRoom, addressesShown } from '@/server/network/addresses'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Address plan' }

export default async function Addresses() {
  const room = await lookInto(database(), 'addresses', 'addresses', addressesRoom)
  return <AddressPlan key={JSON.stringify(room.site)} given={pack({ ...room, shown: addressesShown })} />
}
