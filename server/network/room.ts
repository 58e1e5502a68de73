import { nameFindings } from '@fresh-coat/core/topics/findings'
import { type Db, inSnapshot } from '../db/client'
import { together } from '../db/together'
import { linkRow, onAir, senders } from '../live/reads'
import { listenerSetting } from '../live/settings'
import { addressed, nameClashes, networkPage, siteOf, slugClashes } from './reads'

export const rowsAPage = 50
/** Of the air, as many as one line of news brings first. */
const mostOnAir = 200

/**
 * What the room Network shows: the air and the plan are two looks, side by side, since the air has moved on before either is drawn.
 * @param after units of the table begin after this number
 */
export async function networkRoom(db: Db, after: number) {
  const air = together({ rows: onAir(db, 0, mostOnAir), link: linkRow(db) })
  const around = together({ senders: senders(db), listener: listenerSetting(db) })
  const plan = inSnapshot(db, (tx) =>
    together({
      site: siteOf(tx),
      addressed: addressed(tx),
      rows: networkPage(tx, after, rowsAPage + 1),
      slugs: slugClashes(tx),
      names: nameClashes(tx),
    }),
  )
  const [shown, said, { slugs, names, ...planned }] = await Promise.all([air, around, plan])
  return { air: shown, ...said, ...planned, findings: nameFindings(slugs, names) }
}
