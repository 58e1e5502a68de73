// web.mjs HOST PORT: the web server. Answers to its own names only, refuses addresses that cannot be read, and ends cleanly.
import { createServer } from 'node:http'
import next from 'next'

const [host, port] = [process.argv[2], Number(process.argv[3])]

/** Names this computer goes by: a page of somebody else's name that was pointed here gets nothing. */
const names = new Set([
  '127.0.0.1',
  'localhost',
  '[::1]',
  ...(process.env.FRESH_COAT_NAMES ?? '').split(/[\s,]+/).filter(Boolean),
])

/** Name in a Host header, without its port; null when it is none. */
function nameOf(header) {
  const found = /^([a-z0-9.-]+|\[[0-9a-f:]+\])(?::\d{1,5})?$/i.exec(header ?? '')
  return found ? found[1].toLowerCase() : null
}

/** Can the address be read: no half escapes, no NUL, a path of this server? */
function readable(url) {
  if (!url.startsWith('/') || url.startsWith('//') || url.includes('\\') || url.length > 4096) return false
  try {
    return (
      !decodeURIComponent(url.split('?')[0]).includes('\0') &&
      !decodeURIComponent(url.replaceAll('+', ' ')).includes('\0')
    )
  } catch {
    return false
  }
}

/** To a browser on this computer bytes cost nothing, and squeezing them up to a fifth of the time of a page. A proxy gets what it asks for. */
const isNear = (request) =>
  ['127.0.0.1', '::1', '::ffff:127.0.0.1'].includes(request.socket.remoteAddress) &&
  request.headers['x-forwarded-for'] === undefined

const refuse = (response, status, text) => {
  response.writeHead(status, {
    'content-type': 'text/plain; charset=utf-8',
    'x-content-type-options': 'nosniff',
    connection: 'close',
  })
  response.end(`${text}\n`)
}

const app = next({ dev: false, hostname: host, port, quiet: true })
await app.prepare()
const handle = app.getRequestHandler()
const server = createServer((request, response) => {
  const name = nameOf(request.headers.host)
  if (name === null || !names.has(name))
    return refuse(
      response,
      421,
      'Fresh Coat answers to the names of this computer only: open http://127.0.0.1. FRESH_COAT_NAMES adds one.',
    )
  if (!readable(request.url ?? '')) return refuse(response, 400, 'This address cannot be read.')
  // Scripts are asked for once and kept: they come as they would over any line.
  if (isNear(request) && !request.url.startsWith('/_next/static/')) delete request.headers['accept-encoding']
  handle(request, response).catch((cause) => {
    console.error('a page failed:', cause)
    if (!response.headersSent)
      refuse(response, 500, 'Something went wrong in Fresh Coat itself. What was saved is safe.')
    else response.destroy()
  })
})
server.on(
  'clientError',
  (_, socket) => socket.writable && socket.end('HTTP/1.1 400 Bad Request\r\nconnection: close\r\n\r\n'),
)
server.on('error', (cause) => {
  console.error(`The web server cannot listen on ${host}:${port}: ${cause.message}`)
  process.exit(1)
})
server.listen(port, host)

let ending = false
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => {
    if (ending) return
    ending = true
    // A page that looks on would hold the server for ever.
    for (const close of globalThis.freshCoatStreams ?? []) close()
    server.close(() => process.exit(0))
    server.closeIdleConnections()
    // Who still waits for an answer gets a moment.
    setTimeout(() => process.exit(0), 3000).unref()
  })
