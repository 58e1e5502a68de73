import type { Metadata } from 'next'
import { Updates } from '@/components/network/updates'
import { pack } from '@/components/packed'
import { database } from '@/server/db/client'
import { lookInto } from '@/server/db/warm'
import { updatesRoom } from '@/server/live/updates'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Updates' }

export default async function UpdatesPage({ searchParams }: { searchParams: Promise<{ unit?: string }> }) {
  const { unit = '' } = await searchParams
  const chosen = /^\d{1,9}$/.test(unit) ? Number(unit) : null
  const room = await lookInto(database(), 'updates', 'updates', (tx) => updatesRoom(tx, new Date(), chosen))
  return <Updates given={pack({ room, asked: chosen })} />
}
