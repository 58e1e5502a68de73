import { anyOf, type Shape } from '@fresh-coat/core/testing/any-record'
import fc from 'fast-check'
import { z } from 'zod'
import { type CommandName, commandNames, inputOf } from '../server/commands'
import { ask, command } from './server'
import { each, Tally } from './tally'

/** Bad bodies for every command: nearly right ones, bent ones, and ones that are no JSON at all. */

const odd = fc.constantFrom<unknown>(
  null,
  '',
  '\0',
  '\ud800',
  '‮x',
  'x'.repeat(100_000),
  -1,
  0,
  1e308,
  1.5,
  2 ** 53,
  true,
  [],
  {},
  [[[[[[]]]]]],
  Array.from({ length: 5000 }, (_, i) => i),
  Object.fromEntries(Array.from({ length: 3000 }, (_, i) => [`k${i}`, i])),
  { __proto__: 1, constructor: { prototype: 1 } },
  'NaN',
  '../../etc/passwd',
  "'; drop table unit; --",
  '<script>hit()</script>',
)
const deep = (levels: number): unknown => {
  let here: unknown = 'end'
  for (let i = 0; i < levels; i++) here = i % 2 ? [here] : { here }
  return here
}

type Body = Record<string, unknown>

/** A body that fits, bent in one to three places. */
function bent(name: CommandName, ids: readonly string[]): fc.Arbitrary<string> {
  const shape = z.toJSONSchema(inputOf(name), { io: 'input', unrepresentable: 'any' }) as Shape
  const fields = Object.keys(shape.properties ?? {})
  const fitting = anyOf(shape).map((made) => ({ ...(made as Body) }))
  const withIds = fc.tuple(fitting, fc.constantFrom(...ids), fc.boolean()).map(([body, id, real]) => {
    for (const field of fields) if (real && /Id$/.test(field)) body[field] = id
    return body
  })
  const blow = fc.tuple(
    fc.constantFrom(...(fields.length > 0 ? fields : ['x'])),
    fc.oneof(odd, fc.jsonValue({ maxDepth: 3 }), fc.integer({ min: 1, max: 400 }).map(deep)),
  )
  const bentBody = fc.tuple(withIds, fc.array(blow, { maxLength: 3 })).map(([body, blows]) => {
    const out = { ...body }
    for (const [field, value] of blows) out[field] = value
    return JSON.stringify(out)
  })
  const broken = fc.oneof(
    fc.constantFrom(
      '',
      '{',
      'null',
      '[]',
      '"x"',
      '{"a":',
      '\xff\xfe',
      '0',
      'true',
      '{"a":1}{"b":2}',
      `"${'y'.repeat(300_000)}"`,
    ),
    fc.tuple(bentBody, fc.nat(40)).map(([text, n]) => text.slice(0, -n)),
  )
  return fc.oneof({ weight: 6, arbitrary: bentBody }, { weight: 1, arbitrary: broken })
}

function wrongAnswer(status: number, text: string): string | null {
  if (status === 0) return `no answer: ${text}`
  if (status >= 500) return `status ${status}: ${text.slice(0, 160)}`
  try {
    const answer = JSON.parse(text) as { ok?: unknown; error?: { message?: unknown } }
    if (answer.ok === true) return null
    if (answer.ok === false && typeof answer.error?.message === 'string' && answer.error.message !== '') return null
    return `an answer without a sentence: ${text.slice(0, 120)}`
  } catch {
    return `no JSON: ${text.slice(0, 120)}`
  }
}

export async function badBodies(count: number): Promise<Tally> {
  const tally = new Tally('bad bodies of commands', 2000)
  const made = await command('create-unit', { number: 9001, name: 'Under attack' })
  const ids = [made.value.id as string, '00000000-0000-4000-8000-000000000000', 'nonsense']
  const each1 = Math.ceil(count / commandNames.length)
  for (const name of commandNames) {
    const bodies = fc.sample(bent(name, ids), { numRuns: each1, seed: 20261127 })
    await each(bodies, 6, async (body) => {
      const { status, text, ms } = await ask(`/api/commands/${name}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
      })
      tally.note(`${name} ${body.slice(0, 120)}`, ms, wrongAnswer(status, text))
    })
  }
  return tally
}

const oddParts = [
  '',
  '%',
  '%00',
  '%E0%A4%A',
  '..',
  '%2e%2e%2f',
  '-1',
  '0',
  '1.5',
  '99999999999999',
  'NaN',
  "'",
  '<b>',
  'a'.repeat(3000),
  '%F0%9F%92%A1',
  '00000000-0000-4000-8000-000000000000',
  '1',
  '7',
  'open',
  '\\',
  ';',
  '[id]',
  '__proto__',
]

export async function badAddresses(): Promise<Tally> {
  const tally = new Tally('bad addresses and queries', 2000)
  const paths: string[] = []
  for (const a of oddParts) {
    for (const where of ['/units/', '/boards/', '/images/', '/api/files/', '/api/commands/', '/api/compare/', '/'])
      paths.push(where + a)
    for (const b of oddParts) paths.push(`/units/${a}/${b}`, `/api/files/${a}/bytes?from=${b}`, `/api/units/${a}/${b}`)
    for (const query of ['q', 'after', 'place', 'coat', 'board', 'a', 'b', 'firmware', 'unit'])
      for (const page of [
        '/units',
        '/api/find',
        '/images/compare',
        '/images/firmware',
        '/network',
        '/api/export/manifest',
      ])
        paths.push(`${page}?${query}=${a}&${query}=${a}`)
  }
  await each(paths, 6, async (path) => {
    const { status, text, ms } = await ask(path)
    tally.note(path.slice(0, 100), ms, status === 0 || status >= 500 ? `status ${status}: ${text.slice(0, 100)}` : null)
  })
  return tally
}
