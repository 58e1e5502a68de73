import { nth } from '../edge/nth'
/** Versions of 1 to 4 numbers, with a suffix that sorts before the plain one: 9.4.1-beta < 9.4.1. */
export interface Version {
  numbers: [number, number, number, number]
  suffix: string
}

export function readVersion(text: string): Version | null {
  const found = /^v?(\d{1,9}(?:\.\d{1,9}){0,3})(?:-(.+))?$/.exec(text.trim())
  if (!found) return null
  const numbers = (found[1] as string).split('.').map(Number)
  while (numbers.length < 4) numbers.push(0)
  return { numbers: numbers as Version['numbers'], suffix: found[2] ?? '' }
}

/** Negative when a is older than b. Text that is no version sorts by itself, before every version. */
export function compareVersions(a: string, b: string): number {
  const x = readVersion(a)
  const y = readVersion(b)
  if (!x || !y) return x ? 1 : y ? -1 : a < b ? -1 : a > b ? 1 : 0
  for (let i = 0; i < 4; i++) {
    const difference = nth(x.numbers, i) - nth(y.numbers, i)
    if (difference !== 0) return difference
  }
  if (x.suffix === y.suffix) return 0
  if (x.suffix === '') return 1
  if (y.suffix === '') return -1
  return x.suffix < y.suffix ? -1 : 1
}
