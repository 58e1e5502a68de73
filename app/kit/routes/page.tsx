import type { Metadata } from 'next'
import { RoutesPay } from '@/components/kit/routes-pay'
import { database, inSnapshot } from '@/server/db/client'
import { together } from '@/server/db/together'
import { routeAssumptionsOf } from '@/server/kit/reads'
import { siteOf } from '@/server/network/reads'
import { costOfRoutes } from '@/server/units/pace'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Which route pays' }

export default async function RoutesPage() {
  const { assumed, record, site } = await inSnapshot(database(), (tx) =>
    together({ assumed: routeAssumptionsOf(tx), record: costOfRoutes(tx), site: siteOf(tx) }),
  )
  return <RoutesPay key={JSON.stringify(assumed)} assumed={assumed} record={record} money={site.money} />
}
