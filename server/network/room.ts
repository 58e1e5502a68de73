import { nameFindings } from '@fresh-coat/core/topics/findings'
import { type Db, inSnapshot } from '../db/client'
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
  const air = async () => ({
    rows: await onAir(db, 0, mostOnAir),
    link: await linkRow(db),
  })
  const around = async () => ({
    senders: await senders(db),
    listener: await listenerSetting(db),
  })
  const plan = () =>
    inSnapshot(db, async (tx) => ({
      site: await siteOf(tx),
      addressed: await addressed(tx),
      rows: await networkPage(tx, after, rowsAPage + 1),
      findings: nameFindings(await slugClashes(tx), await nameClashes(tx)),
    }))
  const [shown, said, planned] = await Promise.all([air(), around(), plan()])
  return { air: shown, ...said, ...planned }
}
