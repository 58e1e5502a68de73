import fc from 'fast-check'
import { fillLine, fillLines, placeholders } from './own-line'

describe('a line of one’s own', () => {
  test('is filled in with what is being written', () => {
    expect(fillLine('mytool {port} put {offset} {file}', { port: '/dev/tty1', offset: '0x0', file: 'a.bin' })).toEqual({
      text: 'mytool /dev/tty1 put 0x0 a.bin',
      unknown: [],
      missing: [],
    })
  })
  test('names what nobody said, and what means nothing', () => {
    const filled = fillLine('t { Port } {adress} {file}', { file: 'a.bin' })
    expect(filled).toEqual({ text: 't { Port } {adress} a.bin', unknown: ['adress'], missing: ['port'] })
  })
  test('without braces stays as it is', () => {
    fc.assert(
      fc.property(fc.string(), (line) => {
        fc.pre(!line.includes('{'))
        expect(fillLine(line, {})).toEqual({ text: line, unknown: [], missing: [] })
      }),
    )
  })
  test('with everything said has nothing missing, whatever is said', () => {
    const line = placeholders.map((p) => `{${p}}`).join(' ')
    fc.assert(
      fc.property(fc.array(fc.string({ minLength: 1 }), { minLength: 6, maxLength: 6 }), (values) => {
        const said = Object.fromEntries(placeholders.map((p, i) => [p, values[i] as string]))
        expect(fillLine(line, said)).toEqual({ text: values.join(' '), unknown: [], missing: [] })
      }),
    )
  })
})

test('a line repeats for each file of a set, and what one of them lacks is named once', () => {
  const each = [
    { file: 'a.bin', offset: '0x0' },
    { file: 'b.bin', offset: '' },
    { file: 'c.bin', offset: '' },
  ]
  expect(fillLines('put {offset} {file} {speed}', each)).toEqual({
    text: 'put 0x0 a.bin {speed}\nput {offset} b.bin {speed}\nput {offset} c.bin {speed}',
    unknown: ['speed'],
    missing: ['offset'],
  })
  expect(fillLines('put', [])).toEqual({ text: '', unknown: [], missing: [] })
})
