import fc from 'fast-check'
import { computed } from '../testing/like'
import { csvCell, exportBegins, exportFormats, exportOf } from './exports'
import { conflictFinding, ipText, netPlan, netPlanOfKnown, ownFinding, readIp, readSubnet } from './plan'

const fault = (outcome: { ok: boolean }) => {
  const faults = (outcome as { faults?: { code: string; path: string }[] }).faults
  return outcome.ok ? 'ok' : `${faults?.[0]?.code} ${faults?.[0]?.path}`
}
const request = {
  subnet: '192.168.71.0/24',
  gateway: '192.168.71.1',
  pool: { from: '192.168.71.100', to: '192.168.71.199' },
  leaseTime: '12h',
  taken: [
    { ip: '192.168.71.20', mac: '6c:10:aa:00:00:20', what: 'box-office till' },
    { ip: '192.168.71.2', mac: null, what: 'hub' },
  ],
  groups: [
    { id: 'stage', from: '192.168.71.20', to: '192.168.71.22' },
    { id: 'workshop', from: '192.168.71.40', to: '192.168.71.47' },
  ],
  units: [
    { id: 'LY-07', number: 7, mac: 'B83C.D077.1E9A', group: 'workshop', ip: '192.168.71.144' },
    { id: 'LY-12', number: 12, mac: 'b8:3c:d0:77:1e:9b', group: 'stage', ip: null },
    { id: 'LY-03', number: 3, mac: 'b8-3c-d0-77-10-03', group: 'stage', ip: '192.168.71.22' },
    { id: 'LY-15', number: 15, mac: 'b8:3c:d0:77:15:15', group: 'stage' },
  ],
}
const unit = (more: object) => ({ id: 'LY-01', number: 1, mac: 'b8:3c:d0:00:00:01', ...more })
const plan = (units: object[], more: object = {}) => computed(netPlan({ ...request, ...more, units }))
const codes = (units: object[], more: object = {}) => plan(units, more).conflicts.map((c) => c.code)

test('the worked example', () => {
  const { assignments, conflicts, exports } = computed(netPlan(request))
  expect(assignments.map((a) => `${a.id} ${a.ip} ${a.why}`)).toEqual([
    'LY-03 192.168.71.22 kept',
    'LY-07 192.168.71.40 group',
    'LY-12 192.168.71.21 group',
    'LY-15 192.168.71.3 spill',
  ])
  expect(conflicts).toEqual([
    { code: 'in-pool', unit: 'LY-07', ip: '192.168.71.144' },
    { code: 'group-full', unit: 'LY-15', group: 'stage' },
  ])
  expect(exports.dnsmasq.split('\n')[0]).toBe('dhcp-host=b8:3c:d0:77:10:03,192.168.71.22,ly-03,12h')
  expect(exports.isc).toContain(
    'host ly-03 {\n  hardware ethernet b8:3c:d0:77:10:03;\n  fixed-address 192.168.71.22;\n  option host-name "ly-03";\n}',
  )
  expect(exports.csv.split('\r\n').slice(0, 2)).toEqual([
    'number,id,mac,ip,hostname,group',
    '3,LY-03,b8:3c:d0:77:10:03,192.168.71.22,ly-03,stage',
  ])
})

test.each([
  ['10.0.0.7', 'outside'],
  ['192.168.71.0', 'reserved'],
  ['192.168.71.255', 'reserved'],
  ['192.168.71.1', 'reserved'],
  ['192.168.71.150', 'in-pool'],
  ['192.168.71.2', 'taken'],
])('an address of before that cannot stay: %s is %s', (ip, code) => expect(codes([unit({ ip })])).toEqual([code]))

test('two with one address: the later one gets another', () => {
  const two = [
    unit({ ip: '192.168.71.60' }),
    unit({ id: 'LY-02', number: 2, mac: 'b8:3c:d0:00:00:02', ip: '192.168.71.60' }),
  ]
  expect(codes(two)).toEqual(['duplicate'])
  expect(plan(two).assignments.map((a) => a.why)).toEqual(['kept', 'general'])
})

test('what the server promised to its MAC is its own, in the pool too', () => {
  const taken = [{ ip: '192.168.71.120', mac: 'b8:3c:d0:00:00:01' }]
  const { assignments, findings } = plan([unit({})], { taken })
  expect(assignments[0]).toMatchObject({ ip: '192.168.71.120', why: 'own' })
  expect(findings).toMatchObject([{ code: 'own-in-pool', severity: 'ok', unit: 'LY-01', ip: '192.168.71.120' }])
  expect(plan([unit({ ip: '192.168.71.120' })], { taken }).assignments[0]?.why).toBe('kept')
  const both = [...taken, { ip: '192.168.71.90', mac: 'b8:3c:d0:00:00:01' }]
  expect(plan([unit({})], { taken: both }).assignments[0]?.ip).toBe('192.168.71.90')
})

test('one MAC twice has one address; one host name twice gets a number', () => {
  const twice = [unit({}), unit({ id: 'ly 01', number: 9 })]
  const { assignments, conflicts, findings } = plan(twice)
  expect(assignments[1]).toMatchObject({ ip: null, why: 'duplicate', hostname: 'ly-01-9' })
  expect(conflicts.map((c) => c.code)).toEqual(['dup-mac', 'dup-hostname'])
  expect(findings[0]?.severity).toBe('error')
})

test('a host name that a lease line would read as a time or a word is none', () => {
  const named = (id: string) => plan([unit({ id, number: 7 })]).assignments[0]?.hostname
  expect(['7', '12h', 'infinite', 'ignore', '大'].map(named)).toEqual(Array(5).fill('unit-7'))
  expect(fault(netPlan({ ...request, units: [unit({ hostname: '12h' })] }))).toBe('input /units/0/hostname')
})

test('nothing left is said, and a range in the pool is skipped', () => {
  const small = { subnet: '10.0.0.0/30', gateway: '10.0.0.1', pool: null, taken: [{ ip: '10.0.0.2' }], groups: [] }
  expect(plan([unit({})], small)).toMatchObject({
    assignments: [{ ip: null, why: 'no-address' }],
    conflicts: [{ code: 'no-address' }],
  })
  const groups = [{ id: 'g', from: '192.168.71.99', to: '192.168.71.101' }]
  const inPool = plan([unit({ group: 'g' }), unit({ id: 'b', number: 2, mac: 'b8:3c:d0:00:00:02', group: 'g' })], {
    groups,
  })
  expect(inPool.conflicts.map((c) => c.code)).toEqual(['group-in-pool', 'group-full'])
  expect(inPool.assignments.map((a) => a.ip)).toEqual(['192.168.71.99', '192.168.71.3'])
})

test('bad input at its place', () => {
  expect(fault(netPlan({ ...request, subnet: '192.168.71.5/24' }))).toBe('input /subnet')
  expect(fault(netPlan({ ...request, gateway: '10.0.0.1' }))).toBe('range /gateway')
  expect(fault(netPlan({ ...request, pool: { from: '192.168.71.9', to: '192.168.71.3' } }))).toMatch(/^range \/pool/)
  expect(fault(netPlan({ ...request, units: [unit({}), unit({})] }))).toBe('conflict /units/1/id')
  expect(
    fault(
      netPlan({ ...request, groups: [...request.groups, { id: 'x', from: '192.168.71.22', to: '192.168.71.30' }] }),
    ),
  ).toBe('conflict /groups/2')
  expect(fault(netPlan({ ...request, units: [unit({ mac: 'xy' })] }))).toBe('input /units/0/mac')
  expect(fault(netPlan({ ...request, units: [unit({ group: 'attic' })] }))).toBe('input /units/0/group')
})

test('run on its own result it changes nothing; nobody shares an address', () => {
  const anyIp = fc.integer({ min: 0, max: 255 }).map((n) => `192.168.71.${n}`)
  fc.assert(
    fc.property(
      fc.array(fc.record({ ip: fc.option(anyIp), group: fc.option(fc.constantFrom('stage', 'workshop')) }), {
        maxLength: 25,
      }),
      (given) => {
        const units = given.map((g, i) => ({
          id: `u${i}x`,
          number: i,
          mac: `02:00:00:00:00:${i.toString(16).padStart(2, '0')}`,
          ...g,
        }))
        const first = plan(units)
        const ips = first.assignments.map((a) => a.ip).filter((ip) => ip !== null)
        expect(new Set(ips).size).toBe(ips.length)
        const again = plan(units.map((u) => ({ ...u, ip: first.assignments.find((a) => a.id === u.id)?.ip ?? null })))
        expect(again.assignments.map((a) => a.ip)).toEqual(first.assignments.map((a) => a.ip))
      },
    ),
  )
})

const spanOf = (from: number, size: number) => ({
  from: `10.9.0.${from}`,
  to: `10.9.0.${Math.min(31, from + size)}`,
})
const anyRoom = fc.record({
  pool: fc.option(fc.record({ from: fc.nat(31), size: fc.nat(12) })),
  group: fc.option(fc.record({ from: fc.nat(31), size: fc.nat(6) })),
  taken: fc.uniqueArray(fc.record({ at: fc.nat(31), of: fc.option(fc.nat(5)) }), {
    maxLength: 6,
    selector: (t) => t.at,
  }),
  units: fc.array(fc.record({ ip: fc.option(fc.nat(40)), inGroup: fc.boolean() }), { maxLength: 36 }),
})
const macOf = (n: number) => `02:00:00:00:00:${n.toString(16).padStart(2, '0')}`

test('who gets a new address gets the lowest one that is nobody’s at that moment, however many got theirs before', () =>
  fc.assert(
    fc.property(anyRoom, ({ pool, group, taken, units }) => {
      const room = {
        subnet: '10.9.0.0/27',
        gateway: '10.9.0.1',
        pool: pool && spanOf(pool.from, pool.size),
        groups: group ? [{ id: 'stage', ...spanOf(group.from, group.size) }] : [],
        taken: taken.map((t) => ({ ip: `10.9.0.${t.at}`, mac: t.of === null ? null : macOf(t.of) })),
      }
      const found = netPlan({
        ...room,
        units: units.map((u, i) => ({
          ...{ id: `u${i}`, number: i, mac: macOf(i), hostname: `u${i}x` },
          group: u.inGroup && group ? 'stage' : null,
          ip: u.ip === null ? null : `10.9.0.${u.ip}`,
        })),
      })
      if (!found.ok) throw new Error(found.faults[0]?.message)
      const { assignments } = found.value
      const isIn = (n: number, span: { from: string; to: string } | null | undefined) =>
        span != null && n >= (readIp(span.from) ?? 0) && n <= (readIp(span.to) ?? 0)
      const base = readIp('10.9.0.0') as number
      // Kept and promised addresses are taken before; then one after the other.
      const used = new Set(assignments.flatMap((a) => (a.why === 'kept' && a.ip ? [readIp(a.ip)] : [])))
      for (const a of assignments) {
        if (a.why === 'own') used.add(readIp(a.ip as string))
        if (!['group', 'spill', 'general', 'no-address'].includes(a.why)) continue
        const free = (n: number) =>
          n > base + 1 && n < base + 31 && !isIn(n, room.pool) && !used.has(n) && !taken.some((t) => base + t.at === n)
        const all = Array.from({ length: 32 }, (_, i) => base + i)
        const inGroup = a.group ? all.find((n) => isIn(n, room.groups[0]) && free(n)) : undefined
        const other = all.find((n) => !isIn(n, room.groups[0]) && free(n))
        const best = inGroup ?? other
        expect([a.number, a.ip]).toEqual([a.number, best === undefined ? null : ipText(best)])
        if (best !== undefined) used.add(best)
      }
    }),
  ))

test('units of one’s own are planned as those of a request are, more of them than a request may bring, too', () => {
  const own = (n: number) =>
    Array.from({ length: n }, (_, i) => ({
      ...{
        id: `u${i}`,
        number: i,
        mac: macOf(i % 256).replace('02:00', `02:${(i >> 8).toString(16).padStart(2, '0')}`),
      },
      ...{ hostname: i % 3 ? `lamp-${i}` : null, group: null, ip: null },
    }))
  const network = { subnet: '10.8.0.0/16', gateway: '10.8.0.1', leaseTime: '12h' }
  const [known, asked] = [netPlanOfKnown(network, own(40)), netPlan({ ...network, units: own(40) })]
  if (!known.ok || !asked.ok) throw new Error('no plan')
  const { exports, findings, ...placed } = asked.value
  const { own: ownInPool, ...alike } = known.value
  expect(alike).toEqual(placed)
  expect([...alike.conflicts.map(conflictFinding), ...ownInPool.map(ownFinding)]).toEqual(findings)
  for (const format of exportFormats)
    expect(exportOf(format, known.value.assignments, network.leaseTime)).toBe(exports[format])
  const many = netPlanOfKnown(network, own(6000))
  expect(many.ok && many.value.assignments.at(-1)?.ip).toBe('10.8.23.113')
  expect(fault(netPlanOfKnown({ ...network, gateway: '10.9.0.1' }, []))).toBe('range /gateway')
})

test('the beginning of a list is that of the whole list, in whole lines, and says how many there are', () => {
  const network = { subnet: '10.8.0.0/27', gateway: '10.8.0.1' }
  const units = (n: number) =>
    Array.from({ length: n }, (_, i) => ({
      ...{ id: `u${i}`, number: i, mac: macOf(i), hostname: `lamp-${i}`, group: null, ip: null },
    }))
  fc.assert(
    fc.property(
      // More than have an address, too.
      fc.nat(40),
      fc.integer({ min: 1, max: 90 }),
      fc.constantFrom(null, '12h'),
      fc.constantFrom(...exportFormats),
      (n, most, leaseTime, format) => {
        const plan = netPlanOfKnown(network, units(n))
        if (!plan.ok) throw new Error('no plan')
        const { assignments } = plan.value
        const lines = exportOf(format, assignments, leaseTime).match(/[^\n]*\n/g) ?? []
        expect(exportBegins(format, assignments, leaseTime, most)).toEqual({
          text: lines.slice(0, most).join(''),
          lines: lines.length,
        })
      },
    ),
  )
})

test('addresses are read and written the same; cells of a table guard against formulas', () => {
  fc.assert(fc.property(fc.nat(2 ** 31 - 1), (n) => expect(readIp(ipText(n * 2))).toBe(n * 2)))
  expect([readIp('1.2.3'), readIp('1.2.3.256'), readIp('01.2.3.4'), readSubnet('1.2.3.0/33')]).toEqual([
    null,
    null,
    null,
    null,
  ])
  expect(['=1+1', '-0.3', 'a"b', 'a,b', null].map(csvCell)).toEqual(["'=1+1", "'-0.3", '"a""b"', '"a,b"', ''])
  expect(csvCell(-0.31)).toBe('-0.31')
})
