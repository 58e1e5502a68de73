import fc from 'fast-check'
import { z } from 'zod'
import { records, type StepData } from '../unit/records'
import type { StepId } from '../unit/way'

/** Records nobody would think of: anything that the schema of a step lets through, made from that schema itself. */

export interface Shape {
  type?: string
  const?: unknown
  enum?: unknown[]
  anyOf?: Shape[]
  oneOf?: Shape[]
  properties?: Record<string, Shape>
  required?: string[]
  additionalProperties?: Shape | boolean
  propertyNames?: Shape
  items?: Shape
  minItems?: number
  maxItems?: number
  minLength?: number
  maxLength?: number
  pattern?: string
  minimum?: number
  maximum?: number
  exclusiveMinimum?: number
}

/** Words that mean something somewhere, and text that means nothing. */
const texts = fc.oneof(
  fc.constantFrom('', 'GPIO4', 'LX106', '3V3', '44:b7:d0:31:0a:0f', '192.168.71.9', '9.4.1', '2026-11-20', 'NaN', '-0'),
  fc.constantFrom('2026-11-20T10:00:00.000Z', 'rst cause:1, boot mode:(3,6)', 'a'.repeat(500), '\u202e\u0301 ß'),
  fc.string({ maxLength: 12 }),
)

/** Anything that a JSON schema lets through. */
export function anyOf(shape: Shape): fc.Arbitrary<unknown> {
  if ('const' in shape) return fc.constant(shape.const)
  if (shape.enum) return fc.constantFrom(...shape.enum)
  const choices = shape.anyOf ?? shape.oneOf
  if (choices) return fc.oneof(...choices.map(anyOf))
  switch (shape.type) {
    case 'string':
      if (shape.pattern) return fc.oneof(texts, fc.stringMatching(new RegExp(shape.pattern)))
      return texts.map((text) => text.slice(0, shape.maxLength ?? 500))
    case 'integer':
      return fc.integer({ min: shape.minimum ?? -1000, max: Math.min(shape.maximum ?? 100_000, 100_000) })
    case 'number':
      return fc.oneof(
        fc.constantFrom(0, 1, 3.3, 230, 1e-9, 1e12),
        fc.double({ min: shape.minimum ?? -1e6, max: shape.maximum ?? 1e6, noNaN: true }),
      )
    case 'boolean':
      return fc.boolean()
    case 'null':
      return fc.constant(null)
    case 'array':
      return fc.array(anyOf(shape.items ?? {}), {
        minLength: shape.minItems ?? 0,
        maxLength: Math.min(shape.maxItems ?? 6, 6),
      })
    case 'object': {
      if (shape.properties)
        return fc.record(Object.fromEntries(Object.entries(shape.properties).map(([k, s]) => [k, anyOf(s)])), {
          requiredKeys: shape.required ?? [],
        })
      const values = typeof shape.additionalProperties === 'object' ? anyOf(shape.additionalProperties) : texts
      const keys = (shape.propertyNames ? anyOf(shape.propertyNames) : texts) as fc.Arbitrary<string>
      return fc.dictionary(keys, values, { maxKeys: 4 })
    }
    default:
      return texts
  }
}

/** A valid record of `step`: what checks beyond the shape refuse is left out, field by field. */
export function anyRecord<S extends StepId>(step: S): fc.Arbitrary<StepData[S]> {
  const schema = records[step].schema as z.ZodType
  const shape = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as Shape
  return anyOf(shape).map((made) => {
    const fields = { ...(made as Record<string, unknown>) }
    for (;;) {
      const read = schema.safeParse(fields)
      if (read.success) return read.data as StepData[S]
      for (const issue of read.error.issues) delete fields[String(issue.path[0])]
    }
  })
}
