import { changedPin, confidenceOf, type TemplatePin } from './template'

const seen = (sitting: string, agrees = true) => ({ unit: '7', sitting, agrees })
const relay: TemplatePin = { pin: 'GPIO12', fn: 'relay', ch: 1, active: 'high', evidence: [seen('s1'), seen('s2')] }

describe('a pin with something said of it changed', () => {
  test.each([
    ['another function', { fn: 'led' }],
    ['another channel', { ch: 2 }],
    ['no channel', { ch: undefined }],
    ['the other level', { active: 'low' }],
  ] as [string, Partial<TemplatePin>][])('to %s was not seen doing that: it is assumed', (_, to) => {
    expect(confidenceOf(relay.evidence)).toBe('confirmed')
    const changed = changedPin(relay, to)
    expect(changed).toMatchObject({ pin: 'GPIO12', ...to })
    expect(confidenceOf(changed.evidence)).toBe('assumed')
    expect('evidence' in changed).toBe(false)
  })
  test('what was seen otherwise is of what it was said to be before: the right word begins anew', () => {
    const wrong = { ...relay, evidence: [seen('s1', false)] }
    expect(changedPin(wrong, { fn: 'led' }).evidence).toBeUndefined()
  })
  test.each([
    ['the same said again', { fn: 'relay', ch: 1 }],
    ['its level written out, which was its usual one', { active: 'high' }],
    ['a pull, a note, how it starts', { pull: 'up', note: 'red wire', start: 'off' }],
  ] as [string, Partial<TemplatePin>][])('%s leaves what was seen', (_, to) => {
    expect(changedPin(relay, to).evidence).toEqual(relay.evidence)
  })
  test('of a button, whose usual level is low, saying low changes nothing', () => {
    const button: TemplatePin = { pin: 'GPIO0', fn: 'button', ch: 1, evidence: [seen('s1')] }
    expect(changedPin(button, { active: 'low' }).evidence).toEqual(button.evidence)
    expect(changedPin(button, { active: 'high' }).evidence).toBeUndefined()
  })
  test('evidence that is given with it is what counts', () => {
    expect(changedPin(relay, { fn: 'led', evidence: [seen('s3')] }).evidence).toEqual([seen('s3')])
  })
})
