import { count, sql } from 'drizzle-orm'
import { connect } from '../server/db/client'
import { settleRipples } from '../server/db/ripple'
import * as schema from '../server/db/schema'
import { shipProfiles } from '../server/kit/profiles'
import { loadLanternYard } from './lantern-yard'

/** Loads Lantern Yard into an empty database; RESET=1 removes what is there first, after saying what. */
const { db, end } = connect(process.env.DATABASE_URL as string)
const [units] = await db.select({ n: count() }).from(schema.unit)
const [files] = await db.select({ n: count() }).from(schema.file)
const [mark] = await db.select().from(schema.setting).where(sql`key = 'demo'`)
const n = units?.n ?? 0

if (n > 0 && !mark) {
  console.error(
    `This database holds ${n} units that are not the demo's. Nothing was touched; start without --demo, or give another DATABASE_URL.`,
  )
  process.exit(2)
}
// A load that broke off is no demo: what there is of it is made again.
const brokenOff = mark !== undefined && (mark.value as { complete?: boolean }).complete === false
if (brokenOff && !process.env.RESET)
  console.log('Making Lantern Yard broke off last time: it is made again from the beginning.')
if ((process.env.RESET || brokenOff) && mark) {
  console.log(
    `Lantern Yard is made again: ${n} units and ${files?.n ?? 0} files of the demo are removed, with their events. Nothing else is.`,
  )
  await db.execute(
    sql`truncate profile, practice, marking, event, ripple, secret, blob, kit, hub, unit, board, setting cascade`,
  )
}
if (n === 0 || ((process.env.RESET || brokenOff) && mark)) {
  const started = Date.now()
  await shipProfiles(db)
  // Marked first: a load that was interrupted can be made again with --reset.
  await db
    .insert(schema.setting)
    .values({ key: 'demo', value: { name: 'Lantern Yard', complete: false } })
    .onConflictDoNothing()
  console.log('Making Lantern Yard…')
  await loadLanternYard(db, new Date(), () => process.stdout.write('.'))
  await settleRipples(db)
  await db
    .update(schema.setting)
    .set({ value: { name: 'Lantern Yard', complete: true } })
    .where(sql`key = 'demo'`)
  console.log(` ${((Date.now() - started) / 1000).toFixed(0)} s`)
}
await end()
