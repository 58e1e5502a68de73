/** How the way of a unit ends before it serves, or after it has: it keeps its number and its record, and waits for nobody. */

export const endings = ['died', 'put-away', 'given-away'] as const
export type EndingKind = (typeof endings)[number]

export const endingWords: Record<EndingKind, string> = {
  died: 'died',
  'put-away': 'put away',
  'given-away': 'given away',
}

export interface Ended {
  how: EndingKind
  /** Local day. */
  on: string
  why: string
}

/** "Died on 2026-11-12: the regulator shorted." */
export function endedSentence({ how, on, why }: Ended): string {
  const words = endingWords[how]
  return `${words.charAt(0).toUpperCase()}${words.slice(1)} on ${on}${why ? `: ${why.replace(/[.\s]+$/, '')}` : ''}.`
}
