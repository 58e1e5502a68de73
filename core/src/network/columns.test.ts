import fc from 'fast-check'
import { cellsOf, guessColumns, withColumns } from './columns'
import { matchNetwork } from './match'

const list = [
  'Gerät|Netz|Hardware|Seit',
  'Lampe Foyer|192.168.71.44|b8:3c:d0:77:1e:9a|12h',
  'Kasse, alt|192.168.71.131|78:2e:41:0b:5d:12|3d',
].join('\n')

describe('a list whose columns a person names', () => {
  test('is cut at what cuts its lines alike', () => {
    expect(cellsOf(list)[1]).toEqual(['Lampe Foyer', '192.168.71.44', 'b8:3c:d0:77:1e:9a', '12h'])
    expect(cellsOf('a  b  c\nd  e  f')).toEqual([
      ['a', 'b', 'c'],
      ['d', 'e', 'f'],
    ])
    expect(cellsOf('"a, with a comma";b')[0]).toEqual(['a, with a comma', 'b'])
    expect(cellsOf('')).toEqual([])
  })
  test('what looks like a MAC and an address is guessed, a name never', () => {
    expect(guessColumns(cellsOf(list))).toEqual({ mac: 2, address: 1, name: null })
    expect(guessColumns([['x', 'y']])).toEqual({ mac: null, address: null, name: null })
  })
  test('is then read by the match as if it had said so itself', () => {
    const text = withColumns(list, { mac: 2, address: 1, name: 0 })
    const found = matchNetwork({
      tables: [{ text, phase: 'after' }],
      units: [{ id: 'LY-07', apMac: 'ba:3c:d0:77:1e:9a', family: 'LX106' }],
    })
    expect(found.ok && found.value.entries.map((e) => [e.mac, e.ip, e.hostname])).toEqual([
      ['b8:3c:d0:77:1e:9a', '192.168.71.44', 'Lampe Foyer'],
      ['78:2e:41:0b:5d:12', '192.168.71.131', 'Kasse, alt'],
    ])
    expect(found.ok && found.value.matches[0]?.verdict).toBe('sure')
  })
  test('rows with neither are left out, whatever stands in them, and nothing throws', () => {
    fc.assert(
      fc.property(fc.string(), fc.nat(5), fc.nat(5), (text, mac, address) => {
        const out = withColumns(text, { mac, address, name: 0 })
        for (const line of out.split('\n').slice(1)) expect(line.split('\t')).toHaveLength(3)
      }),
    )
    expect(withColumns('nothing;here', { mac: 0, address: 1, name: null })).toBe('')
  })
})
