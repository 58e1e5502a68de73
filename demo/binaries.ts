import { crc16 } from '@fresh-coat/core/bytes/checksums'
import { bytesOfLatin1 } from '@fresh-coat/core/bytes/text'
import {
  buildChip,
  buildDescriptor,
  buildExtended,
  buildLx106,
  buildPartitions,
  buildSlotSelect,
  noise,
  twoSlotLayout,
} from '@fresh-coat/core/image/build'
import type { FlashMode } from '@fresh-coat/core/image/image'

/** Files in the true formats, made from a seed: what the units of Lantern Yard came with, and what goes into them. */
const mib = 1048576

/** Code that looks like code: packed noise with runs and words in it, so that its sectors are of every class. */
function program(length: number, seed: number): Uint8Array {
  const bytes = noise(length, seed)
  for (let i = 0; i < length; i++) if ((i >> 9) % 3 !== 0) bytes[i] = (bytes[i] as number) & 0x3f
  bytes.set(
    bytesOfLatin1('relay=%d state=%s uptime %u s\r\nlink up, lease %s\r\n'.repeat(60)).subarray(
      0,
      Math.min(length, 3000),
    ),
    Math.max(0, length - 4096),
  )
  return bytes
}

export const lx106Image = (mode: FlashMode, seed: number): Uint8Array =>
  buildLx106({
    mode,
    sizeCode: 2,
    entry: 0x40100010,
    segments: [
      { address: 0x40100000, data: program(31_728, seed) },
      { address: 0x3ffe8000, data: program(2_048, seed + 1) },
      { address: 0x40201010, data: program(404_480, seed + 2) },
    ],
  })

/** A stock chip of 1 MiB: program, web pages, and this unit's own settings at the end. */
export function lx106Stock(unit: number): Uint8Array {
  const settings = bytesOfLatin1(
    `{"ssid":"LanternYard","pass":"limelight-${unit}","dev":"unit-${unit}","relay1_gpio":12,"led_gpio":13,"button1_gpio":0}`,
  )
  return buildChip(mib, [
    [0, lx106Image('DOUT', 77)],
    [
      0x70000,
      bytesOfLatin1(
        '<html><head><title>Setup</title></head><body>Welcome to your plug. Choose your network.</body></html>\n'.repeat(
          160,
        ),
      ),
    ],
    [0xfb000, settings],
    [0xfd000, noise(512, unit)],
    [0xfe000, new Uint8Array(128).fill(5)],
  ])
}

const table = buildPartitions(twoSlotLayout)

/** A program of its own for an app partition. */
export const lx6App = (version: string, seed: number) =>
  buildExtended({
    mode: 'DIO',
    sizeCode: 2,
    entry: 0x400d0020,
    chipId: 0,
    segments: [
      {
        address: 0x3f400020,
        data: Uint8Array.from([
          ...buildDescriptor({ version, project: 'lattice', time: '18:30:00', date: 'Jan  6 2026', framework: '5.2' }),
          ...program(60_000, seed),
        ]),
      },
      { address: 0x400d0020, data: program(420_000, seed + 1) },
    ],
  })
const lx6Boot = buildExtended({
  mode: 'DIO',
  sizeCode: 2,
  entry: 0x40080000,
  chipId: 0,
  segments: [{ address: 0x3fff0018, data: program(18_000, 5) }],
})

/** Whole-chip file for an LX6 of 4 MiB: boot loader, table, program in slot A. */
export const lx6Image = (version: string): Uint8Array => {
  const app = lx6App(version, 31)
  return buildChip(0x10000 + app.length, [
    [0x1000, lx6Boot],
    [0x8000, table],
    [0xd000, buildSlotSelect(1)],
    [0x10000, app],
  ])
}

export const lx6Stock = (unit: number): Uint8Array =>
  buildChip(4 * mib, [
    [0x1000, lx6Boot],
    [0x8000, table],
    [0x9000, bytesOfLatin1(`wifi.ssid=LanternYard\0wifi.pass=limelight-${unit}\0`)],
    [0xd000, buildSlotSelect(11)],
    [0xe000, buildSlotSelect(12)],
    [0x10000, lx6App('1.0.4', 41)],
    [0x190000, lx6App('1.1.0', 43)],
    [0x310000, bytesOfLatin1('<html>relay board</html>\n'.repeat(3000))],
  ])

/** Code as ARM968 flash keeps it: 32 bytes and their check bytes. */
function withCheckBytes(code: Uint8Array): Uint8Array {
  const out = new Uint8Array(Math.ceil(code.length / 32) * 34)
  for (let i = 0; i * 32 < code.length; i++) {
    const block = new Uint8Array(32).fill(0xff)
    block.set(code.subarray(i * 32, i * 32 + 32))
    out.set(block, i * 34)
    const c = crc16(block)
    out.set([c >> 8, c & 0xff], i * 34 + 32)
  }
  return out
}
export const arm968Image = (): Uint8Array => withCheckBytes(program(300_000, 51))
export const arm968Stock = (unit: number): Uint8Array =>
  buildChip(2 * mib, [
    [0, withCheckBytes(program(0x10000 - 64, 61))],
    [0x11000, withCheckBytes(program(700_000, 63))],
    [0x1d0000, noise(4096, unit)],
    [0x1e1000, bytesOfLatin1(`ssid=LanternYard psk=limelight-${unit}`)],
  ])

export const cm3Image = (): Uint8Array => Uint8Array.from([0x9f, 0xff, 0xff, 0xa0, ...program(260_000, 71)])
export const cm3Stock = (unit: number): Uint8Array =>
  buildChip(mib, [
    [0, cm3Image()],
    [0xf0000, noise(2048, unit)],
  ])
