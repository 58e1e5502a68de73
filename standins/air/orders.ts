import { z } from 'zod'

/** What the pages of the demo ask of the stand-ins on the air: over the same broker, on topics of their own. */
export const standInTopic = 'stand-in'

const topic = z
  .string()
  .min(1)
  .max(200)
  .regex(/^[^+#\0]+$/)
const channel = z.string().regex(/^[a-z0-9-]{1,20}$/)
const Order = z.discriminatedUnion('act', [
  z.strictObject({ act: z.literal('press'), topic, channel: channel.default('1') }),
  z.strictObject({
    act: z.literal('appear'),
    topic,
    channels: z.array(channel).min(1).max(8).default(['1']),
    ip: z.ipv4().optional(),
  }),
])
export type Order = z.infer<typeof Order>

/** An order as it came over the broker; null where it is none. */
export function readOrder(name: string, payload: string): Order | null {
  if (name !== `${standInTopic}/order`) return null
  try {
    const read = Order.safeParse(JSON.parse(payload))
    return read.success ? read.data : null
  } catch {
    return null
  }
}
