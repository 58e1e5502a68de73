import fc from 'fast-check'
import { computed, refusalOf } from '../testing/like'
import { findMac, macRelation, parseAddress, parseMac } from './mac'
import { matchNetwork } from './match'
import { looksLikeName, readTable } from './tables'

const near = (actual: number | undefined, expected: number, tolerance = 0.001) =>
  expect(Math.abs((actual as number) - expected)).toBeLessThanOrEqual(tolerance)

const threePastes = {
  tables: [
    {
      phase: 'before',
      text: '192.168.71.1 dev wlan0 lladdr 6c:10:aa:00:00:01 REACHABLE\n192.168.71.131 dev wlan0 lladdr 78:2e:41:0b:5d:12 STALE\n',
    },
    {
      phase: 'after',
      text: '1779220000 78:2e:41:0b:5d:12 192.168.71.131 box-office-till *\n1779223600 b8:3c:d0:77:1e:9a 192.168.71.144 plainsong-1e9a 01:b8:3c:d0:77:1e:9a\n1779223700 b8:3c:d0:77:1e:9b 192.168.71.145 * *\n',
    },
    {
      phase: 'after',
      text: '? (192.168.71.1) at 6c:10:aa:0:0:1 on en0 ifscope [ethernet]\n? (192.168.71.150) at (incomplete) on en0 ifscope [ethernet]\n',
    },
  ],
  units: [
    { id: 'LY-07', apMac: 'BA-3C-D0-77-1E-9A', family: 'LX106', nameSuffix: '1E9A' },
    { id: 'LY-12', apMac: 'b8:3c:d0:77:1e:9c', family: 'RV32', nameSuffix: null },
    { id: 'LY-13', apMac: null, family: 'CM3', nameSuffix: '77c2' },
  ],
}

describe('three pastes, three units', () => {
  const result = computed(matchNetwork(threePastes))
  test('formats, newcomers, skipped', () => {
    expect(result.formats).toEqual(['ip-neigh', 'dnsmasq-lease', 'arp-unix'])
    expect(result.newcomers).toEqual(['b8:3c:d0:77:1e:9a', 'b8:3c:d0:77:1e:9b'])
    expect(result.gone).toEqual([])
    expect(result.skipped).toEqual([{ table: 2, line: 2, reason: 'incomplete' }])
  })
  test('matches', () => {
    const [a, b, c] = result.matches
    expect([a?.verdict, b?.verdict, c?.verdict]).toEqual(['sure', 'sure', 'none'])
    expect(a?.candidates[0]).toMatchObject({
      ip: '192.168.71.144',
      relation: 'local-bit',
      reasons: ['local-bit', 'name-suffix', 'new'],
    })
    expect(b?.candidates[0]).toMatchObject({
      ip: '192.168.71.145',
      relation: 'minus-one',
      reasons: ['minus-one', 'new'],
    })
    near(b?.candidates[0]?.probability, 0.999812, 1e-6)
    near(c?.noneProbability, 0.956938, 1e-6)
  })
})

describe('a batch whose stations are one below their access points', () => {
  const line = (last: string, hex: string, state: string) =>
    `192.168.71.${last} dev br0 lladdr 44:b7:d0:31:0a:${hex} ${state}\n`
  const units = ['10', '11', '12'].map((hex, i) => ({
    id: `LY-5${i + 1}`,
    apMac: `44:b7:d0:31:0a:${hex}`,
    family: 'CM3',
    firmware: 'Skiff 2.3',
  }))
  const all = line('61', '0f', 'REACHABLE') + line('62', '10', 'REACHABLE') + line('63', '11', 'STALE')
  test('each finds its own, not its neighbour’s', () => {
    const result = computed(matchNetwork({ tables: [{ text: all }], units }))
    expect(result.matches.map((m) => [m.verdict, m.candidates[0]?.ip, m.candidates[0]?.relation])).toEqual([
      ['sure', '192.168.71.61', 'minus-one'],
      ['sure', '192.168.71.62', 'minus-one'],
      ['sure', '192.168.71.63', 'minus-one'],
    ])
    for (const [i, p] of [0.975621, 0.976398, 0.994288].entries())
      near(result.matches[i]?.candidates[0]?.probability, p, 1e-5)
    expect(result.conflicts).toEqual([])
    near(result.batches[0]?.relation['minus-one'], 0.972661, 1e-5)
    near(result.batches[0]?.relation.same, 0.00434076, 1e-6)
    near(result.batches[0]?.relation.mixed, 0.0229974, 1e-5)
  })
  test('without the first line nobody is sure', () => {
    const result = computed(matchNetwork({ tables: [{ text: all.split('\n').slice(1).join('\n') }], units }))
    expect(result.matches.map((m) => m.verdict)).toEqual(['unsure', 'unsure', 'unsure'])
    near(result.matches[0]?.candidates[0]?.probability, 0.790193, 1e-5)
    near(result.matches[2]?.candidates[0]?.probability, 0.822805, 1e-5)
    expect(result.conflicts).toEqual([{ mac: '44:b7:d0:31:0a:11', units: ['LY-52', 'LY-53'] }])
  })
  test('one alone takes its neighbour’s entry as its own', () => {
    const result = computed(matchNetwork({ tables: [{ text: all }], units: units.slice(0, 1) }))
    expect(result.matches[0]?.candidates[0]).toMatchObject({ ip: '192.168.71.62', relation: 'same' })
    near(result.matches[0]?.candidates[0]?.probability, 0.999465, 1e-6)
  })
})

describe('the same five devices in every format', () => {
  const devices = [1, 2, 3, 4, 5].map((n) => ({
    mac: `7c:0${n}:aa:bb:0c:1${n}`,
    ip: `192.168.71.2${n}`,
    name: `prop-${n}`,
  }))
  const short = (mac: string) => mac.replace(/(^|:)0/g, '$1')
  const nameless = (d: { mac: string; ip: string }) => ({ mac: d.mac, ip: d.ip, hostname: null })
  const named = (d: { mac: string; ip: string; name: string }) => ({ mac: d.mac, ip: d.ip, hostname: d.name })
  type Device = (typeof devices)[number]
  const lines = (f: (d: Device) => string, head = '') => head + devices.map(f).join('\n')
  test.each<[string, string, (d: Device) => object]>([
    [
      'isc-leases',
      lines(
        (d) =>
          `lease ${d.ip} {\n  binding state active;\n  hardware ethernet ${d.mac};\n  client-hostname "${d.name}";\n}`,
      ),
      named,
    ],
    ['ip-neigh', lines((d) => `${d.ip} dev br0 lladdr ${d.mac} STALE`), nameless],
    ['arp-unix', lines((d) => `${d.name}.local (${d.ip}) at ${short(d.mac)} on en0 [ethernet]`), named],
    ['dnsmasq-lease', lines((d) => `1779220000 06-${d.mac} ${d.ip} ${d.name} *`), named],
    [
      'services',
      lines((d) => `=;br0;IPv4;${d.name};_http._tcp;local;${d.name}.local;${d.ip};80;"mac=${d.mac}" "v=1"`),
      named,
    ],
    [
      'arp-windows',
      lines(
        (d) => `  ${d.ip}          ${d.mac.replaceAll(':', '-')}     dynamic`,
        'Interface: 192.168.71.9 --- 0x4\n  Internet Address      Physical Address      Type\n',
      ),
      nameless,
    ],
    ['cards', lines((d) => `${d.name}\nIP address: ${d.ip}\nMAC: ${d.mac.toUpperCase()}\n`), named],
    [
      'csv',
      lines((d) => `${d.name},${d.ip},${d.mac},"1 day, 3 hours"`, 'Client list\nName,IP address,MAC address,Lease\n'),
      named,
    ],
    ['csv', lines((d) => `"${d.name}";${d.mac.replaceAll(':', '')};${d.ip}`, 'Device;MAC;IP\n'), named],
    ['table', lines((d) => `${d.ip}   ${d.mac}   12h30m   ${d.name}   2.4GHz`), named],
  ])('%s', (format, text, expected) => {
    for (const ends of ['\n', '\r\n']) {
      const read = readTable(text.replaceAll('\n', ends))
      expect(read.format).toBe(format)
      expect(read.entries).toEqual(devices.map(expected))
    }
  })
})

describe('what is passed over', () => {
  test('the last ISC block of an address wins', () => {
    const block = (mac: string, state: string) =>
      `lease 192.168.71.20 {\n binding state ${state};\n hardware ethernet ${mac};\n}\n`
    expect(
      readTable(block('7c:01:00:00:00:01', 'active') + block('7c:01:00:00:00:02', 'active')).entries.map((e) => e.mac),
    ).toEqual(['7c:01:00:00:00:02'])
    expect(readTable(block('7c:01:00:00:00:01', 'free')).skipped).toEqual([{ line: 1, reason: 'not-active' }])
  })
  test('IPv6, multicast, gateways', () => {
    expect(
      readTable(
        '192.168.71.2 dev b lladdr 7c:01:00:00:00:01 STALE\nfe80::1 dev b lladdr 7c:01:00:00:00:01 STALE\n192.168.71.3 dev b lladdr 01:00:5e:00:00:01 STALE',
      ).skipped,
    ).toEqual([
      { line: 2, reason: 'ipv6' },
      { line: 3, reason: 'multicast' },
    ])
    const cards = readTable(
      'Gateway: 192.168.71.1\n\nlamp\nIP: 192.168.71.5\nMAC: 7c:01:00:00:00:01\n\nIP: 192.168.71.6\n',
    )
    expect(cards).toMatchObject({
      format: 'cards',
      entries: [{ ip: '192.168.71.5', hostname: 'lamp' }],
      skipped: [
        { line: 1, reason: 'header' },
        { line: 7, reason: 'no-mac' },
      ],
    })
  })
  test('words that are no names', () =>
    expect(
      ['dynamic', '12h30m', 'hours', '2.4GHz', '72Mbps', 'x', '192.168.1.1', 'aa-bb-cc-dd-ee-ff'].filter(looksLikeName),
    ).toEqual([]))
  test('any text is read without a fault', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.constantFrom(
            '192.168.71.9',
            '7c:01:00:00:00:01',
            'name',
            ',',
            ';',
            '\t',
            '  ',
            ' dev b lladdr ',
            '\n',
            'lease {',
            '"',
            '=;',
          ),
          { maxLength: 30 },
        ),
        (pieces) => {
          const text = pieces.join('')
          const read = readTable(text)
          for (const e of read.entries) {
            expect(e.mac ?? e.ip).not.toBeNull()
            if (e.mac) expect(parseMac(e.mac)).toBe(e.mac)
            if (e.ip) expect(parseAddress(e.ip)).toBe(e.ip)
          }
          for (const s of read.skipped) expect(text.split('\n')[s.line - 1]).toBeDefined()
        },
      ),
    )
  })
})

test('MACs survive every form', () => {
  fc.assert(
    fc.property(fc.uint8Array({ minLength: 6, maxLength: 6 }), (bytes) => {
      const hex = [...bytes].map((b) => b.toString(16).padStart(2, '0'))
      const mac = hex.join(':')
      const forms = [
        mac,
        hex.join('-').toUpperCase(),
        hex.join(''),
        `${hex.slice(0, 2).join('')}.${hex.slice(2, 4).join('')}.${hex.slice(4).join('')}`,
        [...bytes].map((b) => b.toString(16)).join(':'),
      ]
      for (const form of forms) expect(parseMac(form)).toBe(mac)
      expect(findMac(`x (${mac}) y`)).toBe(mac)
    }),
  )
})
test('what is no address of a device', () =>
  expect(['0.1.2.3', '127.0.0.1', '224.0.0.1', '255.255.255.0', '1.2.3.256', '192.168.1.7'].map(parseAddress)).toEqual([
    null,
    null,
    null,
    null,
    null,
    '192.168.1.7',
  ]))
test('relations', () => {
  const known = 'b8:3c:d0:77:1e:00'
  expect(
    ['b8:3c:d0:77:1e:00', 'ba:3c:d0:77:1e:00', 'b8:3c:d0:77:1e:ff', 'b8:3c:d0:77:1e:01', '00:00:00:00:00:01'].map((m) =>
      macRelation(m, known),
    ),
  ).toEqual(['same', 'local-bit', 'minus-one', 'plus-one', 'other'])
})

test.each([
  [{ tables: [], units: [{ id: 'a' }] }, 'empty', '/units/0'],
  [{ tables: [], units: [{ id: 'a', apMac: 'hello' }] }, 'input', '/units/0/apMac'],
  [{ tables: [{ text: 5 }], units: [] }, 'input', '/tables/0/text'],
  [{ tables: [{ text: 'x'.repeat(1_048_577) }], units: [] }, 'range', '/tables/0/text'],
  [{ tables: [{ text: '', format: 'guess' }], units: [] }, 'input', '/tables/0/format'],
])('bad input %#', (input, code, path) => {
  expect(refusalOf(matchNetwork(input))).toEqual([code, path])
})
