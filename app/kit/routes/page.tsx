import type { Metadata } from 'next'
import { RoutesPay } from '@/components/kit/routes-pay'
import { database, inSnapshot } from '@/server/db/client'
import { routeAssumptionsOf } from '@/server/kit/reads'
import { siteOf } from '@/server/network/reads'
import { costOfRoutes } from '@/server/units/pace'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Which route pays' }

export default async function RoutesPage() {
  const { assumed, record, money } = await inSnapshot(database(), async (tx) => ({
    assumed: await routeAssumptionsOf(tx),
    record: await costOfRoutes(tx),
    money: (await siteOf(tx)).money,
  }))
  return <RoutesPay key={JSON.stringify(assumed)} assumed={assumed} record={record} money={money} />
}
