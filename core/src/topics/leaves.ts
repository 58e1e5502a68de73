/** What stands under the topic of a unit (brief 05 §4). */

export const topicLeaves = ['online', 'health', 'meter', 'power', 'state', 'set', 'event'] as const
export type TopicLeaf = (typeof topicLeaves)[number]

export interface Topic {
  topic: string
  leaf: TopicLeaf
  channel: string | null
  dir: 'in' | 'out'
  retain: boolean
  qos: 0 | 1
}

/** All topics of one unit. @param channels slugs of its channels  @param meter whether it says watts */
export function topicsOf(prefix: string, channels: readonly string[], meter: boolean): Topic[] {
  const leaf = (name: TopicLeaf, retain: boolean, qos: 0 | 1): Topic => ({
    topic: `${prefix}/${name}`,
    leaf: name,
    channel: null,
    dir: 'out',
    retain,
    qos,
  })
  return [
    leaf('online', true, 1),
    leaf('health', true, 0),
    ...(meter ? [leaf('meter', false, 0), leaf('power', false, 0)] : []),
    ...channels.flatMap((channel): Topic[] => [
      { topic: `${prefix}/${channel}/state`, leaf: 'state', channel, dir: 'out', retain: true, qos: 1 },
      // Never retained: a kept command would fire again at every reconnect.
      { topic: `${prefix}/${channel}/set`, leaf: 'set', channel, dir: 'in', retain: false, qos: 1 },
      { topic: `${prefix}/${channel}/event`, leaf: 'event', channel, dir: 'out', retain: false, qos: 1 },
    ]),
  ]
}

/** A leaf as people read it: channels that have the same one stand together. */
export interface LeafWords {
  /** "1–4/state" */
  leaf: string
  way: string
}

/** "1–4", "1, 3", "warm, cool" */
function channelWords(channels: readonly string[]): string {
  const numbers = channels.map(Number)
  const run = numbers.length > 2 && numbers.every((n, i) => i === 0 || n === (numbers[i - 1] as number) + 1)
  return run ? `${channels[0]}–${channels.at(-1)}` : channels.join(', ')
}

/** The leaves of a unit in words, those that a hub goes by first. */
export function leafWords(channels: readonly string[], meter: boolean): LeafWords[] {
  const words = new Map<TopicLeaf, LeafWords>()
  for (const { leaf, channel, dir, retain } of topicsOf('', channels, meter))
    words.set(leaf, {
      leaf: channel === null ? leaf : `${channelWords(channels)}/${leaf}`,
      way: `${dir}, ${retain ? 'retained' : dir === 'in' ? 'never retained' : 'not retained'}`,
    })
  const first: TopicLeaf[] = ['online', 'state', 'set']
  return [...first, ...topicLeaves.filter((leaf) => !first.includes(leaf))].flatMap((leaf) => words.get(leaf) ?? [])
}
