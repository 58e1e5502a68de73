import { rehearse } from './boot/rehearse'
import { inspectDump } from './dump/inspect'
import { preflightOfRequest, readPreflightRequest } from './flash/request'
import { buildChip, buildExtended, buildLx106, noise } from './image/build'
import { inspectImage } from './image/inspect'
import { readTableFile } from './image/partitions'
import { fitMeter } from './metering/fit'
import { matchNetwork } from './network/match'
import { planWiring } from './wiring/wiring'

/** Points on which the contracts were once read otherwise: each held by the words of its brief. */

const plain = (outcome: { ok: boolean }) => {
  if (!outcome.ok) throw new Error(JSON.stringify(outcome))
  return (outcome as unknown as { value: never }).value as never
}

describe('wiring without what has a default', () => {
  const bare = {
    adapter: { pins: ['GND', '3V3', 'TX', 'RX'], max3v3Ma: 500 },
    board: { family: 'LX106', pads: ['3V3', 'RX', 'TX', 'GND'] },
    mainsOff: true,
  }
  test('power is the adapter’s 3.3 V, the way in is the button', () =>
    expect(planWiring(bare)).toEqual(planWiring({ ...bare, power: 'adapter3v3', entry: 'button' })))
})

describe('a rehearsal in which nothing was tried', () => {
  const score = (events: object[]) => (plain(rehearse({ family: 'LX106', events })) as { score: number }).score
  test('counts as one try that missed: 30, not 45', () => {
    expect(score([])).toBe(30)
    expect(score([{ t: 0, do: 'strap_low' }])).toBe(30)
  })
  test('one boot with the strap too late: 30', () =>
    expect(
      score([
        { t: 0, do: 'power_on' },
        { t: 500, do: 'strap_low' },
      ]),
    ).toBe(30))
})

test('a voltage cannot be varied at an outlet: few zero readings are no warning there, and are for power', () => {
  const warnings = (quantity: string) =>
    (
      plain(
        fitMeter({
          quantity,
          reference: { gainPct: 0.5, digits: 2, resolution: 0.1 },
          indicatedResolution: 0.1,
          load: { kind: 'resistive', warm: true },
          points: [
            { id: 'a', indicated: 229, reference: 230 },
            { id: 'b', indicated: 229.5, reference: 230.5 },
          ],
        }),
      ) as { warnings: string[] }
    ).warnings
  expect([warnings('V').includes('few-zeros'), warnings('P').includes('few-zeros')]).toEqual([false, true])
})

describe('a list of cards', () => {
  const read = (text: string, before?: string) =>
    plain(
      matchNetwork({
        tables: [...(before === undefined ? [] : [{ text: before, phase: 'before' }]), { text }],
        units: [{ id: 'u', hostname: 'pot' }],
      }),
    ) as {
      formats: string[]
      entries: { mac: string | null; ip: string | null; new: boolean | null; local: boolean | null }[]
      skipped: { line: number; reason: string }[]
    }
  const card = 'Name: pot\nIP: 192.168.71.44/24\nMAC: ba:3c:d0:77:1e:9a\n'
  test('an address may end with its prefix length', () =>
    expect(read(card)).toMatchObject({
      formats: ['cards'],
      entries: [{ ip: '192.168.71.44', mac: 'ba:3c:d0:77:1e:9a' }],
    }))
  test('a paragraph that tells nothing is a header before the first record, and unparsed after it', () =>
    expect(read(`Connected devices\n\n${card}\nend of the list\n`).skipped).toEqual([
      { table: 0, line: 1, reason: 'header' },
      { table: 0, line: 7, reason: 'unparsed' },
    ]))
  test('new is not known without a list from before, nor the local bit without a MAC', () => {
    const services = '=;eth0;IPv4;pot;_http._tcp;local;pot.local;192.168.71.9;80;"x=1"\n'
    expect(read(services).entries).toMatchObject([{ mac: null, new: null, local: null }])
    expect(read(card, '').entries).toMatchObject([{ new: true, local: true }])
  })
})

describe('files', () => {
  const image = buildLx106({
    mode: 'DIO',
    flashBytes: 2 ** 20,
    entry: 0x40100004,
    segments: [{ address: 0x40100000, data: noise(4000, 3) }],
  } as never)
  const followed = (fill: number) => {
    const bytes = new Uint8Array(image.length + 5000).fill(fill)
    bytes.set(image)
    return inspectImage(bytes).findings.map((f) => f.code)
  }
  test('FF behind an LX106 image is padding, anything else a second part', () => {
    expect(followed(0xff)).not.toContain('trailing-bytes')
    expect(followed(0x41)).toContain('trailing-bytes')
  })
  test('settings of an LX106 dump are its last five sectors, whatever size is on record', () => {
    const dump = buildChip(2 ** 20, [
      [0, image],
      [2 ** 20 - 3 * 4096, noise(4096, 5)],
    ])
    for (const flashBytes of [null, 2 ** 20, 2 ** 21, 2 ** 19]) {
      const found = inspectDump(dump, { flashBytes })
      expect(found.secrets.settingsSectors).toEqual([253])
      expect(found.findings.map((f) => f.code)).toContain('settings-present')
    }
  })
})

describe('a preflight', () => {
  const app = buildExtended({
    mode: 'DIO',
    chipId: 5,
    entry: 0x42000020,
    segments: [{ address: 0x3c000020, data: noise(40_000, 7) }],
    hash: true,
  } as never)
  const request = (unit: object, write: object = {}) => ({
    unit: { family: 'RV32', flashBytes: 4 * 2 ** 20, backup: { state: 'verified', bytes: 4 * 2 ** 20 }, ...unit },
    write: { file: 'app.bin', baud: 115_200, verify: 'digest', ...write },
  })
  const judge = (unit: object, write: object, bytes: Uint8Array, layout: Uint8Array | null = null) => {
    const parsed = readPreflightRequest(request(unit, write))
    if (!parsed.ok) return parsed.faults[0]
    return preflightOfRequest(
      parsed.value,
      { name: 'app.bin', inspection: inspectImage(bytes, { family: 'RV32' }) },
      layout && readTableFile(layout, 0x8000, parsed.value.unit.flashBytes ?? null),
    )
  }
  test('with a layout file that holds no table says so', () => {
    const judged = judge({}, {}, app, noise(65_536, 9)) as { verdict: string; findings: { code: string }[] }
    expect(judged.verdict).toBe('stop')
    expect(judged.findings.map((f) => f.code)).toEqual(
      expect.arrayContaining(['partition-table-missing', 'layout-missing']),
    )
  })
  test('of a chip of unknown size has no plan that looks whole', () => {
    const image = buildLx106({
      mode: 'DOUT',
      flashBytes: 2 ** 20,
      entry: 0x40100004,
      segments: [{ address: 0x40100000, data: noise(4000, 3) }],
    } as never)
    const whole = { family: 'LX106', flashBytes: null, backup: { state: 'verified', bytes: null } }
    const parsed = readPreflightRequest(request(whole, { eraseAll: true }))
    if (!parsed.ok) throw new Error('refused')
    const { plan } = preflightOfRequest(parsed.value, { name: 'x.bin', inspection: inspectImage(image) }, null)
    expect(plan).toMatchObject({ erase: 'chip', eraseSectors: null, seconds: { erase: null, total: null } })
    expect(plan?.seconds.write).toBeGreaterThan(0)
  })
  test.each(['nonsense', '68 40', '0x68401400', ''])('with the chip id “%s” is bad input', (flashId) =>
    expect(judge({ flashId }, {}, app)).toMatchObject({ code: 'range', path: '/unit/flashId' }),
  )
})
