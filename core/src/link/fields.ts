import { type Outcome, refusal } from '../edge/fault'
import { readHex } from './slip'

/** Fields of a request in the order in which they are asked for: the first that is wrong is the one that is said. */

type Value = number | boolean | Uint8Array
interface Field {
  name: string
  read: (value: unknown) => Value | { code: 'type' | 'range'; why: string }
  /** What it is where it is not given; undefined: it must be. */
  otherwise?: Value
}
const most32 = 0xffffffff

export const whole = (name: string, more: { least?: number; most?: number; otherwise?: number } = {}): Field => {
  const { least = 0, most = most32, otherwise } = more
  return {
    name,
    ...(otherwise === undefined ? {} : { otherwise }),
    read: (value) => {
      if (typeof value !== 'number') return { code: 'type', why: 'must be a number' }
      if (!Number.isInteger(value) || value < least || value > most)
        return { code: 'range', why: `must be a whole number from ${least} to ${most}` }
      return value
    },
  }
}

export const inSteps = (field: Field, step: number): Field => ({
  ...field,
  read: (value) => {
    const read = field.read(value)
    return typeof read === 'number' && read % step !== 0
      ? { code: 'range', why: `must be a multiple of ${step}` }
      : read
  },
})

export const yesNo = (name: string): Field => ({
  name,
  read: (value) => (typeof value === 'boolean' ? value : { code: 'type', why: 'must be true or false' }),
})

export const hex = (name: string): Field => ({
  name,
  read: (value) => {
    if (typeof value !== 'string') return { code: 'type', why: 'must be hex in a text' }
    return readHex(value) ?? { code: 'range', why: 'must be whole pairs of hex digits' }
  },
})

export const real = (name: string, least: number, most: number): Field => ({
  name,
  read: (value) => {
    if (typeof value !== 'number') return { code: 'type', why: 'must be a number' }
    return value >= least && value <= most ? value : { code: 'range', why: `must lie between ${least} and ${most}` }
  },
})

/** @param place JSON Pointer of the object that holds them */
export function readFields(
  input: Record<string, unknown>,
  place: string,
  fields: readonly Field[],
): Outcome<Record<string, Value>> {
  const out: Record<string, Value> = {}
  for (const { name, read, otherwise } of fields) {
    const given = input[name] ?? otherwise
    const path = `${place}/${name}`
    if (given === undefined) return refusal('missing', path, `The field ${path} is missing.`)
    const value = input[name] == null ? (given as Value) : read(given)
    if (typeof value === 'object' && 'code' in value)
      return refusal(value.code, path, `The field ${path} ${value.why}.`)
    out[name] = value as Value
  }
  return { ok: true, value: out }
}
