import { judge } from '@fresh-coat/core/unit/judge'
import { isStepId, stepOf } from '@fresh-coat/core/unit/way'
import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { UnitApp } from '@/components/frame/unit-app'
import { pack } from '@/components/packed'
import { database } from '@/server/db/client'
import { unitPage } from '@/server/units/page'

export const dynamic = 'force-dynamic'
interface Place {
  params: Promise<{ number: string; step: string }>
}

export async function generateMetadata({ params }: Place): Promise<Metadata> {
  const { number, step } = await params
  return { title: `${number.padStart(2, '0')} ${isStepId(step) ? stepOf(step).title : ''}` }
}

export default async function UnitAtStep({ params }: Place) {
  const { number, step } = await params
  if (!isStepId(step)) notFound()
  const page = await unitPage(database(), Number(number), step)
  if (!page) notFound()
  const given = pack({ first: page, judged: judge(page.view, step) })
  return <UnitApp key={page.view.id} given={given} rendered={step} />
}
