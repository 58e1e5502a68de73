import { readEdge } from '@fresh-coat/core/module/map'
import { hubStarts } from '@fresh-coat/core/profile/hub-words'
import { type CommandName, runCommand } from '../server/commands'
import type { Db } from '../server/db/client'
import { keepFile } from '../server/files/keep'
import { arm968Image, cm3Image, lx6Image, lx106Image } from './binaries'
import { type Design, type DesignId, designs } from './designs'

export interface Things {
  adapter: string
  /** The adapter with enough current to feed a board. */
  strongAdapter: string
  /** The module of the lamps. */
  lampModule: string
  instrument: string
  hub: string
  images: Record<string, string>
  boards: Partial<Record<DesignId, string>>
}

/** The workshop while its story is told: every change goes through a command, at the hour that its clock shows. */
export class Yard {
  clock: Date
  constructor(
    readonly db: Db,
    readonly now: Date,
  ) {
    this.clock = new Date(now.getTime() - 420 * 86_400_000)
  }

  async run(command: CommandName, input: Record<string, unknown>): Promise<Record<string, unknown>> {
    const result = await runCommand(this.db, command, input, this.clock)
    if (!result.ok)
      throw new Error(`${command} ${JSON.stringify(input).slice(0, 200)}: ${result.error.message} ${result.error.next}`)
    return result.value
  }
  async idOf(command: CommandName, input: Record<string, unknown>): Promise<string> {
    return (await this.run(command, input)).id as string
  }
  async keep(
    kind: 'dump' | 'image' | 'photo',
    name: string,
    bytes: Uint8Array,
    more: { unitId?: string; read?: 1 | 2; tag?: string } = {},
  ): Promise<string> {
    const result = await keepFile(
      this.db,
      { kind, name, unitId: more.unitId ?? null, read: more.read ?? null, tag: more.tag ?? null },
      bytes,
      this.clock,
    )
    if (!result.ok) throw new Error(`${name}: ${result.error.message}`)
    return result.value.id as string
  }
  /** Lets time pass, but never past the present: work of a day stays on its day, so that its gates hold in the evening. */
  pass(minutes: number): void {
    const later = new Date(this.clock.getTime() + minutes * 60_000)
    const last = this.now.getTime() - 30_000
    this.clock = later.getTime() > last ? new Date(Math.max(this.clock.getTime(), last)) : later
  }
}

const adapters = {
  adapter: {
    name: 'Adapter 2, six pins',
    data: { pins: ['GND', 'CTS', '5V', 'TX', 'RX', '3V3'], logicV: 3.3, max3v3Ma: 250, labelledFrom: 'adapter' },
  },
  fiveVolt: {
    name: 'Old five-volt adapter',
    data: { pins: ['5V', 'GND', 'TX', 'RX'], logicV: 5, max3v3Ma: null, labelledFrom: 'adapter' },
  },
  strong: {
    name: 'Bench adapter, two grounds',
    data: {
      pins: ['GND', 'RX', 'TX', '3V3', 'GND', 'DTR', 'RTS'],
      logicV: 3.3,
      max3v3Ma: 700,
      labelledFrom: 'adapter',
    },
  },
}
/** Contact maps as the workshop wrote them down, from the parts side. */
const modules = {
  lamp: {
    name: 'Tolliver G2 module',
    data: {
      family: 'ARM968-B',
      pitchMm: 2,
      headerless: true,
      edges: [
        { side: 'left', contacts: readEdge('3V3, EN CEN, ?, NC, ?, P26', 1) },
        { side: 'right', contacts: readEdge('TX P11, RX P10, P24, NC, ?, GND', 7) },
      ],
    },
  },
  plug: {
    name: 'Quoinsby W8 module',
    data: {
      family: 'LX106',
      pitchMm: 2,
      headerless: false,
      edges: [
        { side: 'left', contacts: readEdge('RST, NC, EN, GPIO16, GPIO14, GPIO12, GPIO13, 3V3', 1) },
        { side: 'right', contacts: readEdge('TX GPIO1, RX GPIO3, GPIO5, GPIO4, BOOT GPIO0, GPIO2, GPIO15, GND', 9) },
      ],
    },
  },
}

const loads = [
  ['Work lamp', 60, 'resistive'],
  ['Two work lamps', 120, 'resistive'],
  ['Fan heater, low', 1000, 'resistive'],
  ['Fan heater, high', 1920, 'resistive'],
  ['Phone charger', 10, 'charger'],
] as const

async function kitOf(
  yard: Yard,
): Promise<Pick<Things, 'adapter' | 'strongAdapter' | 'instrument' | 'hub' | 'lampModule'>> {
  const adapter = await yard.idOf('add-kit', { kind: 'adapter', ...adapters.adapter })
  await yard.run('add-kit', { kind: 'adapter', ...adapters.fiveVolt })
  const strongAdapter = await yard.idOf('add-kit', { kind: 'adapter', ...adapters.strong })
  const instrument = await yard.idOf('add-kit', {
    kind: 'instrument',
    name: 'Outlet meter',
    data: { gainPct: 0.5, digits: 2, resolution: 0.1 },
  })
  const lampModule = await yard.idOf('add-kit', { kind: 'module', ...modules.lamp })
  await yard.run('add-kit', { kind: 'module', ...modules.plug })
  for (const [name, watts, kind] of loads) await yard.run('add-kit', { kind: 'load', name, data: { watts, kind } })
  const hub = await yard.idOf('add-hub', { name: 'Mantel' })
  const [tree] = hubStarts
  await yard.run('word-hub', { hubId: hub, version: 1, phrases: { ...tree?.phrases, name: 'Mantel' } })
  return { adapter, strongAdapter, instrument, lampModule, hub }
}

async function imagesOf(yard: Yard): Promise<Things['images']> {
  const ids: Things['images'] = {}
  for (const [name, bytes, firmware, release] of [
    ['plainsong-lx106-1m-full.bin', lx106Image('DOUT', 11), 'Plainsong', '9.4.1/full'],
    ['plainsong-lx106-1m-dio.bin', lx106Image('DIO', 11), 'Plainsong', '9.4.1/full'],
    ['lattice-lx6-4m.bin', lx6Image('2.3.0'), 'Lattice', '2.3.0/full'],
    ['skiff-arm968b.bin', arm968Image(), 'Skiff', '2.3/full'],
    ['skiff-cm3.bin', cm3Image(), 'Skiff', '2.3/full'],
  ] as const) {
    const fileId = await yard.keep('image', name, bytes)
    await yard.run('describe-file', { fileId, version: 1, origin: 'the publisher’s page', firmware, release })
    ids[name] = fileId
  }
  return ids
}

/** What stands in the workshop before the first unit: its kit, its hub, images of firmware, and the boards it knows. */
export async function furnish(yard: Yard): Promise<Things> {
  await yard.run('set-site', {
    name: 'Lantern Yard',
    base: 'yard',
    slug: 'lantern',
    money: {
      currency: '€',
      hourWorth: 12,
      prices: [
        { from: '2026-01-01', perKWh: 0.28 },
        { from: '2026-04-16', perKWh: 0.31 },
      ],
    },
    air: { ssid: 'Lantern Yard', broker: { host: '192.168.71.2' }, reportSeconds: 60 },
  })
  await yard.run('set-listener', { on: true, user: '', ca: '' })
  await yard.run('set-addresses', {
    subnet: '192.168.71.0/24',
    gateway: '192.168.71.1',
    pool: { from: '192.168.71.100', to: '192.168.71.199' },
    groups: [{ place: 'dressing rooms', from: '192.168.71.40', to: '192.168.71.47' }],
    taken: '192.168.71.2 hub\n192.168.71.20 6c:10:aa:00:00:20 box-office till',
  })
  const kit = await kitOf(yard)
  const images = await imagesOf(yard)
  const boards: Things['boards'] = {}
  for (const [id, design] of Object.entries(designs) as [DesignId, Design][])
    boards[id] = await yard.idOf('create-board', design.board)
  return { ...kit, images, boards }
}
