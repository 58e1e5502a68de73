import fc from 'fast-check'
import { readIp } from './plan'
import { noSitePlan, planOfSite, readTaken, type SitePlan, type SiteUnit, sitePlanShape } from './site-plan'

const yard: SitePlan = {
  ...noSitePlan,
  subnet: '192.168.71.0/24',
  gateway: '192.168.71.1',
  pool: { from: '192.168.71.100', to: '192.168.71.199' },
  groups: [{ place: 'Dressing rooms', from: '192.168.71.40', to: '192.168.71.41' }],
  taken: '192.168.71.20 6c:10:aa:00:00:20 box-office till\n192.168.71.2 hub\nthe old printer',
}
const unit = (number: number, more: Partial<SiteUnit> = {}): SiteUnit => ({
  id: String(number),
  number,
  name: `Unit ${number}`,
  place: 'foyer',
  mac: `b8:3c:d0:77:10:${number.toString(16).padStart(2, '0')}`,
  address: '',
  slug: `unit-${number}`,
  ...more,
})
const planned = (units: SiteUnit[], site = yard) => {
  const outcome = planOfSite(site, units)
  if (!outcome?.ok) throw new Error(outcome?.faults[0]?.message ?? 'no plan')
  return outcome.value
}

test('what others have is read line by line; a line without an address is named', () => {
  expect(readTaken(yard.taken)).toEqual({
    taken: [
      { ip: '192.168.71.20', mac: '6c:10:aa:00:00:20', what: 'box-office till' },
      { ip: '192.168.71.2', mac: null, what: 'hub' },
    ],
    unread: ['the old printer'],
  })
})

test('a place has its range, an address out of the pool is kept, one in it is planned anew; units without a MAC wait', () => {
  const plan = planned([
    unit(1, { place: 'Dressing rooms' }),
    unit(2, { address: '192.168.71.33' }),
    unit(3, { address: '192.168.71.144' }),
    unit(4, { mac: '' }),
  ])
  expect(plan.assignments.map((a) => [a.number, a.ip, a.why])).toEqual([
    [1, '192.168.71.40', 'group'],
    [2, '192.168.71.33', 'kept'],
    [3, '192.168.71.3', 'general'],
  ])
})

test('without a network there is no plan; with a wrong one it says where', () => {
  expect(planOfSite(noSitePlan, [unit(1)])).toBeNull()
  const outcome = planOfSite({ ...yard, gateway: '10.0.0.1' }, [unit(1)])
  expect(outcome).toMatchObject({ ok: false, faults: [{ path: '/gateway' }] })
  expect(sitePlanShape.safeParse({ subnet: '192.168.71.5/24' }).success).toBe(false)
})

test('carried out, a plan changes nothing any more, and no two have one address', () =>
  fc.assert(
    fc.property(
      fc.uniqueArray(
        fc.record({
          number: fc.integer({ min: 1, max: 99 }),
          last: fc.integer({ min: 0, max: 255 }),
          room: fc.boolean(),
        }),
        { selector: (u) => u.number, maxLength: 20 },
      ),
      (list) => {
        const units = list.map(({ number, last, room }) =>
          unit(number, { address: `192.168.71.${last}`, place: room ? 'Dressing rooms' : 'pit' }),
        )
        const first = planned(units)
        const ips = first.assignments.flatMap((a) => a.ip ?? [])
        expect(new Set(ips).size).toBe(ips.length)
        for (const ip of ips) expect(readIp(ip)).not.toBeNull()
        const moved = units.map((u) => ({ ...u, address: first.assignments.find((a) => a.id === u.id)?.ip ?? '' }))
        expect(planned(moved).assignments.map((a) => a.ip)).toEqual(first.assignments.map((a) => a.ip))
      },
    ),
  ))
