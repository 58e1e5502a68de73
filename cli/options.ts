import type { Family } from '@fresh-coat/core/families/families'
import { UsageError } from './usage'

/** What stands behind a command's --options, read and checked. */

export type Options = ReadonlyMap<string, string>

/** A number of bytes or an address, decimal or 0x…; null where the option is not given. */
export function bytesOption(options: Options, name: string, least = 0): number | null {
  const text = options.get(name)
  if (text === undefined) return null
  const n = /^(0x[0-9a-f]+|\d+)$/i.test(text) ? Number(text) : Number.NaN
  if (!(n >= least && Number.isSafeInteger(n)))
    throw new UsageError(`--${name} must be a number of bytes${least > 0 ? ' above 0' : ''}`)
  return n
}

export interface Bounds {
  otherwise: number
  least: number
  most: number
}

/** A whole number within bounds. */
export function wholeOption(options: Options, name: string, { otherwise, least, most }: Bounds): number {
  const text = options.get(name)
  if (text === undefined) return otherwise
  const n = /^\d+$/.test(text) ? Number(text) : Number.NaN
  if (!(n >= least && n <= most)) throw new UsageError(`--${name} must be a whole number from ${least} to ${most}`)
  return n
}

/** --family and --flash-bytes, as the commands on files take them. */
export async function inspectOptions(options: Options): Promise<{ family: Family | null; flashBytes: number | null }> {
  const { families } = await import('@fresh-coat/core/families/families')
  const family = options.get('family') ?? null
  if (family !== null && !(families as readonly string[]).includes(family))
    throw new UsageError(`--family must be one of ${families.join(', ')}`)
  const flashBytes = bytesOption(options, 'flash-bytes', 1)
  return { family: family === 'OTHER' ? null : (family as Family | null), flashBytes }
}
