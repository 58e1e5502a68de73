import { createHash } from 'node:crypto'
import type { Message } from '@fresh-coat/core/live/listener'
import mqtt, { type IClientOptions, type MqttClient } from 'mqtt'

/** The line to a broker: one client with a name of its own and a session that outlives it, for ever trying again. */

export interface BrokerWanted {
  host: string
  port: number
  tls: boolean
  user: string
  password: string | null
  ca: string
  /** First levels of the site: the session is one per site. */
  base: string
  site: string
}
export interface BrokerHears {
  /** Called before a message is acknowledged. */
  message: (m: Message, acknowledged: boolean) => void
  state: (state: 'connecting' | 'connected' | 'refused', message: string) => void
}

const sessionDays = 7
const [leastPause, mostPause] = [1000, 60_000]
const jitter = 0.2
/** Milliseconds before the next try: doubled each time, never for all clients at once. */
export const pauseBefore = (tries: number, random = Math.random): number =>
  Math.min(mostPause, leastPause * 2 ** tries) * (1 + jitter * (2 * random() - 1))

const clientId = ({ base, site, host }: BrokerWanted) =>
  `fresh-coat-${createHash('sha256').update(`${base}/${site}@${host}`).digest('hex').slice(0, 12)}`

/** What a broker’s refusal means, for people. */
function refusalOf(cause: Error & { code?: number | string }): { refused: boolean; words: string; older: boolean } {
  const { code, message } = cause
  if (code === 1 || code === 132) return { refused: false, words: message, older: true }
  if (code === 4 || code === 134)
    return { refused: true, words: 'The broker refuses the user or the password.', older: false }
  if (code === 5 || code === 135) return { refused: true, words: 'The broker lets this user in nowhere.', older: false }
  if (typeof code === 'string' && /CERT|ALTNAME|SELF_SIGNED|UNABLE_TO/.test(code))
    return { refused: true, words: `The broker’s certificate is not believed: ${message}.`, older: false }
  return { refused: false, words: message, older: false }
}

export class BrokerLine {
  private client: MqttClient | null = null
  private timer: NodeJS.Timeout | null = null
  private tries = 0
  private ended = false
  private version: 4 | 5 = 5

  constructor(
    private readonly wanted: BrokerWanted,
    private readonly filters: readonly string[],
    private readonly hears: BrokerHears,
  ) {
    this.open()
  }

  private options(): IClientOptions {
    const { host, port, tls, user, password, ca } = this.wanted
    return {
      protocol: tls ? 'mqtts' : 'mqtt',
      host,
      port,
      protocolVersion: this.version,
      clientId: clientId(this.wanted),
      clean: false,
      // Without it a version 5 session is forgotten with the line.
      ...(this.version === 5 ? { properties: { sessionExpiryInterval: sessionDays * 86_400 } } : {}),
      ...(user ? { username: user } : {}),
      ...(password === null ? {} : { password }),
      ...(tls && ca.trim() !== '' ? { ca: [ca] } : {}),
      rejectUnauthorized: true,
      connectTimeout: 10_000,
      keepalive: 30,
      reconnectPeriod: 0,
      resubscribe: false,
    }
  }

  private open(): void {
    if (this.ended) return
    const { host, port } = this.wanted
    this.hears.state('connecting', this.tries === 0 ? '' : `${host}:${port} does not answer; it is tried again.`)
    const client = mqtt.connect(this.options())
    this.client = client
    let failed: ReturnType<typeof refusalOf> | null = null
    client.on('error', (cause) => {
      failed = refusalOf(cause as Error & { code?: number })
      if (failed.older) this.version = 4
      this.hears.state(failed.refused ? 'refused' : 'connecting', failed.words)
    })
    client.on('connect', () => {
      this.tries = 0
      // Asked for at every connection: retained states come anew, and a filter that was added counts.
      client.subscribe([...this.filters], { qos: 1 }, (cause) =>
        cause
          ? this.hears.state('refused', `The broker does not let it subscribe: ${cause.message}.`)
          : this.hears.state('connected', ''),
      )
    })
    client.handleMessage = (packet, done) => {
      const { topic, payload, qos, retain, dup } = packet
      const bytes = typeof payload === 'string' ? Buffer.from(payload) : payload
      try {
        this.hears.message({ topic, bytes, retained: retain, dup: dup === true, at: Date.now() }, qos > 0)
        done()
      } catch (cause) {
        // Not noted is not acknowledged: the broker sends it again.
        done(cause as Error)
      }
    }
    client.on('close', () => {
      if (this.client !== client) return
      this.client = null
      client.end(true)
      if (this.ended) return
      const pause = failed?.older ? 0 : pauseBefore(this.tries++)
      if (!failed) this.hears.state('connecting', 'The line to the broker is lost; it is tried again.')
      this.timer = setTimeout(() => this.open(), pause)
    })
  }

  /** Once and now: at least once delivered, never kept by the broker. Fails where the line is not there. */
  publish(topic: string, payload: string): Promise<void> {
    const { client } = this
    if (!client?.connected) return Promise.reject(new Error('The line to the broker is not there.'))
    return new Promise((done, fail) =>
      client.publish(topic, payload, { qos: 1, retain: false }, (cause) => (cause ? fail(cause) : done())),
    )
  }

  async end(): Promise<void> {
    this.ended = true
    if (this.timer) clearTimeout(this.timer)
    const { client } = this
    this.client = null
    if (client) await new Promise<void>((done) => client.end(false, {}, () => done()))
  }
}
