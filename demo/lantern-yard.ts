import { checkTemplate } from '@fresh-coat/core/pins/check'
import type { PinTemplate, TemplatePin } from '@fresh-coat/core/pins/template'
import { preflightOf } from '@fresh-coat/core/steps/check/facts'
import { missingPhotos } from '@fresh-coat/core/steps/open/conditions'
import { assess } from '@fresh-coat/core/unit/assess'
import { gateHolds, gatesFor } from '@fresh-coat/core/unit/gates'
import type { StepData } from '@fresh-coat/core/unit/records'
import { type StepId, stepIds } from '@fresh-coat/core/unit/way'
import type { PadRole } from '@fresh-coat/core/wiring/wiring'
import { type CommandName, runCommand } from '../server/commands'
import type { Db } from '../server/db/client'
import { keepFile } from '../server/files/keep'
import { loadUnit } from '../server/units/load'
import { arm968Image, arm968Stock, cm3Image, cm3Stock, lx6Image, lx6Stock, lx106Image, lx106Stock } from './binaries'
import { boardPhoto } from './pictures'

/**
 * Lantern Yard, a volunteer puppet theatre: its boards, kit and units, made through the same commands that a person
 * uses. `now` is the present of the story; everything else lies before it.
 */
type Patch = { [S in StepId]?: Partial<StepData[S]> }

interface Design {
  board: { maker: string; product: string; revision: string; mains: boolean; fixedWiring?: boolean; hasMeter?: boolean }
  flashId: string
  stock: (unit: number) => Uint8Array
  /** What is printed on its chip. */
  printed: string
  image: string
  relays: number
  /** What a person enters at each step for a unit of this board. */
  records: Patch
}

type Fastener = StepData['open']['fasteners'][number]
/** Ids count up within a board: each list below is written in one go. */
const fastener = (kind: Fastener['kind'], count: number, place: string, more: Partial<Fastener> = {}): Fastener => ({
  id: `${kind.slice(0, 4)}-${place.replace(/[^a-z]+/g, '').slice(0, 10)}`,
  kind,
  count,
  driver: kind === 'screw' ? 'cross 1' : '',
  place,
  hiddenUnder: 'none',
  note: '',
  restore: 'same',
  requires: [],
  ...more,
})

/** What a meter shows at pads of these roles, as somebody enters it. */
function readingsOf(roles: readonly PadRole[]): StepData['pads']['readings'] {
  return roles.map((role, i) => {
    const square = i === 0
    switch (role) {
      case 'GND':
        return { square, cont_gnd: true, ohms_3v3: 8900, volts: 0 }
      case '3V3':
        return { square, cont_gnd: false, ohms_3v3: 0.4, volts: 3.3 }
      case 'TX':
        return { square, cont_gnd: false, ohms_3v3: 'open', volts: 3.27, volts_10k: 3.24, dip: true }
      case 'RX':
        return { square, cont_gnd: false, ohms_3v3: 'open', volts: 3.12, volts_10k: 0.58, dip: false }
      case 'BOOT':
        return { square, cont_gnd: false, ohms_3v3: 10_100, button_gnd: true, label: 'IO0' }
      case 'RST':
        return { square, cont_gnd: false, ohms_3v3: 10_000, button_gnd: false, label: 'EN' }
      default:
        return { square, cont_gnd: false }
    }
  })
}

const seenTwice = (pins: TemplatePin[], unit: string): TemplatePin[] =>
  pins.map((p) => ({
    ...p,
    evidence: [
      { unit, sitting: 's1', agrees: true },
      { unit, sitting: 's2', agrees: true },
    ],
  }))
const template = (board: string, family: PinTemplate['family'], unit: string, pins: TemplatePin[]): PinTemplate => ({
  format: 'fresh-coat/pin-template',
  version: 1,
  board,
  family,
  pins: seenTwice(pins, unit),
})
const lx106Evidence = [
  { kind: 'crystal', value: '26' },
  { kind: 'flash_chip', value: 'external8' },
  { kind: 'boot_text', value: 'cause_74880' },
  { kind: 'sync_reply', value: 'slip' },
]
const lx6Evidence = [
  { kind: 'crystal', value: '40' },
  { kind: 'edge_contacts', value: 'ge25' },
  { kind: 'boot_text', value: 'rst_115200' },
  { kind: 'header', value: 'e9_lx6' },
]
const armEvidence = [
  { kind: 'crystal', value: '26' },
  { kind: 'flash_chip', value: 'none' },
  { kind: 'sync_reply', value: 'hci_link' },
]
const cm3Evidence = [
  { kind: 'crystal', value: '40' },
  { kind: 'boot_text', value: 'c_115200' },
  { kind: 'sync_reply', value: 'c_stream' },
]
const dropper = {
  dropper: 'yes',
  noTransformer: 'yes',
  mainsSense: 'unknown',
  shuntOnMains: 'yes',
  below1M: 'yes',
  optocoupler: 'no',
  gap: 'no',
  above10M: 'no',
} as const
const plugTerminals = [
  { place: 'brown, next to the fuse', legend: 'line' },
  { place: 'blue', legend: 'neutral' },
  { place: 'brown, out', legend: 'load' },
] as const

const lx106Boot =
  '\r\n ets Jan  8 2013,rst cause:1, boot mode:(3,6)\r\n\r\nload 0x40100000, len 31728, room 16\r\ntail 0\r\nchksum 0x4e\r\n\r\nPlainsong 9.4.1 on its way\r\n'
const lx6Boot =
  'ets Jun  8 2016 00:22:57\r\n\r\nrst:0x1 (POWERON_RESET),boot:0x13 (SPI_FAST_FLASH_BOOT)\r\nmode:DIO, clock div:2\r\nload:0x3fff0018,len:18000\r\nLattice 2.3.0 ready\r\n'

const designs = {
  p1c: {
    board: { maker: 'Pellworth', product: 'P1', revision: 'rev C', mains: true, hasMeter: true },
    flashId: '68 40 14',
    printed: 'PW-106 A7',
    stock: lx106Stock,
    image: 'plainsong-lx106-1m-full.bin',
    relays: 1,
    records: {
      arrive: { ratedAmps: 10, loadWatts: 1200 },
      open: {
        terminals: [...plugTerminals],
        fasteners: [
          fastener('screw', 2, 'corners of the face'),
          fastener('screw', 1, 'middle', {
            hiddenUnder: 'sticker',
            note: 'The third screw: press the rating sticker with a thumb, it dips over it.',
          }),
          fastener('clip', 4, 'along the seam', {
            note: 'Start opposite the prongs.',
            requires: ['scre-cornersoft', 'scre-middle'],
          }),
        ],
        parts: ['button cap', 'light pipe'],
        isolation: dropper,
        capacitorUf: 0.33,
        bleederOhms: 1_000_000,
      },
      identify: { evidence: lx106Evidence },
      pads: {
        pads: ['3V3', 'RX', 'TX', 'GND'],
        pitchMm: 2.54,
        bootBy: 'button',
        note: 'Four unmarked holes by the edge.',
      },
      wire: { entry: 'button', held: 'plug' },
      check: { eraseAll: true, dataLines: 2, firmware: 'Plainsong', firmwareVersion: '9.4.1', offset: 0 },
      start: { log: lx106Boot, strapFree: true },
      pins: {
        template: template('Pellworth P1 rev C', 'LX106', '1', [
          { pin: 'GPIO0', fn: 'button', ch: 1, pull: 'up' },
          { pin: 'GPIO12', fn: 'relay', ch: 1 },
          { pin: 'GPIO13', fn: 'led', ch: 0, active: 'low' },
          { pin: 'GPIO4', fn: 'cf1' },
          { pin: 'GPIO5', fn: 'cf' },
          { pin: 'GPIO14', fn: 'sel' },
        ]),
      },
      behaviour: { channels: [{ ch: 1, onPower: 'last', tried: true }] },
    },
  },
  p1d: {
    board: { maker: 'Pellworth', product: 'P1', revision: 'rev D', mains: true, hasMeter: true },
    flashId: '68 40 15',
    printed: 'QB 27 N',
    stock: arm968Stock,
    image: 'skiff-arm968b.bin',
    relays: 1,
    records: {
      arrive: { ratedAmps: 10, loadWatts: 60 },
      open: {
        terminals: [...plugTerminals],
        fasteners: [fastener('screw', 3, 'as rev C')],
        parts: ['button cap'],
        isolation: dropper,
        capacitorUf: 0.33,
        bleederOhms: 1_000_000,
      },
      identify: { evidence: armEvidence },
      pads: { pads: ['3V3', 'TX', 'RX', 'GND'], pitchMm: 2.54, bootBy: 'none' },
      wire: { entry: 'window', held: 'hand' },
    },
  },
  duo: {
    board: { maker: 'Harkle', product: 'Duo', revision: 'v2', mains: true, fixedWiring: true },
    flashId: '68 40 14',
    printed: 'PW-106 A7',
    stock: lx106Stock,
    image: 'plainsong-lx106-1m-full.bin',
    relays: 2,
    records: {
      arrive: { ratedAmps: 6, loadWatts: 300 },
      open: {
        terminals: [
          { place: 'L', legend: 'line' },
          { place: 'N', legend: 'neutral' },
          { place: 'O1', legend: 'load' },
          { place: 'O2', legend: 'load' },
          { place: 'S1', legend: 'switch_input' },
        ],
        fasteners: [fastener('clip', 4, 'long sides')],
        parts: [],
        isolation: { ...dropper, mainsSense: 'yes' },
        capacitorUf: 10,
        bleederOhms: 470_000,
      },
      identify: { evidence: lx106Evidence },
      pads: { pads: ['GND', 'TX', 'RX', '3V3', 'BOOT'], pitchMm: 2, bootBy: 'pad' },
      wire: { entry: 'jumper', held: 'jig' },
      check: { eraseAll: true, dataLines: 2, firmware: 'Plainsong', firmwareVersion: '9.4.1', offset: 0 },
      start: { log: lx106Boot, strapFree: true },
      pins: {
        template: template('Harkle Duo v2', 'LX106', '5', [
          { pin: 'GPIO4', fn: 'relay', ch: 1 },
          { pin: 'GPIO5', fn: 'relay', ch: 2 },
          { pin: 'GPIO13', fn: 'ac-sense', ch: 1 },
          { pin: 'GPIO14', fn: 'ac-sense', ch: 2 },
          { pin: 'GPIO0', fn: 'button', ch: 1, pull: 'up' },
        ]),
      },
      behaviour: {
        channels: [
          { ch: 1, onPower: 'off', tried: true },
          { ch: 2, onPower: 'off', tried: true },
        ],
      },
    },
  },
  q4: {
    board: { maker: 'Quoinsby', product: 'Q4', revision: '12 V', mains: false },
    flashId: '68 40 16',
    printed: 'HQ SIX 4M',
    stock: lx6Stock,
    image: 'lattice-lx6-4m.bin',
    relays: 4,
    records: {
      arrive: { ratedAmps: 5, mainsVolts: 12, loadWatts: 30 },
      open: { noTerminals: true },
      identify: { evidence: lx6Evidence },
      pads: { pads: ['GND', '3V3', 'TX', 'RX', 'BOOT', 'RST'], pitchMm: 2.54, bootBy: 'pad' },
      wire: { entry: 'jumper', held: 'jig' },
      check: { eraseAll: true, firmware: 'Lattice', firmwareVersion: '2.3.0', offset: 0 },
      start: { log: lx6Boot, strapFree: true },
      pins: {
        template: template('Quoinsby Q4 12 V', 'LX6', '24', [
          { pin: 'GPIO16', fn: 'relay', ch: 1 },
          { pin: 'GPIO17', fn: 'relay', ch: 2 },
          { pin: 'GPIO18', fn: 'relay', ch: 3 },
          { pin: 'GPIO19', fn: 'relay', ch: 4 },
          { pin: 'GPIO0', fn: 'button', ch: 1, pull: 'up' },
        ]),
      },
      behaviour: { channels: [1, 2, 3, 4].map((ch) => ({ ch, onPower: 'off' as const, tried: true })) },
    },
  },
  q8: {
    board: { maker: 'Quoinsby', product: 'Q8', revision: 'ready', mains: false },
    flashId: '68 40 16',
    printed: 'HQ SIX 4M',
    stock: lx6Stock,
    image: 'lattice-lx6-4m.bin',
    relays: 5,
    records: {
      arrive: { ratedAmps: 5, mainsVolts: 12, loadWatts: 60 },
      identify: { evidence: [], decision: { family: 'LX6', reason: 'Its maker says so, and it answers as one.' } },
      start: { seenBy: 'access point' },
      pins: {
        template: template('Quoinsby Q8 ready', 'LX6', '12', [
          ...[16, 17, 18, 19, 21, 22, 23, 25].map((n, i): TemplatePin => ({ pin: `GPIO${n}`, fn: 'relay', ch: i + 1 })),
          { pin: 'GPIO0', fn: 'button', ch: 1, pull: 'up' },
        ]),
      },
    },
  },
  glow: {
    board: { maker: 'Tolliver', product: 'Glow', revision: '9 W', mains: true },
    flashId: '68 40 15',
    printed: 'QB 27 N',
    stock: arm968Stock,
    image: 'skiff-arm968b.bin',
    relays: 0,
    records: {
      arrive: { ratedAmps: 0.1, loadWatts: 9 },
      open: {
        noTerminals: true,
        fasteners: [
          fastener('heat_seal', 1, 'round the dome', { restore: 'glue' }),
          fastener('solder_joint', 2, 'cap to board'),
        ],
        parts: ['diffuser'],
        isolation: dropper,
        capacitorUf: 4.7,
      },
      identify: { evidence: armEvidence },
    },
  },
  l12: {
    board: { maker: 'Tolliver', product: 'L12', revision: '12 V latch', mains: false },
    flashId: '68 40 14',
    printed: 'PW-106 A8',
    stock: lx106Stock,
    image: 'plainsong-lx106-1m-full.bin',
    relays: 1,
    records: {
      arrive: { ratedAmps: 3, mainsVolts: 12, loadWatts: 18 },
      open: {
        noTerminals: true,
        fasteners: [fastener('screw', 4, 'corners')],
      },
      identify: { evidence: lx106Evidence },
      pads: { pads: ['3V3', 'TX', 'RX', 'GND', 'BOOT'], pitchMm: 2.54, bootBy: 'pad' },
      wire: { entry: 'jumper', held: 'jig' },
      check: { eraseAll: true, dataLines: 2, firmware: 'Plainsong', firmwareVersion: '9.4.1', offset: 0 },
      start: { log: lx106Boot, strapFree: true },
      pins: {
        template: template('Tolliver L12', 'LX106', '10', [
          { pin: 'GPIO4', fn: 'latch-set', ch: 1 },
          { pin: 'GPIO5', fn: 'latch-reset', ch: 1 },
          { pin: 'GPIO0', fn: 'button', ch: 1, pull: 'up' },
        ]),
      },
      behaviour: { channels: [{ ch: 1, onPower: 'last', tried: true }] },
    },
  },
  n1: {
    board: { maker: 'Pellworth', product: 'N1', revision: 'night', mains: true },
    flashId: '68 40 14',
    printed: 'TRI 33',
    stock: cm3Stock,
    image: 'skiff-cm3.bin',
    relays: 1,
    records: {
      arrive: { ratedAmps: 10, loadWatts: 15 },
      open: {
        terminals: [...plugTerminals],
        fasteners: [fastener('screw', 4, 'back', { hiddenUnder: 'foot' })],
        parts: ['lens'],
        isolation: dropper,
        capacitorUf: 0.47,
        bleederOhms: 1_000_000,
      },
      identify: { evidence: cm3Evidence },
      pads: { pads: ['GND', 'RX', 'TX', '3V3', 'RST'], pitchMm: 1.27, bootBy: 'none' },
      wire: { entry: 'call', held: 'solder' },
      check: { eraseAll: false, firmware: 'Skiff', firmwareVersion: '2.3', offset: 0x10000, answered: [] },
      start: { log: 'Skiff 2.3 up, light 412, no motion\r\n', strapFree: true },
      pins: {
        template: template('Pellworth N1 night', 'CM3', '15', [
          { pin: 'PB15', fn: 'relay', ch: 1 },
          { pin: 'PB16', fn: 'dim', ch: 2 },
          { pin: 'PB6', fn: 'motion', ch: 0 },
          { pin: 'PB7', fn: 'button', ch: 1, pull: 'up' },
        ]),
      },
      behaviour: {
        channels: [
          { ch: 1, onPower: 'off', tried: true },
          { ch: 2, onPower: 'off', tried: true },
        ],
      },
    },
  },
  bridge: {
    board: { maker: 'Harkle', product: 'Bridge', revision: 'usb', mains: false },
    flashId: '68 40 14',
    printed: 'PW-106 A7',
    stock: lx106Stock,
    image: 'plainsong-lx106-1m-full.bin',
    relays: 0,
    records: {
      arrive: { ratedAmps: 1, mainsVolts: 5, loadWatts: 2 },
      open: {
        noTerminals: true,
        fasteners: [fastener('clip', 2, 'short sides')],
      },
      identify: { evidence: lx106Evidence },
      pads: { pads: ['GND', 'TX', 'RX', '3V3', 'BOOT'], pitchMm: 2.54, bootBy: 'pad' },
      wire: { entry: 'jumper', held: 'jig' },
      check: { eraseAll: true, dataLines: 2, firmware: 'Plainsong', firmwareVersion: '9.4.1', offset: 0 },
    },
  },
  m2: {
    board: { maker: 'Harkle', product: 'M2', revision: 'stock', mains: true, hasMeter: true },
    flashId: '',
    printed: '',
    stock: lx106Stock,
    image: '',
    relays: 1,
    records: { arrive: { ratedAmps: 13, loadWatts: 2000, route: 'local-control' } },
  },
} satisfies Record<string, Design>
type DesignId = keyof typeof designs

interface Cast {
  number: number
  name: string
  place: string
  design: DesignId
  /** Steps up to and without this one are done. */
  until: StepId
  daysAgo: number
  route?: StepData['arrive']['route']
  records?: Patch
}

const cast: Cast[] = [
  { number: 1, name: 'Ticket desk plug', place: 'foyer', design: 'p1c', until: 'watch', daysAgo: 210 },
  { number: 2, name: 'Dressing heater A', place: 'dressing rooms', design: 'p1c', until: 'watch', daysAgo: 190 },
  { number: 3, name: 'Dressing heater B', place: 'dressing rooms', design: 'p1c', until: 'watch', daysAgo: 188 },
  { number: 4, name: 'Heater plug, props store', place: 'props store', design: 'p1c', until: 'watch', daysAgo: 400 },
  { number: 5, name: 'Foyer lamp switch', place: 'foyer', design: 'duo', until: 'watch', daysAgo: 160 },
  { number: 6, name: 'Corridor switch', place: 'corridor', design: 'duo', until: 'watch', daysAgo: 150 },
  { number: 8, name: 'Box-office modem', place: 'box office', design: 'p1c', until: 'watch', daysAgo: 120 },
  { number: 10, name: 'Stage door latch', place: 'stage door', design: 'l12', until: 'watch', daysAgo: 100 },
  {
    number: 21,
    name: 'Kettle plug',
    place: 'kitchen',
    design: 'm2',
    until: 'watch',
    daysAgo: 60,
    route: 'local-control',
  },
  { number: 24, name: 'Orchestra relays', place: 'pit', design: 'q4', until: 'hub', daysAgo: 31 },
  {
    number: 12,
    name: 'Fly-loft relays',
    place: 'fly loft',
    design: 'q8',
    until: 'behaviour',
    daysAgo: 20,
    route: 'ready-flashed',
  },
  {
    number: 15,
    name: 'Night plug, stairs',
    place: 'stairs',
    design: 'n1',
    until: 'join',
    daysAgo: 16,
    records: {
      join: {
        apMac: 'ba:3c:d0:77:1e:8f',
        nameSuffix: '1E8F',
        before:
          '192.168.71.1 dev br0 lladdr 6c:10:aa:00:00:01 REACHABLE\n192.168.71.33 dev br0 lladdr b8:3c:d0:77:1e:8d STALE\n',
        after:
          '1779220000 6c:10:aa:00:00:01 192.168.71.1 gateway *\n1779220100 b8:3c:d0:77:1e:8d 192.168.71.33 skiff-1e8d *\n1779223600 b8:3c:d0:77:1e:8f 192.168.71.135 skiff-1e8f *\n1779223700 b8:3c:d0:77:1e:a4 192.168.71.136 * *\n',
      },
    },
  },
  { number: 19, name: 'Props latch', place: 'props store', design: 'l12', until: 'pins', daysAgo: 12 },
  { number: 7, name: 'Glue-pot plug', place: 'workshop', design: 'p1c', until: 'meter', daysAgo: 9 },
  {
    number: 13,
    name: 'Shadow lamp',
    place: 'understage',
    design: 'glow',
    until: 'pads',
    daysAgo: 8,
    route: 'module-off',
  },
  {
    number: 14,
    name: 'Moon lamp',
    place: 'understage',
    design: 'glow',
    until: 'identify',
    daysAgo: 7,
    route: 'module-off',
    records: { identify: { evidence: [{ kind: 'crystal', value: '26' }] } },
  },
  {
    number: 23,
    name: 'Foyer fan plug',
    place: 'foyer',
    design: 'p1d',
    until: 'identify',
    daysAgo: 6,
    records: {
      identify: {
        evidence: [
          { kind: 'crystal', value: '40', sure: 0.7 },
          { kind: 'flash_chip', value: 'external8' },
          { kind: 'ble_seen', value: 'yes' },
          { kind: 'boot_text', value: 'cause_74880' },
        ],
      },
    },
  },
  { number: 22, name: 'Wardrobe iron plug', place: 'wardrobe', design: 'p1d', until: 'open', daysAgo: 5 },
  { number: 11, name: 'Curtain rail relays', place: 'fly loft', design: 'q4', until: 'check', daysAgo: 4 },
  { number: 20, name: 'Sensor bridge', place: 'box office', design: 'bridge', until: 'write', daysAgo: 3 },
  { number: 9, name: 'Glue-pot plug, spare', place: 'workshop', design: 'p1c', until: 'backup', daysAgo: 2 },
  { number: 16, name: 'Night plug, workshop', place: 'workshop', design: 'n1', until: 'arrive', daysAgo: 1 },
  {
    number: 18,
    name: 'Footlight plug, stage right',
    place: 'understage',
    design: 'p1c',
    until: 'check',
    daysAgo: 0.12,
  },
  {
    number: 17,
    name: 'Footlight plug, stage left',
    place: 'understage',
    design: 'p1c',
    until: 'wire',
    daysAgo: 0.06,
    records: { wire: { entry: 'button', held: 'plug' } },
  },
]

const stationMac = (n: number) => `b8:3c:d0:77:1e:${(0x80 + n).toString(16)}`
const accessMac = (n: number) => `ba:3c:d0:77:1e:${(0x80 + n).toString(16)}`

/** When work on a unit began: ten in the morning of an earlier day, or today after midnight. A gate holds for one day. */
function startOf(daysAgo: number, now: Date): Date {
  const start = new Date(now.getTime() - daysAgo * 86_400_000)
  if (daysAgo >= 1) {
    start.setHours(10, 0, 0, 0)
    return start
  }
  const midnight = new Date(now)
  midnight.setHours(0, 0, 0, 0)
  return start < midnight ? midnight : start
}

export async function loadLanternYard(db: Db, now: Date, say: (line: string) => void): Promise<void> {
  let clock = new Date(now.getTime() - 420 * 86_400_000)
  const run = async (command: CommandName, input: Record<string, unknown>): Promise<Record<string, unknown>> => {
    const result = await runCommand(db, command, input, clock)
    if (!result.ok)
      throw new Error(`${command} ${JSON.stringify(input).slice(0, 200)}: ${result.error.message} ${result.error.next}`)
    return result.value
  }
  const keep = async (
    kind: 'dump' | 'image' | 'photo',
    name: string,
    bytes: Uint8Array,
    more: { unitId?: string; read?: 1 | 2; tag?: string } = {},
  ) => {
    const result = await keepFile(
      db,
      { kind, name, unitId: more.unitId ?? null, read: more.read ?? null, tag: more.tag ?? null },
      bytes,
      clock,
    )
    if (!result.ok) throw new Error(`${name}: ${result.error.message}`)
    return result.value.id as string
  }

  await run('set-site', { name: 'Lantern Yard', base: 'yard', slug: 'lantern' })
  const adapter = (
    await run('add-kit', {
      kind: 'adapter',
      name: 'Adapter 2, six pins',
      data: { pins: ['GND', 'CTS', '5V', 'TX', 'RX', '3V3'], logicV: 3.3, max3v3Ma: 250, labelledFrom: 'adapter' },
    })
  ).id as string
  await run('add-kit', {
    kind: 'adapter',
    name: 'Old five-volt adapter',
    data: { pins: ['5V', 'GND', 'TX', 'RX'], logicV: 5, max3v3Ma: null, labelledFrom: 'adapter' },
  })
  const strong = (
    await run('add-kit', {
      kind: 'adapter',
      name: 'Bench adapter, two grounds',
      data: {
        pins: ['GND', 'RX', 'TX', '3V3', 'GND', 'DTR', 'RTS'],
        logicV: 3.3,
        max3v3Ma: 700,
        labelledFrom: 'adapter',
      },
    })
  ).id as string
  const instrument = (
    await run('add-kit', {
      kind: 'instrument',
      name: 'Outlet meter',
      data: { gainPct: 0.5, digits: 2, resolution: 0.1 },
    })
  ).id as string
  for (const [name, watts, kind] of [
    ['Work lamp', 60, 'resistive'],
    ['Two work lamps', 120, 'resistive'],
    ['Fan heater, low', 1000, 'resistive'],
    ['Fan heater, high', 1920, 'resistive'],
    ['Phone charger', 10, 'charger'],
  ] as const)
    await run('add-kit', { kind: 'load', name, data: { watts, kind } })
  const hub = (await run('add-hub', { name: 'Mantel' })).id as string

  const imageIds: Record<string, string> = {}
  for (const [name, bytes, firmware, release] of [
    ['plainsong-lx106-1m-full.bin', lx106Image('DOUT', 11), 'Plainsong', '9.4.1/full'],
    ['plainsong-lx106-1m-dio.bin', lx106Image('DIO', 11), 'Plainsong', '9.4.1/full'],
    ['lattice-lx6-4m.bin', lx6Image('2.3.0'), 'Lattice', '2.3.0/full'],
    ['skiff-arm968b.bin', arm968Image(), 'Skiff', '2.3/full'],
    ['skiff-cm3.bin', cm3Image(), 'Skiff', '2.3/full'],
  ] as const) {
    const fileId = await keep('image', name, bytes)
    await run('describe-file', { fileId, version: 1, origin: 'the publisher’s page', firmware, release })
    imageIds[name] = fileId
  }

  const boardIds: Partial<Record<DesignId, string>> = {}
  for (const [id, design] of Object.entries(designs) as [DesignId, Design][])
    boardIds[id] = (await run('create-board', design.board)).id as string

  for (const role of cast) {
    clock = startOf(role.daysAgo, now)
    const design: Design = designs[role.design]
    const unitId = (
      await run('create-unit', {
        number: role.number,
        name: role.name,
        place: role.place,
        boardId: boardIds[role.design],
      })
    ).id as string
    const load = async () => {
      const view = await loadUnit(db, unitId, clock)
      if (!view) throw new Error(`unit ${role.number} is not there`)
      return view
    }
    /** Enters a record: what the board knows, what the design says, what is this unit's own. */
    const enter = async (step: StepId, own: object = {}) => {
      const record = (await load()).records[step]
      await run('save-step', {
        unitId,
        step,
        version: record.version,
        data: { ...record.data, ...design.records[step], ...own, ...role.records?.[step] },
      })
    }
    const confirm = async (step: StepId) => {
      const view = await load()
      for (const gate of gatesFor(view, step))
        if (!gateHolds(view, gate))
          await run('confirm-gate', { unitId, gate, measured: gate === 'discharged' ? '0.4' : '' })
    }
    // Hands learn: the second of a board is quicker than the first, and so on.
    const earlier = cast.filter((c) => c.design === role.design && c.daysAgo > role.daysAgo).length
    const pace = Math.max(0.3, 0.78 ** earlier)
    const minutes = (wanted: number) => {
      const n = wanted * pace
      // Work of a day stays on its day, so that the gates of the morning hold in the evening.
      const later = new Date(clock.getTime() + n * 60_000)
      clock =
        later.getTime() > now.getTime() - 30_000 ? new Date(Math.max(clock.getTime(), now.getTime() - 30_000)) : later
    }

    const prepare: { [S in StepId]?: () => Promise<void> } = {
      arrive: () => enter('arrive', { route: role.route ?? 'wires-in-place', triedAsSold: 'works' }),
      open: async () => {
        const pads = (design.records.pads?.pads ?? []).length || 4
        const name = (tag: string) => `unit${String(role.number).padStart(2, '0')}-${tag.replaceAll('_', '-')}.png`
        await enter('open')
        // The first of a board is photographed from all sides; later ones need one.
        let top = ''
        for (const tag of missingPhotos(await load())) {
          const fileId = await keep('photo', name(tag), boardPhoto(pads, tag === 'board_top' ? design.relays : 0), {
            unitId,
            tag,
          })
          if (tag === 'board_top') top = fileId
          minutes(1)
        }
        const view = await load()
        const { fasteners } = view.records.open.data
        await enter('open', {
          taken: fasteners.map((f) => f.id),
          minutes: Math.round(11 * pace),
          marks: [
            { id: `${role.number}-chip`, fileId: top, kind: 'chip', x: 0.23, y: 0.37, label: design.printed },
            ...Array.from({ length: pads }, (_, i) => ({
              id: `${role.number}-pad${i}`,
              fileId: top,
              kind: 'pad',
              x: (54 + i * 22) / 320,
              y: 146 / 200,
              label: design.records.pads?.pads?.[i] ?? '',
            })),
          ],
        })
      },
      identify: () => enter('identify', { printed: design.printed }),
      pads: async () => {
        const known = (await load()).board?.pads != null
        await enter('pads', known ? {} : { readings: readingsOf(design.records.pads?.pads ?? []) })
      },
      wire: () =>
        enter('wire', {
          adapterId: design.records.wire?.entry === 'jumper' ? strong : adapter,
          power: design.records.wire?.entry === 'jumper' ? 'adapter3v3' : 'bench',
        }),
      backup: async () => {
        await enter('backup', { flashId: design.flashId })
        const bytes = design.stock(role.number)
        const name = (read: number) => `unit${String(role.number).padStart(3, '0')}_read${read}.bin`
        await keep('dump', name(1), bytes, { unitId, read: 1 })
        minutes(4)
        await keep('dump', name(2), bytes, { unitId, read: 2 })
      },
      check: async () => {
        await enter('check', { fileId: imageIds[design.image] })
        const watch = preflightOf(await load())?.findings.filter((f) => f.severity === 'watch') ?? []
        await enter('check', { answered: watch.map((f) => f.code) })
      },
      write: async () => {
        await confirm('write')
        minutes(3)
        await run('log-attempt', {
          unitId,
          outcome: 'done',
          minutes: 9 + (role.number % 5),
          seconds: 43 + (role.number % 4),
          verify: 'digest',
          verified: true,
          message: '',
        })
        await confirm('write')
      },
      join: () =>
        enter('join', {
          apMac: accessMac(role.number),
          nameSuffix: accessMac(role.number).replaceAll(':', '').slice(-4).toUpperCase(),
          address: `192.168.71.${20 + role.number}`,
          mac: stationMac(role.number),
          confirmedBy: 'match',
        }),
      close: async () => {
        const open = (await load()).records.open.data
        await enter('close', {
          ...(open.fasteners.some((f) => f.restore === 'glue')
            ? { gluedAt: new Date(clock.getTime() - 30 * 3_600_000).toISOString(), glueHours: 24 }
            : {}),
          restored: Object.fromEntries(open.fasteners.map((f) => [f.id, f.count])),
          partsBack: open.parts,
        })
      },
      meter: async () => {
        const view = await load()
        if (!view.board?.hasMeter) return
        const scale = 1 + role.number / 1000
        const points = [
          ['p1', 58.1, 60.2],
          ['p2', 115.9, 120.4],
          ['p3', 481.0, 500.9],
          ['p4', 961.8, 1001.2],
          ['p5', 1844.6, 1921.0],
          ['v1', 722.4, 751.6],
        ] as const
        await enter('meter', {
          instrumentId: instrument,
          warm: true,
          zeros: [0, 0.1, 0, 0.2, 0.1],
          points: points.map(([id, indicated, reference]) => ({
            id,
            indicated: Math.round((indicated / scale) * 10) / 10,
            reference,
            role: id === 'v1' ? 'verify' : 'fit',
          })),
        })
        await run('save-calibration', { unitId })
      },
      name: () => enter('name', { reserved: true }),
      hub: async () => {
        await enter('hub', { hubId: hub })
        await run('add-hub-test', { unitId, direction: 'hub to unit', ok: true, seen: 'the load went on and off' })
        await run('add-hub-test', { unitId, direction: 'button to hub', ok: true, seen: 'Mantel showed the press' })
        if (role.number === 21)
          await run('keep-secret', { unitId, name: 'Local key', keptIn: 'hub', value: 'made-up-local-key-21' })
      },
      prove: () => enter('prove', { powerCut: { seconds: 12, cameBack: 'as wanted', rejoinSeconds: 9 } }),
    }

    for (const step of stepIds) {
      if (step === role.until || step === 'watch') break
      if (assess(await load()).steps.find((s) => s.id === step)?.state === 'skipped') continue
      minutes({ open: 11, identify: 8, pads: 14, wire: 9, pins: 12, meter: 15 }[step as string] ?? 4)
      const work = prepare[step]
      if (work) await work()
      else if (design.records[step] || role.records?.[step]) await enter(step)
      await confirm(step)
      await run('finish-step', { unitId, step })
    }
    if (role.records?.[role.until] && role.until !== 'watch') await enter(role.until)

    if (role.number === 6) {
      // The router gave it another address later: what was tested with the hub no longer stands.
      clock = new Date(now.getTime() - 3 * 86_400_000)
      await enter('join', { apMac: accessMac(6), address: '192.168.71.126', mac: stationMac(6), confirmedBy: 'match' })
    }
    if (role.number === 9) {
      await enter('backup', { flashId: design.flashId })
      const first = design.stock(9)
      const second = first.slice()
      for (const at of [0x3005, 0x3fff, 0x90000]) second[at] = (second[at] as number) & 0x7e
      await keep('dump', 'unit009_read1.bin', first, { unitId, read: 1 })
      await keep('dump', 'unit009_read2.bin', second, { unitId, read: 2 })
    }
    if (role.number === 11)
      await enter('check', {
        fileId: imageIds['plainsong-lx106-1m-dio.bin'],
        firmware: 'Plainsong',
        firmwareVersion: '9.4.1',
      })
    if (role.number === 18) await enter('check', { fileId: imageIds['plainsong-lx106-1m-full.bin'] })
    if (role.number === 20) {
      await confirm('write')
      await run('log-attempt', {
        unitId,
        outcome: 'lost-midway',
        minutes: 14,
        verify: 'digest',
        verified: false,
        message: 'stopped at 61 %: no answer',
      })
    }
    if (role.number === 13) {
      // A lamp module on the bench: half the readings are in.
      const pads = await load()
      await run('save-step', {
        unitId,
        step: 'pads',
        version: pads.records.pads.version,
        data: {
          ...pads.records.pads.data,
          pads: Array.from({ length: 6 }, () => 'UNKNOWN'),
          pitchMm: 2,
          bootBy: 'none',
          readings: [
            { square: true, cont_gnd: false, ohms_3v3: 0.4, volts: 3.3 },
            { cont_gnd: false, ohms_3v3: 'open', volts: 3.27 },
            { cont_gnd: false, ohms_3v3: 'open', volts: 3.08, volts_10k: 0.6 },
            { cont_gnd: false, ohms_3v3: 10_200 },
            { cont_gnd: true, volts: 0 },
            { label: 'P24' },
          ],
        },
      })
    }
    if (role.number === 20) {
      const search = (await run('open-trouble', { unitId, step: 'write', symptom: 'drops_midway' })).id
      await run('answer-trouble', { troubleId: search, test: 'rail_ok', yes: true })
      await run('answer-trouble', { troubleId: search, test: 'other_rate_helps', yes: false })
    }
    for (const [number, symptom, test, yes, cause] of [
      [2, 'writes_no_start', 'boot_pad_high', false, 'strap_left'],
      [3, 'no_answer', 'swap_helps', true, 'txrx_swapped'],
      [4, 'writes_no_start', 'download_text', true, 'strap_left'],
      [7, 'writes_no_start', 'boot_pad_high', false, 'strap_left'],
      [8, 'drops_midway', 'wiggle', true, 'loose_contact'],
    ] as const) {
      if (role.number !== number) continue
      const search = (await run('open-trouble', { unitId, step: 'start', symptom })).id
      await run('answer-trouble', { troubleId: search, test, yes })
      await run('close-trouble', { troubleId: search, cause })
    }
    if (role.number === 17) {
      await enter('wire', { adapterId: adapter, entry: 'button' })
      await run('take-in-hand', { unitId })
    }
    say(`${String(role.number).padStart(2, '0')} ${role.name}`)
  }
}

/** Every template of the demo is possible on its family: a test calls this. */
export const demoTemplates = (): { name: string; errors: number }[] =>
  Object.entries(designs as Record<string, Design>).flatMap(([name, d]) =>
    d.records.pins?.template ? [{ name, errors: checkTemplate(d.records.pins.template).counts.error }] : [],
  )
