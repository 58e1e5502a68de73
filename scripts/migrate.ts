import { connect } from '../server/db/client'
import { migrateDatabase } from '../server/db/migrate'
import { settleRipples } from '../server/db/ripple'
import { upgradeStored } from '../server/db/upgrade'
import { shipProfiles } from '../server/kit/profiles'

const { db, end } = connect(process.env.DATABASE_URL as string)
await migrateDatabase(db)
await shipProfiles(db)
const units = await upgradeStored(db)
if (units > 0) console.error(`Records of ${units} units were brought up to this version.`)
await settleRipples(db)
await end()
