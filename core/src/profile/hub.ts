import { z } from 'zod'
import { type Outcome, parseInput, refuse, shapeCodes } from '../edge/fault'
import { type Item, Phrases, type Rendered } from './phrases'
import { rendered } from './settings'

/** What a hub has to be told of units, in the words of its kind (brief 07 §6). */

export const entityKinds = ['switch', 'light', 'dimmer', 'cover', 'lock', 'sensor', 'button', 'fan'] as const
const text = z.string().nullish()
export const Entity = z.object({
  kind: z.enum(entityKinds),
  name: z.string(),
  slug: z.string(),
  room: text,
  stateTopic: text,
  setTopic: text,
  onlineTopic: text,
  on: text,
  off: text,
  unit: text,
})
export type Entity = z.infer<typeof Entity>

export const entityItem = (e: Entity): Item => ({
  key: `entity.${e.kind}`,
  on: e.slug,
  values: {
    name: e.name,
    slug: e.slug,
    room: e.room ?? null,
    state: e.stateTopic ?? null,
    set: e.setTopic ?? null,
    online: e.onlineTopic ?? null,
    on: e.on ?? null,
    off: e.off ?? null,
    unit: e.unit ?? null,
  },
})

const Request = z.object({
  profile: Phrases,
  entities: z
    .array(Entity)
    .max(2000)
    .superRefine((entities, context) => {
      if (entities.length === 0) refuse(context, 'empty', [], 'There is nothing to tell the hub of')
    }),
})

/** `hub render`: the text that a hub takes, and what it cannot say. */
export function hubRender(input: unknown): Outcome<Rendered> {
  const parsed = parseInput(Request, input, shapeCodes)
  return parsed.ok ? rendered(parsed.value.profile, parsed.value.entities.map(entityItem)) : parsed
}
