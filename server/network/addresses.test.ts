import { execFileSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { exportOf } from '@fresh-coat/core/network/exports'
import { planOfSite } from '@fresh-coat/core/network/site-plan'
import { runCommand } from '../commands'
import type { Db } from '../db/client'
import { codeOf, freshDatabase, runner } from '../db/testing'
import { addressesRoom, sitePlanOf, unitsToPlan } from './addresses'

let db: Db
let end: () => Promise<void>
const run = runner(() => db)
beforeAll(async () => {
  ;({ db, end } = await freshDatabase())
  for (const [number, name] of [
    [3, 'Trap door'],
    [7, 'Glue pot'],
    [12, '12h'],
  ] as const) {
    const id = (await run('create-unit', { number, name, place: 'workshop' })).id as string
    await run('save-step', {
      unitId: id,
      step: 'join',
      version: 0,
      data: { mac: `b8:3c:d0:77:10:${String(number).padStart(2, '0')}`, address: number === 7 ? '192.168.71.144' : '' },
    })
  }
})
afterAll(() => end())

const place = mkdtempSync(join(tmpdir(), 'fresh-coat-plan-'))
const accepted = (program: string, args: string[]) => execFileSync(program, args, { stdio: 'pipe' })

test('the plan of the record is taken by the address servers’ own checkers', async () => {
  await run('set-addresses', {
    subnet: '192.168.71.0/24',
    gateway: '192.168.71.1',
    pool: { from: '192.168.71.100', to: '192.168.71.199' },
    groups: [{ place: 'Workshop', from: '192.168.71.40', to: '192.168.71.47' }],
  })
  const outcome = planOfSite(await sitePlanOf(db), (await unitsToPlan(db)).units)
  if (!outcome?.ok) throw new Error('no plan')
  const { assignments } = outcome.value
  const exports = { dnsmasq: exportOf('dnsmasq', assignments, '12h'), isc: exportOf('isc', assignments, null) }
  expect(assignments.map((a) => [a.number, a.ip])).toEqual([
    [3, '192.168.71.40'],
    [7, '192.168.71.41'],
    [12, '192.168.71.42'],
  ])
  const small = join(place, 'small.conf')
  writeFileSync(small, exports.dnsmasq)
  accepted('/usr/sbin/dnsmasq', ['--test', '-C', small])
  const isc = join(place, 'isc.conf')
  writeFileSync(isc, `subnet 192.168.71.0 netmask 255.255.255.0 {}\n${exports.isc}`)
  accepted('/usr/sbin/dhcpd', ['-t', '-cf', isc])
  // They would refuse what is none.
  writeFileSync(small, `${exports.dnsmasq}dhcp-hosts-of=1\n`)
  expect(() => accepted('/usr/sbin/dnsmasq', ['--test', '-C', small])).toThrow()
  writeFileSync(isc, `${exports.isc}host {`)
  expect(() => accepted('/usr/sbin/dhcpd', ['-t', '-cf', isc])).toThrow()
})

test('a plan that does not take all units says how many it leaves', async () => {
  const some = await unitsToPlan(db, 2)
  expect([some.units.map((u) => u.number), some.beyond]).toEqual([[3, 7], 1])
  expect(await unitsToPlan(db)).toMatchObject({ units: [{ number: 3 }, { number: 7 }, { number: 12 }], beyond: 0 })
})

test('the room has the plan as its page draws it', async () => {
  const { board, beyond, site } = await addressesRoom(db)
  expect([board?.rows.map((r) => [r.name, r.planned]), beyond, site.subnet]).toEqual([
    [
      ['Trap door', '192.168.71.40'],
      ['Glue pot', '192.168.71.41'],
      ['12h', '192.168.71.42'],
    ],
    null,
    '192.168.71.0/24',
  ])
})

test('a network that is none is refused, and what was written down stays', async () => {
  expect(codeOf(await runCommand(db, 'set-addresses', { subnet: '192.168.71.5/24' }))).not.toBe('ok')
  expect((await sitePlanOf(db)).subnet).toBe('192.168.71.0/24')
})
