import { z } from 'zod'

/** How the way of a unit ends before it serves, or after it has: it keeps its number and its record, and waits for nobody. */

export const endings = ['died', 'put-away', 'given-away'] as const
export type EndingKind = (typeof endings)[number]

export const endingWords: Record<EndingKind, string> = {
  died: 'died',
  'put-away': 'put away',
  'given-away': 'given away',
}

export const endedShape = z.object({
  how: z.enum(endings),
  /** Local day. */
  on: z.iso.date(),
  why: z.string().max(500),
})
export type Ended = z.infer<typeof endedShape>

export const readEnded = (value: unknown): Ended | null => {
  const read = endedShape.safeParse(value)
  return read.success ? read.data : null
}

/** "Died on 2026-11-12: the regulator shorted." */
export function endedSentence({ how, on, why }: Ended): string {
  const words = endingWords[how]
  return `${words.charAt(0).toUpperCase()}${words.slice(1)} on ${on}${why ? `: ${why.replace(/[.\s]+$/, '')}` : ''}.`
}
