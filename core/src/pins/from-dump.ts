import { latin1 } from '../bytes/text'
import { coverMask } from '../dump/cover'
import type { PinFunction, TemplatePin } from './template'

/**
 * Pins that the settings of the stock firmware name with a function. A guess, offered as one: a name in a file is not a
 * wire on a board. What looks like a secret is covered before anything is looked for.
 */
export interface NamedPin {
  pin: string
  fn: PinFunction
  ch: number | null
  /** Where it stands in the file. */
  offset: number
  /** As it stands there, so that a person can judge it. */
  text: string
}

const words: Record<string, PinFunction> = {
  relay: 'relay',
  rly: 'relay',
  output: 'relay',
  led: 'led',
  light: 'led',
  lamp: 'led',
  button: 'button',
  btn: 'button',
  key: 'button',
  buzzer: 'buzzer',
  beeper: 'buzzer',
  motion: 'motion',
  sda: 'i2c-sda',
  scl: 'i2c-scl',
}
const word = `(${Object.keys(words).join('|')})`
const gap = '[\\s_.-]?'
const is = `["']?\\s*[:=]\\s*["']?`
const noMore = '(?![0-9A-Za-z.])'
/** "relay1_pin=12", "led: gpio13": one of the sides has to say that the number is a pin. */
const named = new RegExp(
  `(?<![A-Za-z])${word}${gap}(\\d{1,2})?${gap}(?:(?:pin|gpio|io)${is}(?:gpio|io|pin)?|${is}(?:gpio|io|pin)${gap})(\\d{1,2})${noMore}`,
  'gi',
)
/** "gpio12: relay 1" */
const numbered = new RegExp(
  `(?<![A-Za-z])(?:gpio|io|pin)${gap}(\\d{1,2})${is}${word}(?:${gap}(\\d{1,2}))?${noMore}`,
  'gi',
)

const leastText = 6
const mostFound = 100

const foundIn = (text: string, offset: number): NamedPin[] => {
  const pinOf = (match: RegExpMatchArray, fn: string, ch: string | undefined, pin: string): NamedPin => ({
    pin: `GPIO${Number(pin)}`,
    fn: words[fn.toLowerCase()] as PinFunction,
    ch: ch === undefined ? null : Number(ch),
    offset: offset + (match.index ?? 0),
    text: match[0],
  })
  return [
    ...[...text.matchAll(named)].map((m) => pinOf(m, m[1] as string, m[2], m[3] as string)),
    ...[...text.matchAll(numbered)].map((m) => pinOf(m, m[2] as string, m[3], m[1] as string)),
  ].sort((a, b) => a.offset - b.offset)
}

const isText = (byte: number | undefined): boolean => byte !== undefined && byte >= 0x20 && byte <= 0x7e

/**
 * Every pin that the text in a dump names, in the order it stands there; at most a hundred. Nothing is taken out of what
 * looks like a secret; a number of one or two digits behind the word "pin" is none.
 */
export function pinsNamedIn(bytes: Uint8Array): NamedPin[] {
  const mask = coverMask(bytes)
  const out: NamedPin[] = []
  for (let from = 0; from < bytes.length && out.length < mostFound; ) {
    let end = from
    while (isText(bytes[end])) end++
    if (end - from >= leastText)
      for (const found of foundIn(latin1(bytes.subarray(from, end)), from))
        if (mask[found.offset] === 0) out.push(found)
    from = end + 1
  }
  return out.slice(0, mostFound)
}

export interface PinsOffered {
  /** To be taken as assumed: named once, or the same way everywhere. */
  pins: (NamedPin & { times: number })[]
  /** Named two ways: nobody can tell which holds. */
  contradicted: NamedPin[]
  /** Named, and there is no such pin for use on this family. */
  impossible: NamedPin[]
}

const meaning = (p: NamedPin) => `${p.fn} ${p.ch ?? ''}`

/**
 * What of it can be offered for a board.
 * @param usable pins of the family that may be used
 */
export function offeredPins(found: readonly NamedPin[], usable: ReadonlySet<string>): PinsOffered {
  const possible = found.filter((p) => usable.has(p.pin))
  const clashes = (p: NamedPin) =>
    possible.some(
      (o) =>
        (o.pin === p.pin && meaning(o) !== meaning(p)) ||
        (o.pin !== p.pin && meaning(o) === meaning(p) && p.ch !== null),
    )
  const agreed = possible.filter((p) => !clashes(p))
  return {
    pins: agreed
      .filter((p, i) => agreed.findIndex((o) => o.pin === p.pin) === i)
      .map((p) => ({ ...p, times: agreed.filter((o) => o.pin === p.pin).length })),
    contradicted: possible.filter(clashes),
    impossible: found.filter((p) => !usable.has(p.pin)),
  }
}

/** As template pins: assumed, with the place they came from, and no evidence of anybody's eyes. */
export const asAssumed = (pins: readonly NamedPin[]): TemplatePin[] =>
  pins.map(({ pin, fn, ch, offset, text }) => ({
    pin,
    fn,
    ...(ch === null ? {} : { ch }),
    confidence: 'assumed',
    note: `named in the stock backup at 0x${offset.toString(16).toUpperCase()}: ${text}`,
  }))
