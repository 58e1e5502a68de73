import { type Outcome, refusal } from '../edge/fault'
import { type ParsedStream, parseFrames } from './answers'
import { type BuiltFrame, buildFrame } from './packet'
import { objectOf } from './rom'

/** `link frame`: `{ build }` makes a request, `{ parse }` reads what came back. */
export function linkFrame(input: unknown): Outcome<BuiltFrame | ParsedStream> {
  const given = objectOf(input)
  if (!given) return refusal('type', '', 'The input must be an object.')
  if (given.build != null) return buildFrame(given.build)
  if (given.parse != null) return parseFrames(given.parse)
  return refusal('missing', '/build', 'Say what to build, or what to parse.')
}
