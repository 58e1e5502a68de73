import { request } from 'node:http'
import { port } from './server'
import { Tally } from './tally'

/** Names that are not ours, and pages of others: a name that was pointed here gets nothing, and no foreign page commands. */

function raw(
  path: string,
  method: string,
  headers: Record<string, string>,
): Promise<{ status: number; text: string; ms: number }> {
  return new Promise((done) => {
    const from = performance.now()
    const asked = request({ host: '127.0.0.1', port, path, method, headers, setHost: false }, (response) => {
      let text = ''
      response.on('data', (piece) => {
        text += piece
      })
      response.on('end', () => done({ status: response.statusCode ?? 0, text, ms: performance.now() - from }))
    })
    asked.on('error', (cause) => done({ status: 0, text: String(cause), ms: performance.now() - from }))
    asked.end(method === 'GET' ? undefined : '{}')
  })
}

export async function doors(): Promise<Tally> {
  const tally = new Tally('foreign names and pages', 2000)
  const hosts = [
    'evil.example',
    `evil.example:${port}`,
    '127.0.0.1.evil.example',
    'localhost.evil.example',
    '192.168.71.2',
    '0.0.0.0',
    '[::ffff:127.0.0.1]',
    'localhost@evil.example',
    '127.0.0.1:99999999',
    '',
    ' ',
    'LOCALHOST.',
    '127.1',
    '2130706433',
  ]
  const paths = ['/', '/units', '/api/health', '/api/find?q=a', '/_next/static/x', '/favicon.ico']
  for (const host of hosts)
    for (const path of paths) {
      const { status, text, ms } = await raw(path, 'GET', { host })
      const refused = status === 421 || status === 400
      tally.note(`Host “${host}” ${path}`, ms, refused ? null : `status ${status}: ${text.slice(0, 80)}`)
    }
  for (const origin of [
    'http://evil.example',
    'null',
    'http://localhost:1',
    `https://127.0.0.1:${port}.evil.example`,
    'file://',
  ])
    for (const [path, method] of [
      ['/api/commands/create-unit', 'POST'],
      ['/api/files?kind=image&name=x', 'PUT'],
    ] as const) {
      const { status, ms } = await raw(path, method, {
        host: `127.0.0.1:${port}`,
        origin,
        'content-type': 'application/json',
      })
      tally.note(`Origin “${origin}” ${path}`, ms, status === 403 ? null : `status ${status}`)
    }
  for (const host of [`127.0.0.1:${port}`, `localhost:${port}`, `[::1]:${port}`]) {
    const { status, ms } = await raw('/api/health', 'GET', { host })
    tally.note(`own name ${host}`, ms, status === 200 ? null : `status ${status}`)
  }
  return tally
}
