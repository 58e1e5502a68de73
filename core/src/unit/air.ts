import { z } from 'zod'
import { utf8 } from '../bytes/text'
import { refuse } from '../edge/fault'
import type { Connection } from '../profile/settings'

/** What every unit of a site is told of the air: its networks, its broker, how often it reports. Passwords are secrets of their own. */

const mostSsidBytes = 32
const ssid = z
  .string()
  .superRefine((name, context) => {
    if (utf8(name).length > mostSsidBytes) refuse(context, 'range', [], 'A network name has at most 32 bytes')
  })
  .default('')
export const airShape = z.object({
  ssid,
  ssid2: ssid,
  broker: z
    .object({
      host: z.string().trim().max(253).default(''),
      port: z.number().int().min(1).max(65_535).nullable().default(null),
      tls: z.boolean().default(false),
      user: z.string().max(120).default(''),
    })
    .default({ host: '', port: null, tls: false, user: '' }),
  reportSeconds: z.number().int().min(1).max(86_400).nullable().default(null),
})
export type Air = z.infer<typeof airShape>

export const noAir: Air = airShape.parse({})

/** As it was stored, as far as it can be read. */
export function readAir(value: unknown): Air {
  const read = airShape.safeParse(value ?? {})
  return read.success ? read.data : noAir
}

export interface OnAir {
  /** The last level of its topic is its host name too. */
  topic: string | null
  name: string
  /** Ids of the secrets that it is told; null where none is chosen. */
  wifiSecret: string | null
  secondSecret: string | null
  broker: string | null
}

/** What one unit is told of the air; null while the site has said nothing. */
export function connectionOf(air: Air, { topic, name, wifiSecret, secondSecret, broker }: OnAir): Connection | null {
  const host = topic?.split('/').at(-1) || null
  const some = (text: string) => (text.trim() === '' ? null : text)
  if (!some(air.ssid) && !some(air.broker.host)) return null
  return {
    ssid: some(air.ssid),
    passwordRef: wifiSecret,
    ssid2: some(air.ssid2),
    password2Ref: secondSecret,
    host,
    shownName: some(name),
    mqtt:
      some(air.broker.host) && topic
        ? {
            host: air.broker.host,
            port: air.broker.port,
            tls: air.broker.tls,
            user: some(air.broker.user),
            passwordRef: broker,
            topic,
          }
        : null,
    reportSeconds: air.reportSeconds,
  }
}
