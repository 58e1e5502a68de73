import type { ConsoleWords } from '@fresh-coat/core/link/questions'
import type { Phrases } from '@fresh-coat/core/profile/phrases'
import { count } from 'drizzle-orm'
import type { Db } from '../db/client'
import { profile } from '../db/schema'

const release = (version: string, build: string, bytes: number, more: object = {}) => ({
  version,
  build,
  family: 'LX106',
  bytes,
  gzBytes: null,
  acceptsGzip: false,
  minFrom: null,
  minHost: null,
  layout: null,
  stop: false,
  note: '',
  ...more,
})

/** What Plainsong can be asked over its console, in its own words. */
const plainsongConsole: ConsoleWords = {
  rate: 115_200,
  ends: 'crlf',
  accessPoint: ['air of my own: {name}'],
  questions: [
    { what: 'status', say: 'how goes it', answers: ['it goes {how}, awake {seconds:int} s'], withinMs: 3000 },
    { what: 'version', say: 'which coat', answers: ['coat {name} {version}'], withinMs: 3000 },
    { what: 'restart', say: 'sing again', answers: ['singing again'], withinMs: 8000 },
    { what: 'relay-on', say: 'relay {n:int} on', answers: ['relay {n:int} is {state:on|off}'], withinMs: 3000 },
    { what: 'relay-off', say: 'relay {n:int} off', answers: ['relay {n:int} is {state:on|off}'], withinMs: 3000 },
    { what: 'level', say: 'look at pad {n:int}', answers: ['pad {n:int} reads {state:high|low}'], withinMs: 3000 },
    { what: 'drive', say: 'pad {n:int} high', answers: ['pad {n:int} is {state:high|low}'], withinMs: 3000 },
    { what: 'rest', say: 'pad {n:int} low', answers: ['pad {n:int} is {state:high|low}'], withinMs: 3000 },
  ],
}

const words = (name: string, form: Phrases['form'], maxLine: number, phrases: Phrases['phrases']): Phrases => ({
  format: 'fresh-coat/phrases',
  version: 1,
  name,
  form,
  maxLine,
  phrases,
})

/** Settings as each of them takes it: lines, a tree, a list of what to tick on its pages. */
const plainsongWords = words('Plainsong', 'lines', 64, {
  'pin.relay': 'let {gpio} move relay {index}, {active} means on',
  'pin.button': 'let {gpio} hear button {index}',
  'pin.switch': 'let {gpio} hear switch {index}',
  'pin.motion': 'let {gpio} hear movement {index}',
  'pin.led': 'let {gpio} shine {index}, {active} means lit',
  'pin.pulse-power': 'let {gpio} count watts',
  'pin.pulse-volt-amp': 'let {gpio} count volts and amperes in turn',
  'pin.pulse-choice': 'let {gpio} choose between the two',
  'power.off': 'relay {index} wakes off',
  'power.on': 'relay {index} wakes on',
  'power.last': 'relay {index} wakes as it slept',
  pulse: 'relay {index} lets go after {ms|s} s',
  debounce: 'button {index} settles in {ms} ms',
  hold: 'button {index} is long after {ms|s} s',
  'rule.short.toggle': 'when button {inputIndex} is short, flip relay {index}',
  'rule.hold.toggle': 'when button {inputIndex} is long, flip relay {index}',
  'rule.change.toggle': 'when switch {inputIndex} moves, flip relay {index}',
  'net.first': 'air {ssid} key {password}',
  'net.name': 'call me {host}',
  'mqtt.server': 'post {host}:{port}',
  'mqtt.topic': 'post under {topic}',
})
const latticeWords = words('Lattice', 'yaml', 0, {
  'pin.relay': ['outlets.r{index}.pad = {pin}', 'outlets.r{index}.rest = {active|01}'],
  'pin.button': 'ears.b{index}.pad = {pin}',
  'pin.led': 'lamps.l{index}.pad = {pin}',
  'power.off': 'outlets.r{index}.wake = off',
  'power.on': 'outlets.r{index}.wake = on',
  'power.last': 'outlets.r{index}.wake = last',
  motor: [
    'drives.{id}.open-seconds = {openMs|s}',
    'drives.{id}.close-seconds = {closeMs|s}',
    'drives.{id}.relays = {open}+{close}',
  ],
})
const skiffWords = words('Skiff', 'checklist', 60, {
  'pin.relay': 'Pin page: {pin} is a relay, slot {index|z2}',
  'pin.button': 'Pin page: {pin} is a button, slot {index|z2}',
  'pin.cool': 'Pin page: {pin} is cool white, slot {index|z2}',
  'pin.warm': 'Pin page: {pin} is warm white, slot {index|z2}',
  'power.off': 'Start page: slot {index|z2} off',
  'power.last': 'Start page: slot {index|z2} as before',
})

/** Three made-up firmware profiles as editable data; the user adds their own. */
const shipped = [
  {
    name: 'Plainsong',
    data: {
      families: ['LX106', 'LX6'],
      setupAddress: '192.168.4.1',
      setup: { by: 'presses', presses: 4, withinS: 3, light: 'flickers, then breathes slowly' },
      console: plainsongConsole,
      phrases: plainsongWords,
      about: 'Small and plain, for plugs and switches.',
      releases: [
        release('3.1.0', 'small', 330_000),
        release('3.1.0', 'full', 545_000),
        release('6.0.0', 'small', 338_000, { stop: true, note: 'Settings are converted here.' }),
        release('6.0.0', 'full', 580_000, { stop: true, note: 'Settings are converted here.' }),
        release('9.4.1', 'small', 351_000, { minFrom: '6.0.0' }),
        release('9.4.1', 'full', 438_304, { minFrom: '6.0.0' }),
        release('9.5.0', 'small', 356_000, { minFrom: '6.0.0' }),
        release('7.4', 'radio', 214_000, { minHost: '9.0' }),
        release('7.5', 'radio', 219_000, { minHost: '9.5.0' }),
        release('9.5.0', 'full', 641_000, { minFrom: '6.0.0', gzBytes: 415_000 }),
      ],
    },
  },
  {
    name: 'Lattice',
    data: {
      families: ['LX6', 'LX7', 'RV32'],
      setupAddress: '10.44.0.1',
      setup: { by: 'hold', holdS: 6, wipesAfterS: 20, light: 'goes dark, then blinks twice and again' },
      phrases: latticeWords,
      about: 'For boards with many outputs.',
      releases: [
        release('2.3.0', 'full', 480_336, { family: 'LX6' }),
        release('2.4.0', 'full', 1_204_000, { family: 'LX6' }),
        release('3.0.0', 'full', 1_610_000, { family: 'LX6', layout: 'wide', note: 'Needs larger slots.' }),
      ],
    },
  },
  {
    name: 'Skiff',
    data: {
      families: ['ARM968-A', 'ARM968-B', 'CM3'],
      setupAddress: '192.168.19.1',
      setup: { by: 'presses', presses: 6, withinS: 4, light: 'stays lit' },
      phrases: skiffWords,
      about: 'For the families without a boot strap.',
      startOffsets: { CM3: 0x10000 },
    },
  },
]

/** Puts the shipped profiles into a database that has none. */
export async function shipProfiles(db: Db): Promise<void> {
  const [row] = await db.select({ n: count() }).from(profile)
  if (row?.n === 0) await db.insert(profile).values(shipped)
}
