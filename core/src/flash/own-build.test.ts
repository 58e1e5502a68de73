import fc from 'fast-check'
import { buildFindings, droppedBy, OwnBuild, readBuild, sameMaking } from './own-build'

const build = (more: Partial<OwnBuild> = {}): OwnBuild =>
  OwnBuild.parse({ by: 'own', source: 'lantern/curtain', state: 'a1', ...more })
const file = (more: Partial<OwnBuild> = {}, sha256 = 'one') => ({ name: 'curtain.bin', sha256, build: build(more) })
const codes = (...given: Parameters<typeof buildFindings>) =>
  buildFindings(...given).map((f) => `${f.severity} ${f.code}`)
const topic = { name: 'BASE', names: 'topic' as const }

test('a build for one unit is an error at every other, and none at its own', () => {
  expect(codes(file({ forUnit: 7, constants: [topic] }), 8, null)).toEqual(['error build-for-other'])
  expect(codes(file({ forUnit: 7, constants: [topic] }), 7, null)).toEqual([])
})

test('one topic, host or number for all is an error; other constants are not', () => {
  for (const names of ['topic', 'host', 'number'] as const)
    expect(codes(file({ constants: [{ name: 'X', names }] }), 8, null)).toEqual(['error build-names-one'])
  expect(codes(file({ constants: [{ name: 'COLOUR', names: 'else' }] }), 8, null)).toEqual([])
})

test('the same making with another hash is said; another state, option or library is another making', () => {
  const other = file({ options: ['meter', 'Curtain'] }, 'two')
  expect(codes(file({ options: ['curtain', 'meter'] }), 8, null, [other])).toEqual(['watch same-making-other-hash'])
  expect(codes(file({ options: ['curtain', 'meter'] }, 'two'), 8, null, [other])).toEqual([])
  expect(sameMaking(build(), build({ state: 'a2' }))).toBe(false)
  expect(sameMaking(build(), build({ libraries: ['servo 1.2'] }))).toBe(false)
  // Nobody said from what: nothing can be held against it.
  expect(sameMaking(build({ source: '' }), build({ source: '' }))).toBe(false)
})

test('what a plain update would drop, by name and whatever the case', () => {
  expect(droppedBy(['Curtain', 'meter'], ['METER', 'web'])).toEqual(['Curtain'])
  expect(codes(file({ options: ['meter'] }), 8, ['curtain', 'meter'])).toEqual(['watch update-drops'])
  expect(codes(file({ options: ['meter'] }), 8, null)).toEqual([])
})

test('a file that nobody described says nothing', () => {
  expect(codes({ name: 'x', sha256: 'x' }, 8, ['curtain'])).toEqual([])
  expect(codes({ name: 'x', sha256: 'x', build: null }, 8, ['curtain'])).toEqual([])
})

test('stored builds that cannot be read are none; read ones come back as they were', () => {
  for (const bad of [null, undefined, 3, { by: 'nobody' }, { options: [''] }, { forUnit: 0 }])
    expect(readBuild(bad)).toBeNull()
  expect(readBuild({})).toEqual(OwnBuild.parse({}))
  expect(readBuild(build())).toEqual(build())
})

test('nothing is dropped by a build that names as much, and dropping is never more than what runs', () => {
  const options = fc.array(fc.constantFrom('curtain', 'meter', 'web', 'Servo', 'clock'))
  fc.assert(
    fc.property(options, options, (running, more) => {
      expect(droppedBy(running, [...running, ...more])).toEqual([])
      for (const dropped of droppedBy(running, more)) expect(running).toContain(dropped)
    }),
  )
})
