import { createServer } from 'node:http'
import { join } from 'node:path'
import { connect } from '@/server/db/client'
import { AckJournal } from './journal'
import { Field } from './listen'

/**
 * The listener as a process of its own. DATABASE_URL names the database; FRESH_COAT_DATA the folder; FRESH_COAT_STANDIN_BROKER
 * (host:port) a stand-in instead of the site's broker; FRESH_COAT_FIELD_PORT a port on loopback for its health page.
 */
const url = process.env.DATABASE_URL
if (!url) throw new Error('DATABASE_URL is not set: start with bin/start')
const [host = '', port = ''] = (process.env.FRESH_COAT_STANDIN_BROKER ?? '').split(':')
const name = new URL(url).pathname.slice(1) || 'database'
const { db, end } = connect(url)
const field = new Field({
  db,
  url,
  journal: new AckJournal(join(process.env.FRESH_COAT_DATA ?? '.data', 'field', name)),
  standIn: host && port ? { host, port: Number(port) } : null,
})

const healthPort = Number(process.env.FRESH_COAT_FIELD_PORT ?? 0)
const health = createServer((request, response) => {
  const known = request.url === '/health'
  response.writeHead(known ? 200 : 404, { 'content-type': 'application/json' })
  response.end(known ? JSON.stringify(field.health()) : '{}')
})
if (healthPort > 0)
  health
    .on('error', (cause) => console.error(`field: no health page on port ${healthPort}: ${cause.message}`))
    .listen(healthPort, '127.0.0.1')

let ending = false
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
  process.on(signal, () => {
    if (ending) return
    ending = true
    health.close()
    // A database that is away must not hold it for ever: what is noted is found again at the next start.
    setTimeout(() => process.exit(1), 5000).unref()
    void field
      .end()
      .then(end)
      .then(() => process.exit(0))
  })
await field.start()
