import fc from 'fast-check'
import { computed, refusalOf } from '../testing/like'
import { nameFindings } from './findings'
import { planTopics } from './plan'
import { isSlug, slugOf } from './slug'
import { alignmentDistance, apartAtLeast, heard, heardClashes, soundex, spokenClashes } from './spoken'

const yard = {
  base: 'yard',
  site: 'lantern',
  maxSlug: 24,
  units: [
    { id: 'LY-07', number: 7, name: 'Glue pot', room: 'workshop', meter: true },
    { id: 'LY-08', number: 8, name: 'Glue Pot!', room: 'workshop' },
    { id: 'LY-21', number: 21, name: 'Footlights left', channels: [{ name: 'Warm' }, { name: 'Cool' }] },
    { id: 'LY-22', number: 22, name: 'Footlight left' },
    { id: 'LY-30', number: 30, name: '大道具' },
  ],
  groups: [{ name: 'All glue pots', units: ['LY-07', 'LY-08'] }],
}
const slugs = (units: object[]) =>
  computed(
    planTopics({ base: 'a', site: 'b', units: units.map((u, i) => ({ id: `u${i}`, number: i + 1, ...u })) }),
  ).units.map((u) => u.slug)

describe('the worked plan', () => {
  const plan = computed(planTopics(yard))
  test('slugs and channels', () => {
    expect(plan.units.map((u) => u.slug)).toEqual([
      'glue-pot-7',
      'glue-pot-8',
      'footlights-left',
      'footlight-left',
      'unit-30',
    ])
    expect(plan.units[2]?.channels).toEqual(['warm', 'cool'])
  })
  test('collisions and warnings', () => {
    expect(plan.collisions).toEqual([{ slug: 'glue-pot', units: ['LY-07', 'LY-08'] }])
    expect(plan.warnings).toEqual([
      { code: 'same-name', units: ['LY-07', 'LY-08'] },
      { code: 'look-alike', units: ['LY-21', 'LY-22'] },
      { code: 'sound-alike', units: ['LY-21', 'LY-22'] },
    ])
    expect(plan.findings.map((f) => f.code)).toEqual(['collision', 'same-name', 'look-alike', 'sound-alike'])
  })
  test('topics of a metering plug, and its last will', () => {
    expect(plan.units[0]?.topics).toHaveLength(7)
    expect(plan.units[0]?.topics[4]).toEqual({
      topic: 'yard/lantern/glue-pot-7/1/state',
      leaf: 'state',
      channel: '1',
      dir: 'out',
      retain: true,
      qos: 1,
    })
    expect(plan.units[0]?.lastWill).toEqual({
      topic: 'yard/lantern/glue-pot-7/online',
      payload: '0',
      retain: true,
      qos: 1,
    })
    expect(plan.groups[0]?.topic).toBe('yard/lantern/groups/all-glue-pots/set')
  })
})

describe('names are made unique by plan', () => {
  test('a number that would take somebody’s own name goes on', () =>
    expect(slugs([{ name: 'lamp' }, { name: 'lamp' }, { name: 'lamp-1' }])).toEqual(['lamp-1-2', 'lamp-2', 'lamp-1']))
  test('a pinned name stays, the other is numbered', () =>
    expect(slugs([{ name: 'Lamp', pinned: 'lamp' }, { name: 'Lamp' }])).toEqual(['lamp', 'lamp-2']))
  test('reserved names are numbered', () =>
    expect(slugs([{ name: 'Hub' }, { name: 'groups' }])).toEqual(['hub-1', 'groups-2']))
  test('a channel never hides a leaf', () =>
    expect(
      computed(
        planTopics({
          ...yard,
          groups: [],
          units: [{ id: 'x', number: 1, name: 'x', channels: [{ name: 'Power' }, { name: 'a' }, { name: 'A' }, {}] }],
        }),
      ).units[0]?.channels,
    ).toEqual(['ch-power', 'a', 'a-3', '4']))
  test('three numbered heaters are a set, not a confusion', () => {
    const plan = computed(
      planTopics({
        ...yard,
        groups: [{ name: 'Heater 1', units: [] }],
        units: [1, 2, 3].map((n) => ({ id: `h${n}`, number: n, name: `Heater ${n}` })),
      }),
    )
    expect(plan.warnings).toEqual([{ code: 'group-name', units: ['h1'], group: 'Heater 1' }])
    expect(plan.findings.map((f) => `${f.code} ${f.severity}`)).toEqual(['group-name watch', 'numbered-set ok'])
  })
  test('no two units share a topic, whatever their names', () => {
    const name = fc.oneof(
      fc.constantFrom('lamp', 'Lamp', 'lamp-1', 'lamp 2', 'hub', '', '🎭', '#/+', 'a'.repeat(40)),
      fc.string({ maxLength: 12 }),
    )
    fc.assert(
      fc.property(fc.array(name, { maxLength: 12 }), (names) => {
        const all = slugs(names.map((n) => ({ name: n })))
        expect(new Set(all).size).toBe(all.length)
        for (const slug of all) expect(isSlug(slug, 24)).toBe(true)
      }),
    )
  })
})

test('letters', () => {
  expect(['Bühne Süd', 'Straße', 'ŁÓDŹ', '  --x--  ', 'Æther/+#'].map((s) => slugOf(s))).toEqual([
    'buhne-sud',
    'strasse',
    'lodz',
    'x',
    'aether',
  ])
  expect(slugOf('a-very-long-name-of-a-thing', 12)).toBe('a-very-long')
})
/** Names of few letters, in which much is nearly alike, and of any. */
const aName = fc.oneof(
  fc.string({ unit: fc.constantFrom('a', 'b', 'c', ' ', '1'), minLength: 1, maxLength: 14 }),
  fc.string({ unit: 'grapheme', minLength: 1, maxLength: 14 }),
)

test('letters that only one of two names has are never more than the steps between them', () => {
  expect(apartAtLeast(heard('glue pot'), heard('glue top'))).toBe(0)
  expect(apartAtLeast(heard('lamp a'), heard('lamp bb'))).toBe(2)
  fc.assert(
    fc.property(aName, aName, (a, b) => {
      const least = apartAtLeast(heard(a), heard(b))
      expect(least).toBeLessThanOrEqual(alignmentDistance(a, b))
      expect(least).toBe(apartAtLeast(heard(b), heard(a)))
    }),
  )
})

test('who looks alike is what the whole distance says', () => {
  fc.assert(
    fc.property(aName, aName, (a, b) => {
      const [x, y] = [heard(a), heard(b)]
      const alike = a !== b && x.stem !== y.stem && alignmentDistance(a, b) / Math.max(x.length, y.length) <= 0.25
      expect(heardClashes(x, y).includes('look-alike')).toBe(alike)
    }),
    { numRuns: 500 },
  )
})

test('distance and sound', () => {
  expect([alignmentDistance('ca', 'ac'), alignmentDistance('kitten', 'sitting')]).toEqual([1, 3])
  expect(['robert', 'rupert', 'ashcraft', 'tymczak', 'pfister', 'honeyman'].map(soundex)).toEqual([
    'R163',
    'R163',
    'A261',
    'T522',
    'P236',
    'H555',
  ])
  expect(spokenClashes('Heater', 'Heater left')).toEqual(['contained'])
})

test.each([
  [{ ...yard, maxSlug: 7 }, 'range', '/maxSlug'],
  [{ ...yard, base: 'A b' }, 'input', '/base'],
  [{ ...yard, units: [{ id: 'a', number: 1, name: 'x', pinned: 'hub' }], groups: [] }, 'conflict', '/units/0/pinned'],
  [{ ...yard, units: [{ id: 'a', number: 1, name: 'x', pinned: 'No' }], groups: [] }, 'input', '/units/0/pinned'],
  [
    {
      ...yard,
      units: [
        { id: 'a', number: 1, name: 'x' },
        { id: 'b', number: 1, name: 'y' },
      ],
      groups: [],
    },
    'conflict',
    '/units/1/number',
  ],
  [{ ...yard, groups: [{ name: 'g', units: ['nobody'] }] }, 'input', '/groups/0/units/0'],
  [
    {
      ...yard,
      groups: [
        { name: 'g', units: [] },
        { name: 'G', units: [] },
      ],
    },
    'conflict',
    '/groups/1/name',
  ],
  [{ ...yard, units: [{ id: 'a', number: 1 }] }, 'input', '/units/0/name'],
])('bad input %#', (input, code, path) => {
  expect(refusalOf(planTopics(input))).toEqual([code, path])
})

test('names that were compared one by one are told with the numbers on their cases', () => {
  const told = nameFindings(
    [{ slug: 'glue-pot', numbers: [7, 12] }],
    [{ code: 'look-alike', a: { number: 1, name: 'Lamp l' }, b: { number: 2, name: 'Lamp I' } }],
  )
  expect(told.map((f) => [f.code, f.severity, f.message, f.because])).toEqual([
    ['collision', 'watch', '2 units would be called glue-pot.', 'Units 07, 12 share the name.'],
    ['look-alike', 'watch', '“Lamp l” (01) and “Lamp I” (02) look alike.', ''],
  ])
})
