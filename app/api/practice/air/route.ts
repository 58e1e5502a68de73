import { channelsOrOne } from '@fresh-coat/core/unit/on-air'
import { z } from 'zod'
import { answerFault, refuse } from '@/server/db/answer'
import { jsonBody } from '@/server/db/body'
import { database } from '@/server/db/client'
import { foreignOrigin } from '@/server/db/guard'
import { viewByNumber } from '@/server/units/load'
import { VirtualHub } from '@/standins/air/hub'

export const dynamic = 'force-dynamic'

const channel = z.string().regex(/^[a-z0-9-]{1,20}$/)
const Wish = z.discriminatedUnion('act', [
  z.strictObject({ number: z.number().int().min(0), act: z.literal('switch'), channel, on: z.boolean() }),
  z.strictObject({ number: z.number().int().min(0), act: z.literal('press'), channel }),
  z.strictObject({ number: z.number().int().min(0), act: z.literal('appear') }),
  z.strictObject({ number: z.number().int().min(0), act: z.literal('look'), channel }),
])

const broker = (): string | null => process.env.FRESH_COAT_STANDIN_BROKER ?? null

/** Are there stand-ins on the air? Only the demo has them. */
export const GET = () => Response.json({ ok: true, value: { there: broker() !== null } })

/** The stand-in hub switches a unit of the demo, or shows it; its button is pressed; it comes on the air. Records are not touched. */
export async function POST(request: Request) {
  if (foreignOrigin(request))
    return refuse(403, 'origin', 'This request came from another page.', 'Use the page of Fresh Coat itself.')
  const at = broker()
  if (!at)
    return refuse(404, 'no-stand-ins', 'There are no stand-ins here.', 'They belong to the demo: bin/start --demo.')
  const body = await jsonBody(request)
  const wish = Wish.safeParse(body.state === 'read' ? body.value : null)
  if (!wish.success) return refuse(422, 'input', 'That is nothing a stand-in does.', 'Reload the page.')
  try {
    const view = await viewByNumber(database(), wish.data.number)
    if (!view?.topic) return refuse(404, 'no-topic', 'This unit has no topic.', 'Give it its name first.')
    const hub = await VirtualHub.at(`mqtt://${at}`)
    try {
      if (wish.data.act === 'switch') await hub.switchTo(view.topic, wish.data.channel, wish.data.on)
      else if (wish.data.act === 'press')
        await hub.order({ act: 'press', topic: view.topic, channel: wish.data.channel })
      else if (wish.data.act === 'appear') {
        const ip = view.records.join.data.address.trim()
        await hub.order({
          act: 'appear',
          topic: view.topic,
          channels: channelsOrOne(view),
          ...(z.ipv4().safeParse(ip).success ? { ip } : {}),
        })
      }
      const shows = wish.data.act === 'appear' ? null : await hub.shows(view.topic, wish.data.channel)
      return Response.json({ ok: true, value: { shows } }, { headers: { 'cache-control': 'no-store' } })
    } finally {
      await hub.end()
    }
  } catch (cause) {
    return answerFault('stand-in', cause)
  }
}
