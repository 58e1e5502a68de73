import fc from 'fast-check'
import { isWhole, readSum, sumKinds, workSum, writeSum } from './sums'

const answer = (text: string): string => {
  const read = readSum(text)
  if (!read) return 'no sum'
  const result = workSum(read)
  return typeof result === 'string' ? result : result.answer
}

describe('a line of text is a sum', () => {
  test('the worked examples of the brief come out as they are printed there', () => {
    expect(answer('3.3 led 2.0 4 ma')).toBe('330 Ω, 3.94 mA')
    expect(answer('cable 12 v 2 a 5 m 0.75 mm2')).toBe('0.503 V lost, 4.19 %; fuse from 2.5 A')
    expect(answer('battery 2500 mah 20 ua 80 ma 4 s')).toBe('137 days')
    expect(answer('reports 30 units 10 s')).toBe('180 messages a minute')
    expect(answer('regulator 5 3.3 96 ma 363 ma')).toMatch(/^54\.7 °C, 296 mA/)
  })
  test.each(sumKinds.map((k) => [k.id, k] as const))('%s: its own example is read as it, whole', (_, kind) => {
    const read = readSum(kind.example)
    expect(read?.kind.id).toBe(kind.id)
    expect(read?.missing).toEqual([])
    expect(typeof (read && workSum(read))).toBe('object')
  })
  test('units may be written on the number or after it, and in any order', () => {
    const one = answer('led 3.3v 2v 4ma')
    expect(answer('4 mA LED 3,3 V 2 V')).toBe(one)
    expect(answer('led 3.3 2 0.004 a')).toBe(one)
    expect(answer('discharge 470 kohm 10 µF')).toBe(answer('discharge 10 uf 470000 ohm'))
    // A capacitor is never called empty by a unit that nobody knows.
    expect(answer('discharge 470 gizmo 10 uf')).toBe('No unit that is known here: gizmo.')
  })
  test('what is missing is asked for by its name, and a word alone is no sum', () => {
    expect(answer('led 3.3')).toBe('Still to say: the led drops, current.')
    expect(answer('led')).toBe('no sum')
    expect(answer('Foyer lamp 5')).toBe('no sum')
    expect(answer('192.168.71.12')).toBe('no sum')
  })
  test('what makes no sense is said, not worked out', () => {
    expect(answer('divider 3.3 5')).toMatch(/must be lower/)
    expect(answer('led 230 2 4 ma')).toMatch(/Above 60 V/)
    expect(answer('led 2 3 4 ma')).not.toMatch(/Ω,/)
    expect(answer('discharge 0 uf 470k')).toMatch(/above 0/)
  })
})

test('what is filled in out of order keeps its place: a question mark holds those before it open', () => {
  const kind = readSum('led 5')?.kind
  if (!kind) throw new Error('no sum')
  const line = writeSum({ kind, values: { vf: 2 } })
  expect(line).toBe('led ? 2 ?')
  const read = readSum(line)
  expect([read?.values, read?.missing.map((f) => f.id), read && isWhole(read)]).toEqual([
    { vf: 2 },
    ['supplyV', 'mA'],
    false,
  ])
})

test('a sum that is written down reads back as the same', () =>
  fc.assert(
    fc.property(
      fc.constantFrom(...sumKinds),
      fc.array(fc.integer({ min: 1, max: 9999 }), { minLength: 8, maxLength: 8 }),
      fc.array(fc.boolean(), { minLength: 8, maxLength: 8 }),
      (kind, numbers, said) => {
        const all = Object.fromEntries(kind.fields.map((f, i) => [f.id, (numbers[i] as number) / 8]))
        const whole = readSum(writeSum({ kind, values: all }))
        expect([whole?.kind.id, whole?.values, whole?.missing]).toEqual([kind.id, all, []])
        // Whichever are said, each stands where it was said; the others are the usual or missing.
        const some = Object.fromEntries(kind.fields.flatMap((f, i) => (said[i] ? [[f.id, all[f.id] as number]] : [])))
        const read = readSum(writeSum({ kind, values: some }))
        for (const f of kind.fields) expect(read?.values[f.id]).toBe(some[f.id] ?? f.usual)
      },
    ),
  ))

test('no text of any kind throws', () =>
  fc.assert(
    fc.property(fc.string({ maxLength: 120 }), fc.constantFrom(...sumKinds), (text, kind) => {
      const read = readSum(`${kind.words[0]} ${text} 5`)
      if (read) workSum(read)
    }),
  ))
