import type { Metadata } from 'next'
import { Updates } from '@/components/network/updates'
import { database, inSnapshot } from '@/server/db/client'
import { campaignOf, campaignUnits, firmwareInService } from '@/server/live/campaign'
import { releasesHeard } from '@/server/live/releases'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Updates' }

export default async function UpdatesPage() {
  const { campaign, units, firmwares, releases } = await inSnapshot(database(), async (tx) => {
    const kept = await campaignOf(tx)
    const known = await firmwareInService(tx)
    const firmware = kept?.policy.firmware ?? known[0]?.name ?? ''
    return {
      campaign: kept,
      firmwares: known,
      units: firmware ? await campaignUnits(tx, firmware) : [],
      releases: firmware ? await releasesHeard(tx, firmware) : [],
    }
  })
  return <Updates campaign={campaign} units={units} firmwares={firmwares} releases={releases} />
}
