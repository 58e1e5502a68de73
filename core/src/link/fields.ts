import { type Outcome, refusal } from '../edge/fault'
import { readHex } from './slip'

/** Fields of a request in the order in which they are asked for: the first that is wrong is the one that is said. */

type Value = number | boolean | Uint8Array
interface Wrong {
  code: 'type' | 'range'
  why: string
}
export interface Field<Name extends string = string, V extends Value = Value> {
  name: Name
  read: (value: unknown) => V | Wrong
  /** What it is where it is not given; undefined: it must be. */
  otherwise?: V
}
/** What a list of fields reads: each by its name, as its own type. */
export type FieldsRead<Fields extends readonly Field[]> = {
  [F in Fields[number] as F['name']]: F extends Field<string, infer V> ? V : never
}
const isWrong = (read: Value | Wrong): read is Wrong => typeof read === 'object' && 'code' in read
const most32 = 0xffffffff

export const whole = <Name extends string>(
  name: Name,
  more: { least?: number; most?: number; otherwise?: number } = {},
): Field<Name, number> => {
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

export const inSteps = <Name extends string>(field: Field<Name, number>, step: number): Field<Name, number> => ({
  ...field,
  read: (value) => {
    const read = field.read(value)
    return typeof read === 'number' && read % step !== 0
      ? { code: 'range', why: `must be a multiple of ${step}` }
      : read
  },
})

export const yesNo = <Name extends string>(name: Name): Field<Name, boolean> => ({
  name,
  read: (value) => (typeof value === 'boolean' ? value : { code: 'type', why: 'must be true or false' }),
})

export const hex = <Name extends string>(name: Name): Field<Name, Uint8Array> => ({
  name,
  read: (value) => {
    if (typeof value !== 'string') return { code: 'type', why: 'must be hex in a text' }
    return readHex(value) ?? { code: 'range', why: 'must be whole pairs of hex digits' }
  },
})

export const real = <Name extends string>(name: Name, least: number, most: number): Field<Name, number> => ({
  name,
  read: (value) => {
    if (typeof value !== 'number') return { code: 'type', why: 'must be a number' }
    return value >= least && value <= most ? value : { code: 'range', why: `must lie between ${least} and ${most}` }
  },
})

/** @param place JSON Pointer of the object that holds them */
export function readFields<const Fields extends readonly Field[]>(
  input: Record<string, unknown>,
  place: string,
  fields: Fields,
): Outcome<FieldsRead<Fields>> {
  const out: Record<string, Value> = {}
  for (const { name, read, otherwise } of fields) {
    const given = input[name] ?? null
    const path = `${place}/${name}`
    if (given === null && otherwise === undefined) return refusal('missing', path, `The field ${path} is missing.`)
    const value = given === null && otherwise !== undefined ? otherwise : read(given)
    if (isWrong(value)) return refusal(value.code, path, `The field ${path} ${value.why}.`)
    out[name] = value
  }
  return { ok: true, value: out as FieldsRead<Fields> }
}
