const letters: Record<string, string> = { ß: 'ss', æ: 'ae', œ: 'oe', ø: 'o', đ: 'd', ð: 'd', ł: 'l', þ: 'th', ı: 'i' }

/** A name as it may stand in a topic: a–z, 0–9 and inner hyphens, at most `max`; '' when nothing is left. */
export function slugOf(text: string, max = Number.POSITIVE_INFINITY): string {
  const plain = text
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/[ßæœøđðłþı]/g, (c) => letters[c] as string)
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
  return plain.length > max ? plain.slice(0, max).replace(/-+$/, '') : plain
}

/** `slug` with a suffix, cut so that both fit in `max`. */
export const slugWith = (slug: string, suffix: string, max: number): string =>
  `${slug.slice(0, Math.max(0, max - suffix.length)).replace(/-+$/, '')}${suffix}`

export const isSlug = (text: string, max = 63): boolean => text.length <= max && /^[a-z0-9]+(-[a-z0-9]+)*$/.test(text)

/** Slugs that mean something else in the topic tree. */
export const reservedSlugs: ReadonlySet<string> = new Set(['groups', 'hub'])
/** Longest slug of a unit, unless a plan says otherwise. */
export const longestSlug = 24
