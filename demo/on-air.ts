import { installedOf } from '@fresh-coat/core/steps/watch/installed'
import { channelsOrOne } from '@fresh-coat/core/unit/on-air'
import { sql } from 'drizzle-orm'
import type { Db } from '../server/db/client'
import { bundleById } from '../server/units/bundle'
import { unitView } from '../server/units/load'
import type { VirtualUnit } from '../standins/air/plug'

/** Which units a stand-in plays on the air: those that have an address and a topic, as their records say they are. */

const loadOfKind: Record<string, number> = { modem: 11, lamp: 60, fan: 35, motor: 120 }

export async function standInUnits(db: Db): Promise<VirtualUnit[]> {
  const found = await db.execute(
    sql`select u.id, u.number, s.topic, s.address, s.metering from unit u join unit_state s on s.unit_id = u.id
        where u.struck_at is null and s.topic <> '' and s.address <> '' order by u.number`,
  )
  const units: VirtualUnit[] = []
  for (const { id, number, topic, address, metering } of found.rows as unknown as {
    id: string
    number: number
    topic: string
    address: string
    metering: boolean
  }[]) {
    const bundle = await bundleById(db, id)
    if (!bundle) continue
    const view = unitView(bundle, new Date())
    const { load, loadWatts } = view.records.arrive.data
    units.push({
      topic,
      ip: address,
      firmware: installedOf(view)?.version ?? '1.0.0',
      channels: channelsOrOne(view),
      watts: metering ? (loadWatts ?? loadOfKind[load ?? ''] ?? 40) : null,
      everyS: 20 + ((number * 7) % 23),
      rssi: -48 - ((number * 5) % 30),
      // One at the edge of the Wi-Fi, and one that falls silent.
      ...(number === 6 ? { flutterS: 75, rssi: -88 } : {}),
      ...(number === 8 ? { silentAfterS: 240 } : {}),
    })
  }
  return units
}
