import { notFound, redirect } from 'next/navigation'
import { database } from '@/server/db/client'
import { nextStepOf } from '@/server/units/lists'

export const dynamic = 'force-dynamic'

/** A unit opens at its next step. */
export default async function UnitDoor({ params }: { params: Promise<{ number: string }> }) {
  const number = Number((await params).number)
  const next = Number.isInteger(number) && number > 0 && number < 2 ** 31 ? await nextStepOf(database(), number) : null
  if (!next) notFound()
  redirect(`/units/${number}/${next}`)
}
