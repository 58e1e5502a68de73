import fc from 'fast-check'
import { factsOf, knownFamilies } from '../families/families'
import { computed, refusalOf } from '../testing/like'
import { checkPins } from './check'
import { confidenceOf, pinFunctions } from './template'
import { naturalOrder } from './words'

const template = (pins: object[], more: object = {}) => ({
  template: { format: 'fresh-coat/pin-template', version: 1, board: 'x', family: 'LX106', pins, ...more },
})
const codes = (pins: object[], more: object = {}) =>
  computed(checkPins(template(pins, more))).findings.map((f) => `${f.code} ${f.severity} ${f.at}`)
const button = { pin: 'GPIO4', fn: 'button', ch: 0, pull: 'up' }

describe('worked examples', () => {
  test('nine findings on one foot switch', () => {
    const result = computed(
      checkPins({
        template: {
          format: 'fresh-coat/pin-template',
          version: 1,
          board: 'quoinsby-foot-2',
          family: 'LX106',
          pins: [
            { pin: 'GPIO0', fn: 'button', ch: 1, pull: 'up' },
            { pin: 'GPIO12', fn: 'relay', ch: 1 },
            { pin: 'GPIO15', fn: 'relay', ch: 2, active: 'low' },
            { pin: 'GPIO16', fn: 'switch', ch: 3, pull: 'up' },
            {
              pin: 'GPIO2',
              fn: 'led',
              ch: 0,
              active: 'low',
              confidence: 'confirmed',
              evidence: [{ unit: '7', sitting: 's1', agrees: true }],
            },
            { pin: 'GPIO9', fn: 'buzzer' },
            { pin: 'ADC0', fn: 'analog', maxV: 3.3 },
          ],
        },
      }),
    )
    expect(result.verdict).toBe('error')
    expect(result.counts).toEqual({ error: 4, watch: 3, ok: 2 })
    expect(result.findings.map((f) => `${f.code} ${f.severity} ${f.at}`)).toEqual([
      'T02 error GPIO9',
      'T08 ok GPIO0',
      'T09 error GPIO15',
      'T11 ok GPIO12',
      'T11 watch GPIO15',
      'T12 error GPIO16',
      'T18 watch GPIO16',
      'T26 error ADC0',
      'T27 watch GPIO2',
    ])
  })
  test('a curtain drive without a fault', () => {
    const result = computed(
      checkPins({
        template: {
          format: 'fresh-coat/pin-template',
          version: 1,
          board: 'pellworth-curtain',
          family: 'ARM968-B',
          pins: [
            { pin: 'P24', fn: 'relay', ch: 1 },
            { pin: 'P26', fn: 'relay', ch: 2 },
            { pin: 'P7', fn: 'button', ch: 1, pull: 'up' },
            { pin: 'P8', fn: 'button', ch: 2, pull: 'up' },
          ],
          motors: [{ open: 1, close: 2, interlock: true, deadMs: 500 }],
        },
      }),
    )
    expect(result).toEqual({ verdict: 'ok', counts: { error: 0, watch: 0, ok: 0 }, findings: [] })
  })
})

describe('one rule at a time', () => {
  test.each<[string, object[], object, string[]]>([
    ['T01', [button, { pin: 'GPIO77', fn: 'led' }], {}, ['T01 error GPIO77']],
    ['T02 unless two data lines', [button, { pin: 'GPIO10', fn: 'led', active: 'low' }], { flashLines: 2 }, []],
    [
      'T03',
      [
        { pin: 'GPIO34', fn: 'relay', ch: 1 },
        { pin: 'GPIO32', fn: 'button', pull: 'up' },
      ],
      { family: 'LX6' },
      ['T03 error GPIO34'],
    ],
    ['T04', [button, { pin: 'ADC0', fn: 'led' }], {}, ['T04 error ADC0']],
    ['T05', [button, { pin: 'GPIO3', fn: 'led', active: 'low' }], {}, ['T05 watch GPIO3']],
    ['T06 and T20', [button, { pin: 'GPIO3', fn: 'meter-rx' }], {}, ['T06 ok GPIO3', 'T20 ok template']],
    ['T07', [button, { pin: 'GPIO2', fn: 'switch', pull: 'up' }], {}, ['T07 error GPIO2']],
    ['T09 on a low strap', [button, { pin: 'GPIO15', fn: 'i2c-sda' }], {}, ['T09 error GPIO15']],
    [
      'T11 latch',
      [button, { pin: 'GPIO3', fn: 'latch-set', ch: 1 }, { pin: 'GPIO5', fn: 'latch-reset', ch: 1 }],
      {},
      ['T05 watch GPIO3', 'T11 error GPIO3'],
    ],
    ['T13', [{ pin: 'GPIO4', fn: 'button' }], {}, ['T13 watch GPIO4']],
    ['T14', [{ pin: 'GPIO4', fn: 'button', active: 'high', pull: 'up' }], {}, ['T14 error GPIO4']],
    ['T15', [button, { pin: 'GPIO16', fn: 'dim', ch: 1, active: 'low' }], {}, ['T15 error GPIO16']],
    ['T16', [button, { pin: 'GPIO5', fn: 'led' }, { pin: 'GPIO5', fn: 'led' }], {}, ['T16 error GPIO5']],
    [
      'T17',
      [button, { pin: 'GPIO5', fn: 'relay', ch: 1 }, { pin: 'GPIO12', fn: 'relay', ch: 1, active: 'low' }],
      {},
      ['T17 error GPIO12'],
    ],
    ['T19', [button, { pin: 'GPIO5', fn: 'pulse-power' }], {}, ['T19 watch template']],
    ['T19 without pulse-power', [button, { pin: 'GPIO5', fn: 'pulse-volt-amp' }], {}, ['T19 error template']],
    ['T21', [button, { pin: 'GPIO5', fn: 'latch-set', ch: 2 }], {}, ['T21 error ch2']],
    [
      'T22, T23, T24',
      [button, { pin: 'GPIO5', fn: 'relay', ch: 1 }],
      { motors: [{ open: 1, close: 2 }] },
      ['T22 error ch1', 'T23 watch ch1', 'T24 error ch2'],
    ],
    ['T25', [button, { pin: 'GPIO5', fn: 'relay', ch: 1, start: 'on' }], {}, ['T25 watch GPIO5']],
    ['T28', [{ pin: 'GPIO5', fn: 'relay', ch: 1 }], {}, ['T28 ok template']],
    ['T29', [{ pin: 'GPIO4', fn: 'switch', pull: 'up' }], {}, ['T29 watch template']],
    ['T30', [button, { pin: 'GPIO2', fn: 'led' }], {}, ['T11 ok GPIO2', 'T30 watch GPIO2']],
    [
      'idle pins get only T01 and T16',
      [button, { pin: 'GPIO6', fn: 'forbidden' }, { pin: 'GPIO6', fn: 'unused' }, { pin: 'GPIO99', fn: 'spare' }],
      {},
      ['T01 error GPIO99', 'T16 error GPIO6'],
    ],
  ])('%s', (_, pins, more, expected) => expect(codes(pins, more)).toEqual(expected))
})

test('confidence counts distinct sittings, and one contradiction undoes it', () => {
  const seen = (sitting: string, agrees = true) => ({ unit: '7', sitting, agrees })
  expect([
    confidenceOf([]),
    confidenceOf([seen('a'), seen('a')]),
    confidenceOf([seen('a'), seen('b')]),
    confidenceOf([seen('a'), seen('b'), seen('c', false)]),
  ]).toEqual(['assumed', 'seen', 'confirmed', 'assumed'])
})

test('natural order', () =>
  expect(['GPIO12', 'GPIO2', 'ADC0', 'template', 'ch1'].sort(naturalOrder)).toEqual([
    'ADC0',
    'GPIO2',
    'GPIO12',
    'ch1',
    'template',
  ]))

test('any template on any family gets an answer, whatever the order of its pins', () => {
  const anyFamily = fc.constantFrom(...knownFamilies).chain((family) =>
    fc.record({
      family: fc.constant(family),
      pins: fc.uniqueArray(
        fc.record({
          pin: fc.constantFrom(...Object.keys(factsOf(family).pins)),
          fn: fc.constantFrom(...pinFunctions),
          ch: fc.nat(3),
        }),
        { selector: (p) => p.pin, maxLength: 12 },
      ),
    }),
  )
  fc.assert(
    fc.property(anyFamily, ({ family, pins }) => {
      const forward = codes(pins, { family })
      // The repeat of a channel is reported at the later pin, so only which rules fire is independent of the order.
      const rules = (list: string[]) => list.map((c) => c.split(' ')[0]).sort()
      expect(rules(codes([...pins].reverse(), { family }))).toEqual(rules(forward))
    }),
  )
})

test.each([
  [
    {
      template: {
        format: 'fresh-coat/pin-template',
        version: 1,
        board: 'x',
        family: 'LX6',
        pins: [{ pin: 'GPIO4', fn: 'lamp' }],
      },
    },
    'fn',
    '/template/pins/0/fn',
  ],
  [template([], { format: 'other' }), 'format', '/template/format'],
  [template([], { version: 2 }), 'version', '/template/version'],
  [template([], { family: 'LX9' }), 'family', '/template/family'],
  [template([{ fn: 'led' }]), 'shape', '/template/pins/0/pin'],
  [template([], { colour: 'red' }), 'shape', '/template/colour'],
  [{}, 'shape', '/template'],
])('bad input %#', (input, code, path) => {
  expect(refusalOf(checkPins(input))).toEqual([code, path])
})
