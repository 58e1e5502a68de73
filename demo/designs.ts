import { checkTemplate } from '@fresh-coat/core/pins/check'
import type { PinTemplate, TemplatePin } from '@fresh-coat/core/pins/template'
import type { StepData } from '@fresh-coat/core/unit/records'
import type { StepId } from '@fresh-coat/core/unit/way'
import type { PadRole } from '@fresh-coat/core/wiring/wiring'
import { arm968Stock, cm3Stock, lx6Stock, lx106Stock } from './binaries'

/** The boards of Lantern Yard, and what a person enters at each step for a unit of them. */

export type Patch = { [S in StepId]?: Partial<StepData[S]> }

export interface Design {
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
export function readingsOf(roles: readonly PadRole[]): StepData['pads']['readings'] {
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

export const designs = {
  p1c: {
    board: { maker: 'Pellworth', product: 'P1', revision: 'rev C', mains: true, hasMeter: true },
    flashId: '68 40 14',
    printed: 'PW-106 A7',
    stock: lx106Stock,
    image: 'plainsong-lx106-1m-full.bin',
    relays: 1,
    records: {
      arrive: { ratedAmps: 10, paid: 9.5, loadWatts: 1200, load: 'heater' },
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
          { pin: 'GPIO4', fn: 'pulse-volt-amp' },
          { pin: 'GPIO5', fn: 'pulse-power' },
          { pin: 'GPIO14', fn: 'pulse-choice' },
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
      arrive: { ratedAmps: 10, paid: 8.9, loadWatts: 60, load: 'lamp' },
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
      arrive: { ratedAmps: 6, paid: 11.4, loadWatts: 300, load: 'lamp' },
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
      arrive: { ratedAmps: 5, paid: 12.2, mainsVolts: 12, loadWatts: 30, load: 'motor' },
      open: { noTerminals: true },
      identify: { evidence: lx6Evidence },
      pads: { pads: ['GND', '3V3', 'TX', 'RX', 'BOOT', 'RST'], pitchMm: 2.54, bootBy: 'pad' },
      wire: { entry: 'jumper', held: 'jig' },
      check: { eraseAll: true, firmware: 'Lattice', firmwareVersion: '2.3.0', offset: 0 },
      start: { log: lx6Boot, strapFree: true },
      pins: {
        template: {
          ...template('Quoinsby Q4 12 V', 'LX6', '24', [
            { pin: 'GPIO16', fn: 'relay', ch: 1, start: 'off' },
            { pin: 'GPIO17', fn: 'relay', ch: 2, start: 'off' },
            { pin: 'GPIO18', fn: 'relay', ch: 3, start: 'off' },
            { pin: 'GPIO19', fn: 'relay', ch: 4, start: 'off' },
            { pin: 'GPIO0', fn: 'button', ch: 1, pull: 'up' },
          ]),
          // Two curtain motors, each on two relays.
          motors: [
            { open: 1, close: 2, interlock: true, deadMs: 500 },
            { open: 3, close: 4, interlock: true, deadMs: 500 },
          ],
        },
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
      arrive: { ratedAmps: 5, paid: 7.8, mainsVolts: 12, loadWatts: 60, load: 'lamp' },
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
      arrive: { ratedAmps: 0.1, paid: 4.9, loadWatts: 9 },
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
      arrive: { ratedAmps: 3, paid: 24.5, mainsVolts: 12, loadWatts: 18, load: 'latch-locks', wayOut: false },
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
      arrive: { ratedAmps: 10, paid: 9.5, loadWatts: 15, load: 'modem' },
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
      arrive: { ratedAmps: 1, paid: 3.6, mainsVolts: 5, loadWatts: 2, load: 'other' },
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
    records: { arrive: { ratedAmps: 13, paid: 14.9, loadWatts: 2000, load: 'heater', route: 'local-control' } },
  },
} satisfies Record<string, Design>
export type DesignId = keyof typeof designs

/** Every template of the demo is possible on its family: a test calls this. */
export const demoTemplates = (): { name: string; errors: number }[] =>
  Object.entries(designs as Record<string, Design>).flatMap(([name, d]) =>
    d.records.pins?.template ? [{ name, errors: checkTemplate(d.records.pins.template).counts.error }] : [],
  )
