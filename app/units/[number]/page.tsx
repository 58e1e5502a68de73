import { notFound, redirect } from 'next/navigation'
import { database } from '@/server/db'
import { loadShop, unitOf } from '@/server/views'

export const dynamic = 'force-dynamic'

/** A unit opens at its next step. */
export default async function UnitDoor({ params }: { params: Promise<{ number: string }> }) {
  const { number } = await params
  const shop = await loadShop(database())
  const view = unitOf(shop, Number(number))
  if (!view) notFound()
  redirect(`/units/${view.number}/${shop.assessments.get(view.id)?.next ?? 'arrive'}`)
}
