import type { StepData } from '@fresh-coat/core/unit/records'
import type { StepId } from '@fresh-coat/core/unit/way'
import type { DesignId, Patch } from './designs'

/** The units of Lantern Yard, in the order they came to the bench, and how far each has come. */

export interface Cast {
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

export const cast: Cast[] = [
  {
    number: 1,
    name: 'Ticket desk plug',
    place: 'foyer',
    design: 'p1c',
    until: 'watch',
    daysAgo: 210,
    records: { arrive: { loadWatts: 60 } },
  },
  {
    number: 2,
    name: 'Dressing heater A',
    place: 'dressing rooms',
    design: 'p1c',
    until: 'watch',
    daysAgo: 190,
    records: { arrive: { loadWatts: 1900, load: 'heater' } },
  },
  {
    number: 3,
    name: 'Dressing heater B',
    place: 'dressing rooms',
    design: 'p1c',
    until: 'watch',
    daysAgo: 188,
    records: { arrive: { loadWatts: 1900, load: 'heater' } },
  },
  {
    number: 4,
    name: 'Heater plug, props store',
    place: 'props store',
    design: 'p1c',
    until: 'watch',
    daysAgo: 400,
    records: { arrive: { loadWatts: 1200, load: 'heater' } },
  },
  { number: 5, name: 'Foyer lamp switch', place: 'foyer', design: 'duo', until: 'watch', daysAgo: 160 },
  { number: 6, name: 'Corridor switch', place: 'corridor', design: 'duo', until: 'watch', daysAgo: 150 },
  {
    number: 8,
    name: 'Box-office modem',
    place: 'box office',
    design: 'p1c',
    until: 'watch',
    daysAgo: 120,
    records: { arrive: { loadWatts: 11, load: 'modem' } },
  },
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
  {
    number: 7,
    name: 'Glue-pot plug',
    place: 'workshop',
    design: 'p1c',
    until: 'meter',
    daysAgo: 9,
    records: { arrive: { loadWatts: 240 } },
  },
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
