import { compareDumps } from '@fresh-coat/core/dump/compare'
import { inspectDump } from '@fresh-coat/core/dump/inspect'
import { printableStrings } from '@fresh-coat/core/dump/strings'
import { inspectImage } from '@fresh-coat/core/image/inspect'
import { readTableFile } from '@fresh-coat/core/image/partitions'
import { patchMode } from '@fresh-coat/core/image/patch'
import { gzipSync } from 'fflate'
import { lx6Image, lx6Stock, lx106Image, lx106Stock } from '../demo/binaries'
import { boardPhoto } from '../demo/pictures'
import { ask } from './server'
import { each, Tally } from './tally'

/** Files cut, bent, spliced and flooded: judged in words, never a crash, never a long wait. */

/** The same numbers every time: a fault is found again. */
function random(seed: number): (below: number) => number {
  let state = seed >>> 0
  return (below) => {
    state = (Math.imul(state ^ (state >>> 15), 0x2c1b3c6d) + 0x9e3779b9) >>> 0
    const mixed = Math.imul(state ^ (state >>> 12), 0x297a2d39) >>> 0
    return below <= 0 ? 0 : mixed % below
  }
}

const flood = (text: string, bytes: number) => {
  const unit = new TextEncoder().encode(text)
  return new Uint8Array(bytes).map((_, i) => unit[i % unit.length] as number)
}

function bend(from: Uint8Array, other: Uint8Array, dice: (below: number) => number): Uint8Array {
  const bytes = new Uint8Array(from)
  for (let blows = 1 + dice(6); blows > 0; blows--) {
    const at = dice(Math.min(bytes.length, dice(3) === 0 ? bytes.length : 0x9000))
    switch (dice(6)) {
      case 0:
        bytes[at] = dice(256)
        break
      case 1:
        bytes.fill(dice(2) ? 0xff : 0, at, at + dice(5000))
        break
      case 2:
        bytes.set(
          other.subarray(dice(other.length - 1), undefined).subarray(0, Math.min(dice(4096), bytes.length - at)),
          at,
        )
        break
      case 3:
        new DataView(bytes.buffer).setUint32(
          Math.min(at, bytes.length - 4),
          [0xffffffff, 0x7fffffff, 0, bytes.length][dice(4)] as number,
          true,
        )
        break
      case 4:
        bytes[dice(32)] = dice(256)
        break
      default:
        return bytes.slice(0, dice(bytes.length))
    }
  }
  return bytes
}

export async function bentFiles(count: number): Promise<Tally> {
  const tally = new Tally('bent files, judged here', 2000)
  const dice = random(7)
  const whole = [
    lx106Image('DIO', 3),
    lx6Image('2.3.0'),
    lx6Stock(1).slice(0, 1 << 20),
    lx106Stock(2),
    gzipSync(lx106Image('DIO', 3)),
    boardPhoto(4, 1),
  ]
  const families = [null, 'LX106', 'LX6', 'ARM968-A', 'CM3', 'nonsense']
  for (let i = 0; i < count; i++) {
    const bytes = bend(whole[dice(whole.length)] as Uint8Array, whole[dice(whole.length)] as Uint8Array, dice)
    const options = {
      family: families[dice(families.length)] ?? null,
      flashBytes: dice(2) ? 1 << (18 + dice(6)) : null,
    }
    const from = performance.now()
    let wrong: string | null = null
    try {
      inspectImage(bytes, options)
      if (i % 4 === 0) inspectDump(bytes, options)
      if (i % 8 === 0) readTableFile(bytes, dice(0x10000), options.flashBytes)
      if (i % 16 === 0) patchMode(bytes, 'DOUT')
      if (i % 32 === 0) compareDumps(bytes, whole[3] as Uint8Array)
    } catch (cause) {
      wrong = String(cause instanceof Error ? cause.stack : cause)
    }
    tally.note(`file ${i}`, performance.now() - from, wrong)
  }
  return tally
}

export async function floods(): Promise<Tally> {
  const tally = new Tally('floods of 16 MiB', 3000)
  const size = 16 * 1024 * 1024
  const texts = [
    'a://',
    'abcdefghijklmnop://bbbbbbbb',
    'secret=',
    'pass:"',
    'key=',
    '-----BEGIN A',
    '-',
    '=',
    ':',
    '0123456789abcdef',
    `aaaaaaaaaaaaaaaa://${'b'.repeat(64)}:${'c'.repeat(64)}`,
    'psk    =',
    'Ab1Cd2Ef3',
    '\xaaP',
    '\xe9\x10\x02\x20',
    '\x1f\x8b\x08',
  ]
  for (const text of texts) {
    const bytes = flood(text, size)
    for (const [what, judge] of [
      ['dump', () => inspectDump(bytes)],
      ['image', () => inspectImage(bytes)],
      ['text', () => printableStrings(bytes, 0, 8, 100, 'nothing like it')],
    ] as const) {
      const from = performance.now()
      let wrong: string | null = null
      try {
        judge()
      } catch (cause) {
        wrong = String(cause)
      }
      // Covering a whole file that is nothing but names of secrets takes longer than judging it.
      const most = what === 'text' ? 6000 : undefined
      tally.note(`${what} of ${JSON.stringify(text).slice(0, 24)}`, performance.now() - from, wrong, most)
    }
  }
  return tally
}

export async function badUploads(count: number): Promise<Tally> {
  const tally = new Tally('bad uploads', 5000)
  const dice = random(11)
  const whole = [lx106Image('DIO', 3), lx6Image('2.3.0'), boardPhoto(4, 1), lx106Stock(2).slice(0, 65_536)]
  const names = ['x.bin', '', '../../x', '‮gnp.exe', 'a'.repeat(300), 'x\0y', '<img src=x>', '.', 'con']
  const items = Array.from({ length: count }, (_, i) => i)
  await each(items, 4, async (i) => {
    const kind = ['dump', 'image', 'photo', 'nonsense'][dice(4)]
    const query = new URLSearchParams({
      kind: kind as string,
      name: names[dice(names.length)] as string,
      read: String([1, 2, 3, 'x'][dice(4)]),
      unitId: ['', 'nonsense', '00000000-0000-4000-8000-000000000000'][dice(3)] as string,
    })
    const body = bend(whole[dice(whole.length)] as Uint8Array, whole[dice(whole.length)] as Uint8Array, dice)
    const { status, text, ms } = await ask(`/api/files?${query}`, { method: 'PUT', body: Buffer.from(body) })
    tally.note(
      `upload ${i} ${query}`,
      ms,
      status === 0 || status >= 500 ? `status ${status}: ${text.slice(0, 160)}` : null,
    )
  })
  return tally
}
