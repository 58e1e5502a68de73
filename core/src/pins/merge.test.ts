import fc from 'fast-check'
import { diffTemplates } from './diff'
import { mergeChoices, mergeTemplates } from './merge'
import { confidenceOf, type PinTemplate, type TemplatePin } from './template'

const template = (pins: TemplatePin[]): PinTemplate => ({
  format: 'fresh-coat/pin-template',
  version: 1,
  board: 'Pellworth P1',
  family: 'LX106',
  pins,
})
const seen = { evidence: [{ unit: '7', sitting: 's1', agrees: true }] }
const names = ['GPIO0', 'GPIO2', 'GPIO4', 'GPIO5', 'GPIO12', 'GPIO13', 'GPIO14']
const anyTemplate = fc
  .uniqueArray(
    fc.record({
      pin: fc.constantFrom(...names),
      fn: fc.constantFrom('relay' as const, 'led' as const, 'button' as const, 'dim' as const),
      ch: fc.integer({ min: 1, max: 2 }),
      active: fc.constantFrom('high' as const, 'low' as const),
    }),
    { selector: (p) => p.pin, maxLength: 7 },
  )
  .map(template)

test('with everything taken nothing differs; with nothing taken nothing changed', () =>
  fc.assert(
    fc.property(anyTemplate, anyTemplate, (ours, theirs) => {
      const choices = mergeChoices(ours, theirs)
      expect(choices.length === 0).toBe(diffTemplates(ours, theirs).same)
      expect(diffTemplates(mergeTemplates(ours, theirs, choices).template, theirs).same).toBe(true)
      const left = mergeTemplates(ours, theirs, [])
      expect([...left.template.pins].sort((a, b) => (a.pin < b.pin ? -1 : 1))).toEqual(
        [...ours.pins].sort((a, b) => (a.pin < b.pin ? -1 : 1)),
      )
    }),
  ))

test('whatever is taken, a pin holds one function, and what gave way is told', () =>
  fc.assert(
    fc.property(
      anyTemplate,
      anyTemplate,
      fc.array(fc.boolean(), { minLength: 14, maxLength: 14 }),
      (ours, theirs, which) => {
        const taken = mergeChoices(ours, theirs).filter((_, i) => which[i])
        const { template: merged, displaced } = mergeTemplates(ours, theirs, taken)
        expect(new Set(merged.pins.map((p) => p.pin)).size).toBe(merged.pins.length)
        for (const p of ours.pins) {
          const stays = merged.pins.some((m) => m.fn === p.fn && m.ch === p.ch)
          const wasTaken = taken.some((c) => c.ours === p.pin)
          expect(stays || wasTaken || displaced.includes(p)).toBe(true)
        }
        for (const c of taken)
          if (c.theirs) expect(merged.pins.some((m) => m.pin === c.theirs && m.fn === c.fn)).toBe(true)
      },
    ),
  ))

test('what was taken is assumed, whatever was seen on the other board; what was left keeps what was seen here', () => {
  const ours = template([
    { pin: 'GPIO12', fn: 'relay', ch: 1, ...seen },
    { pin: 'GPIO13', fn: 'led', active: 'low', ...seen },
  ])
  const theirs = template([
    { pin: 'GPIO14', fn: 'relay', ch: 1, ...seen },
    { pin: 'GPIO13', fn: 'led', active: 'low', ...seen },
  ])
  const [moved, ...more] = mergeChoices(ours, theirs)
  expect([moved?.kind, moved?.ours, moved?.theirs, more]).toEqual(['moved', 'GPIO12', 'GPIO14', []])
  const { template: merged } = mergeTemplates(ours, theirs, moved ? [moved] : [])
  expect(merged.pins.map((p) => [p.pin, p.fn, confidenceOf(p.evidence)])).toEqual([
    ['GPIO13', 'led', 'seen'],
    ['GPIO14', 'relay', 'assumed'],
  ])
})

test('two functions that changed places: one taken alone makes the other give way, both taken change places', () => {
  const ours = template([
    { pin: 'GPIO4', fn: 'relay', ch: 1 },
    { pin: 'GPIO5', fn: 'relay', ch: 2 },
  ])
  const theirs = template([
    { pin: 'GPIO4', fn: 'relay', ch: 2 },
    { pin: 'GPIO5', fn: 'relay', ch: 1 },
  ])
  const choices = mergeChoices(ours, theirs)
  expect(choices.map((c) => c.kind)).toEqual(['moved', 'moved'])
  const one = mergeTemplates(ours, theirs, choices.slice(0, 1))
  expect([one.template.pins.length, one.displaced.map((p) => p.ch)]).toEqual([1, [2]])
  expect(mergeTemplates(ours, theirs, choices).displaced).toEqual([])
})
