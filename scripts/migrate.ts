import { connect } from '../server/db'
import { migrateDatabase } from '../server/migrate'

const { db, end } = connect(process.env.DATABASE_URL as string)
await migrateDatabase(db)
await end()
