import { createHash } from 'node:crypto'
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { buildLx106 } from '@fresh-coat/core/image/build'
import type { Io } from '../cli/command'
import { linkWrite } from '../cli/link/write'
import { FileError, UsageError } from '../cli/usage'

const folder = mkdtempSync(join(tmpdir(), 'fresh-coat-write-'))
const flashBytes = 2 ** 19
const lx106App = (bytes: number) =>
  buildLx106({
    mode: 'DIO',
    sizeCode: 0,
    clock: 0,
    entry: 0x40100010,
    segments: [{ address: 0x40100000, data: Uint8Array.from({ length: bytes }, (_, i) => (i * 31) & 0xff) }],
  })
let count = 0
/** A file of its own for each test. */
const put = (name: string, content: string | Uint8Array): string => {
  const path = join(folder, `${count++}-${name}`)
  writeFileSync(path, content)
  return path
}
const io: Io = {
  read: (path) => {
    const bytes = new Uint8Array(readFileSync(join(folder, path)))
    return { name: basename(path), bytes, sha256: createHash('sha256').update(bytes).digest('hex') }
  },
  write: (path, bytes) => writeFileSync(path, bytes),
}
const mac = '02:4c:59:10:20:30'
const image = lx106App(20_000)
/** A chip whose flash lives on in a file, and what stands in it. */
function chip(faults: object[] = [], stands = new Uint8Array(flashBytes).fill(0x5a)) {
  const flash = put('flash.bin', stands)
  const spec = {
    family: 'LX106',
    flashBytes,
    flashId: '684013',
    mac,
    flashFile: basename(flash),
    persist: true,
    faults,
  }
  return { port: `virtual:${put('chip.json', JSON.stringify(spec))}`, flash }
}
function request(more: { unit?: object; write?: object } = {}) {
  const file = basename(put('image.bin', image))
  return {
    unit: {
      family: 'LX106',
      flashBytes,
      flashId: '684013',
      dataLines: 2,
      provenModes: ['QIO', 'DIO', 'DOUT', 'QOUT'],
      backup: { state: 'verified', bytes: flashBytes },
      mac,
      ...more.unit,
    },
    write: { file, offset: 0, eraseAll: false, baud: 115_200, verify: 'readback', ...more.write },
    chosen: {},
  }
}
async function run(input: object, options: Record<string, string>) {
  const out = await linkWrite(input, io, new Map(Object.entries(options)))
  if (!out.ok) throw new Error(JSON.stringify(out.faults))
  return out.value as {
    outcome: string
    blocks: { total: number; sent: number; confirmed: number }
    verify: { method: string; ok: boolean | null }
    findings: { code: string; severity: string }[]
    virtual: boolean | null
    journal: string | null
    preflight: { verdict: string; kind: string }
    line: object
  }
}
beforeAll(() => jest.spyOn(process.stderr, 'write').mockReturnValue(true))
const codes = (r: { findings: { code: string }[] }) => r.findings.map((f) => f.code)
const journalPath = () => join(folder, `${count++}-journal.json`)
const stateOf = (path: string) => JSON.parse(readFileSync(path, 'utf8')).state

test('an image is written, read back, and stays in the chip when the line is closed', async () => {
  const { port, flash } = chip()
  const journal = journalPath()
  const out = await run(request(), { port, journal })
  expect(out).toMatchObject({ outcome: 'done', verify: { method: 'readback', ok: true }, virtual: true, journal })
  expect(new Uint8Array(readFileSync(flash)).subarray(0, image.length)).toEqual(image)
  expect(stateOf(journal)).toBe('done')
})

test('what the preflight stops opens no port, and says what it found', async () => {
  const input = request({ unit: { backup: null } })
  const out = await run(input, { port: 'virtual:/nowhere/at/all.json' })
  expect(out).toMatchObject({ outcome: 'refused', preflight: { verdict: 'stop' }, virtual: true, blocks: { sent: 0 } })
  expect(out.findings.some((f) => f.severity === 'error')).toBe(true)
})

test('another unit than that of the request: refused, and its flash is as it was', async () => {
  const { port, flash } = chip()
  const journal = journalPath()
  const out = await run(request({ unit: { mac: '02:4c:59:10:20:99' } }), { port, journal })
  expect([out.outcome, codes(out).includes('link-other-unit'), existsSync(journal)]).toEqual(['refused', true, false])
  expect(new Set(readFileSync(flash))).toEqual(new Set([0x5a]))
})

test('a restart with BOOT let go leaves it half written; the journal finishes it on the same chip', async () => {
  const broken = chip([{ brownout: { block: 12, strap: 'free' } }])
  const journal = journalPath()
  const input = request()
  const lost = await run(input, { port: broken.port, journal })
  expect([lost.outcome, stateOf(journal)]).toEqual(['lost-midway', 'lost-midway'])
  const again = chip([], new Uint8Array(readFileSync(broken.flash)))
  const done = await run(input, { port: again.port, journal, resume: 'yes' })
  expect([done.outcome, codes(done).includes('link-resumed'), stateOf(journal)]).toEqual(['done', true, 'done'])
  expect(done.blocks.sent).toBeLessThan(done.blocks.total)
  expect(new Uint8Array(readFileSync(again.flash)).subarray(0, image.length)).toEqual(image)
})

test('a plug that is pulled while it writes: half written, the journal kept, no port opened again', async () => {
  const { port } = chip([{ unplug: { after: 34_000 } }])
  const journal = journalPath()
  const out = await run(request(), { port, journal })
  expect([out.outcome, stateOf(journal), codes(out).includes('link-lost-midway')]).toEqual([
    'lost-midway',
    'lost-midway',
    true,
  ])
})

test('a journal of another file is not gone on with, and nothing is erased', async () => {
  const first = chip()
  const journal = journalPath()
  await run(request(), { port: first.port, journal })
  const { port, flash } = chip()
  const input = request()
  writeFileSync(join(folder, input.write.file), lx106App(24_000))
  const out = await run(input, { port, journal, resume: 'yes' })
  expect([out.outcome, codes(out).includes('journal-file')]).toEqual(['refused', true])
  expect(new Set(readFileSync(flash))).toEqual(new Set([0x5a]))
})

test('a copy of the whole chip is put back by its own plan, whatever format it has', async () => {
  const copy = new Uint8Array(flashBytes).map((_, i) => (i * 7) & 0xff)
  const { port, flash } = chip()
  const input = request({ write: { file: basename(put('stock.bin', copy)), kind: 'restore', verify: 'sample' } })
  const out = await run(input, { port })
  expect(out).toMatchObject({ outcome: 'done', preflight: { kind: 'restore' }, verify: { method: 'sample', ok: true } })
  expect(codes(out)).toContain('link-sampled')
  expect(Buffer.compare(readFileSync(flash), Buffer.from(copy))).toBe(0)
  const short = request({ write: { file: basename(put('short.bin', copy.slice(0, 4096))), kind: 'restore' } })
  expect(codes(await run(short, { port }))).toContain('backup-size')
})

describe('a call that cannot be taken', () => {
  const refused = (input: object, options: Record<string, string>) =>
    expect(linkWrite(input, io, new Map(Object.entries(options)))).rejects
  test('a journal that is there already is never written over', async () => {
    const { port } = chip()
    await refused(request(), { port, journal: put('journal.json', '{}') }).toThrow(FileError)
  })
  test('going on without a journal, or with one that is none', async () => {
    const { port } = chip()
    await refused(request(), { port, resume: 'yes' }).toThrow(UsageError)
    await refused(request(), { port, resume: 'yes', journal: put('j.json', '{"journal":1}') }).toThrow(FileError)
    await refused(request(), { port, resume: 'yes', journal: put('j.json', '{') }).toThrow(FileError)
  })
  test('a port that is none', async () => {
    await refused(request(), {}).toThrow(UsageError)
    await refused(request(), { port: 'usb0' }).toThrow(UsageError)
  })
  test('a request that is wrong names the place', async () =>
    expect(await linkWrite({ ...request(), unit: { family: 'LX106', mac: 'mine' } }, io, new Map())).toMatchObject({
      ok: false,
      faults: [{ path: '/unit/mac' }],
    }))
})
