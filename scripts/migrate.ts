import { connect } from '../server/db'
import { migrateDatabase } from '../server/migrate'
import { shipProfiles } from '../server/profiles'

const { db, end } = connect(process.env.DATABASE_URL as string)
await migrateDatabase(db)
await shipProfiles(db)
await end()
