import { createHash } from 'node:crypto'
import { existsSync, mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import type { Server } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { linkBackup } from '../cli/link/backup'
import { linkConsole, linkInfo } from '../cli/link/look'
import { openPort } from '../cli/link/ports'
import { linkVerify } from '../cli/link/verify'
import { ChipSpec } from '../standins/chip/chip-spec'
import { serveChip } from '../standins/chip/served'

const folder = mkdtempSync(join(tmpdir(), 'fresh-coat-link-'))
const chip = { family: 'RV32', flashBytes: 2 ** 22, flashId: '204016', mac: '02:4c:59:10:20:31' }
const file = (name: string, text: string) => {
  writeFileSync(join(folder, name), text)
  return join(folder, name)
}
const servers: Server[] = []
afterAll(() => {
  for (const s of servers) s.close()
})
beforeAll(() => jest.spyOn(process.stderr, 'write').mockReturnValue(true))
async function served(more: object = {}): Promise<number> {
  const { port, server } = await serveChip(ChipSpec.parse({ ...chip, ...more }), 115_200)
  servers.push(server)
  return port
}
const info = (port: string, more: [string, string][] = []) => linkInfo(new Map([['port', port], ...more]))

test('over a socket the same is found as on the virtual port, and nobody claims to know what stands behind it', async () => {
  const here = await info(`virtual:${file('chip.json', JSON.stringify(chip))}`)
  const there = await info(`tcp:127.0.0.1:${await served()}`)
  expect(here).toMatchObject({ family: 'RV32', mac: chip.mac, flashBytes: 2 ** 22, virtual: true, findings: [] })
  expect(there).toMatchObject({ family: 'RV32', mac: chip.mac, flashBytes: 2 ** 22, virtual: null, findings: [] })
})

test('a port that nobody listens at is no crash and no guess', async () => {
  const port = await served()
  for (const s of servers.splice(0)) await new Promise((done) => s.close(done))
  expect(await info(`tcp:127.0.0.1:${port}`)).toMatchObject({
    family: null,
    findings: [{ code: 'link-port-failed', severity: 'error' }],
  })
})

test.each([
  ['no JSON', '{'],
  ['no family', '{"flashBytes":1048576}'],
  ['a family that it does not stand in for', '{"family":"CM3","flashBytes":1048576}'],
  ['a fault that it does not know', '{"family":"LX6","flashBytes":1048576,"faults":[{"fault":"sulk"}]}'],
])('a file that describes no chip: %s', async (_, text) =>
  expect(await info(`virtual:${file('bad.json', text)}`)).toMatchObject({ findings: [{ code: 'link-port-failed' }] }),
)

test('a socket that is closed in the middle ends it, and says so', async () => {
  const out = await info(`tcp:127.0.0.1:${await served({ faults: [{ fault: 'unplug', after: 300 }] })}`)
  expect(out).toMatchObject({ family: null, findings: [{ code: 'link-no-answer', severity: 'error' }] })
})

test('what went over the line is written down for its owner only', async () => {
  const path = join(folder, 'line.jsonl')
  await info(`virtual:${file('again.json', JSON.stringify(chip))}`, [['record', path]])
  const lines = readFileSync(path, 'utf8')
    .trim()
    .split('\n')
    .map((l) => JSON.parse(l) as Record<string, unknown>)
  expect(lines.filter((l) => typeof l.out === 'string').length).toBeGreaterThan(10)
  expect(lines.filter((l) => typeof l.in === 'string').length).toBeGreaterThan(10)
  expect(statSync(path).mode & 0o077).toBe(0)
})

test.each(['usb0', 'tcp:host', 'tcp:host:99999', 'virtual:', 'tcp:a b:80'])('%p is no port', async (name) =>
  expect(openPort(name, 115_200)).rejects.toThrow(/is no port/),
)
test.each<[[string, string]]>([[['rate', '299']], [['tries', '0']], [['timeout', 'long']]])(
  '%p is refused',
  async (option) => expect(info('virtual:x', [option])).rejects.toThrow(/whole number/),
)

describe('a backup', () => {
  const lx106 = { family: 'LX106', flashBytes: 2 ** 18, flashId: '684012' }
  const quick = { family: 'RV32', flashBytes: 2 ** 18, flashId: '204012' }
  const keep = (name: string, more: [string, string][] = [], faults: object[] = [], of: object = lx106) =>
    linkBackup(
      new Map([
        ['port', `virtual:${file(`${name}.json`, JSON.stringify({ ...of, faults }))}`],
        ['out', join(folder, `${name}.bin`)],
        ...more,
      ]),
    )
  const hash = (path: string) => createHash('sha256').update(readFileSync(path)).digest('hex')

  test('two equal reads of the whole chip are verified, and kept with their hash', async () => {
    const out = (await keep('whole', [], [], quick)) as { out: string; sha256: string }
    expect(out).toMatchObject({
      verdict: 'verified',
      reads: 2,
      whole: true,
      bytes: 2 ** 18,
      compare: { verdict: 'same' },
    })
    expect(hash(out.out)).toBe(out.sha256)
    expect(readFileSync(`${out.out}.sha256`, 'utf8')).toBe(`${out.sha256}  whole.bin\n`)
    expect(statSync(out.out).mode & 0o077).toBe(0)
  })
  test('a part, once, is a single read of a part', async () =>
    expect(
      await keep('part', [
        ['offset', '0x1000'],
        ['bytes', '5000'],
        ['once', 'yes'],
      ]),
    ).toMatchObject({
      verdict: 'single',
      reads: 1,
      whole: false,
      offset: 4096,
      bytes: 5000,
      compare: null,
    }))
  test('a bit that flips in the second read looks right: only the comparison sees it, and nothing is mixed', async () => {
    const clean = (await keep('clean', [['bytes', '256']])) as { sha256: string }
    const verdicts = new Set<string>()
    for (let at = 1700; at < 1712; at += 2) {
      const out = (await keep(`shaky${at}`, [['bytes', '256']], [{ fault: 'flip', to: 'host', at }])) as {
        out: string
        sha256: string | null
        verdict: string
      }
      verdicts.add(out.verdict)
      if (out.verdict === 'verified') expect(out.sha256).toBe(clean.sha256)
      else {
        expect(out).toMatchObject({ verdict: 'unstable', sha256: null, out: expect.stringMatching(/\.bin\.partial$/) })
        expect(existsSync(join(folder, `shaky${at}.bin`))).toBe(false)
      }
    }
    expect(verdicts).toContain('unstable')
  })
  test('nor is a recording', async () => {
    const path = file('notes.jsonl', 'mine')
    await expect(info(`virtual:${file('noted.json', JSON.stringify(chip))}`, [['record', path]])).rejects.toThrow(
      /already/,
    )
    expect(readFileSync(path, 'utf8')).toBe('mine')
  })
  test('a file that is there is never written over', async () => {
    file('taken.bin', 'mine')
    await expect(async () => keep('taken')).rejects.toThrow(/is there already/)
    expect(readFileSync(join(folder, 'taken.bin'), 'utf8')).toBe('mine')
  })
  test('what does not lie within the chip is refused, and no file is left', async () => {
    await expect(
      keep('beyond', [
        ['offset', '200000'],
        ['bytes', '100000'],
      ]),
    ).rejects.toThrow(/do not lie within the chip/)
    expect(existsSync(join(folder, 'beyond.bin'))).toBe(false)
  })
  test('a line that is lost keeps what was read, as a part, and a new read does not write over it', async () => {
    const out = (await keep('lost', [], [{ fault: 'unplug', after: 60_000 }])) as { out: string }
    expect(out).toMatchObject({ out: join(folder, 'lost.bin.partial'), verdict: null, sha256: null })
    expect(statSync(out.out).size % 4096).toBe(0)
    expect(statSync(out.out).size).toBeGreaterThan(0)
    expect(existsSync(join(folder, 'lost.bin'))).toBe(false)
    await expect(async () => keep('lost')).rejects.toThrow(/of a read that did not end/)
  })
  test('where nothing was read nothing is left', async () => {
    expect(await keep('deaf', [], [{ fault: 'mute', request: 1, count: 1_000_000 }])).toMatchObject({ out: null })
    expect(readdirSync(folder).filter((n) => n.startsWith('deaf.bin'))).toEqual([])
  })
  test('a name that somebody takes in the meantime is left alone, and the read stays in its part', async () => {
    const path = join(folder, 'raced.bin')
    const going = keep('raced', [['bytes', '4096']])
    writeFileSync(path, 'theirs')
    expect(await going).toMatchObject({
      out: `${path}.partial`,
      verdict: 'verified',
      findings: [{ code: 'dumps-same' }, { code: 'file-taken', severity: 'watch' }],
    })
    expect(readFileSync(path, 'utf8')).toBe('theirs')
    expect(statSync(`${path}.partial`).size).toBe(4096)
  })
  test('two backups into one file at once: one is made, the other is refused before it reads', async () => {
    const both = await Promise.allSettled([1, 2].map(async () => keep('both', [['bytes', '4096']])))
    expect(both.map((b) => b.status).sort()).toEqual(['fulfilled', 'rejected'])
    expect(statSync(join(folder, 'both.bin')).size).toBe(4096)
  })
  test('a signal ends it between two steps, with what was read and an answer as usual', async () => {
    const spoken = jest.mocked(process.stderr.write)
    spoken.mockImplementation((text) => {
      if (String(text).includes('"done":')) process.emit('SIGINT')
      return true
    })
    const out = await keep('signal')
    spoken.mockImplementation(() => true)
    expect(out).toMatchObject({
      out: join(folder, 'signal.bin.partial'),
      verdict: null,
      findings: [{ code: 'link-cancelled', severity: 'watch' }],
    })
    expect(process.listenerCount('SIGINT')).toBe(0)
  })
  test('an adapter that waits is named', async () => {
    const path = file('slow.json', JSON.stringify({ ...lx106, latencyMs: 16 }))
    const out = await linkBackup(
      new Map([
        ['port', `virtual:${path}`],
        ['out', join(folder, 'slow.bin')],
        ['bytes', '256'],
        ['once', 'yes'],
      ]),
    )
    expect(out).toMatchObject({ findings: [{ code: 'link-slow-adapter', severity: 'watch' }] })
  })
})

describe('held against a file', () => {
  const rv32 = { family: 'RV32', flashBytes: 2 ** 18, flashId: '204012' }
  const lx106 = { family: 'LX106', flashBytes: 2 ** 18, flashId: '684012' }
  /** What stands in the chip of this description, by a read of it. */
  async function stands(chip: object, name: string): Promise<{ port: string; path: string }> {
    const port = `virtual:${file(`${name}.json`, JSON.stringify(chip))}`
    const path = join(folder, `${name}.bin`)
    await linkBackup(
      new Map([
        ['port', port],
        ['out', path],
        ['bytes', '16384'],
        ['once', 'yes'],
      ]),
    )
    return { port, path }
  }
  const verify = (port: string, path: string, more: [string, string][] = []) =>
    linkVerify(new Map([['port', port], ['file', path], ...more]))
  const changed = (path: string, at: number) => {
    const bytes = readFileSync(path)
    bytes[at] = (bytes[at] ?? 0) ^ 0x40
    writeFileSync(`${path}.${at}`, bytes)
    return `${path}.${at}`
  }

  test('by the ROM’s digest, where it has one; byte by byte where it has none', async () => {
    const late = await stands(rv32, 'late')
    expect(await verify(late.port, late.path)).toMatchObject({ verdict: 'same', method: 'digest', findings: [] })
    expect(await verify(late.port, changed(late.path, 9))).toMatchObject({
      verdict: 'different',
      firstDifference: null,
      findings: [{ code: 'link-verify-failed' }],
    })
    const early = await stands(lx106, 'early')
    expect(await verify(early.port, early.path)).toMatchObject({ verdict: 'same', method: 'readback' })
    expect(await verify(early.port, changed(early.path, 12_345))).toMatchObject({
      verdict: 'different',
      firstDifference: 12_345,
    })
    expect(await verify(early.port, early.path, [['method', 'digest']])).toMatchObject({
      verdict: 'unknown',
      findings: [{ code: 'link-no-digest', severity: 'error' }],
    })
  })
  test('a sample is never called more than a sample, and says its chance', async () => {
    const { port, path } = await stands(lx106, 'some')
    const out = await verify(port, path, [['method', 'sample']])
    expect(out).toMatchObject({ verdict: 'sampled', findings: [{ code: 'link-sampled', severity: 'watch' }] })
    // The first sector is always among them.
    expect(await verify(port, changed(path, 100), [['method', 'sample']])).toMatchObject({
      verdict: 'different',
      firstDifference: 100,
    })
  })
  test.each<[string, [string, string][], RegExp]>([
    ['an empty file', [['file', '/dev/null']], /empty/],
    ['a file that is not there', [['file', '/nowhere.bin']], /cannot be read/],
    ['no file', [], /--file is missing/],
    [
      'an unknown method',
      [
        ['file', 'package.json'],
        ['method', 'faith'],
      ],
      /--method/,
    ],
    [
      'a file that does not lie within the chip',
      [
        ['file', 'package.json'],
        ['offset', '0x3ffff'],
      ],
      /do not lie within/,
    ],
  ])('%s', async (_, options, why) => {
    const port = `virtual:${file('held.json', JSON.stringify(rv32))}`
    await expect(async () => linkVerify(new Map([['port', port], ...options]))).rejects.toThrow(why)
  })
})

describe('by ear', () => {
  const hear = (more: object, options: [string, string][] = []) =>
    linkConsole(new Map([['port', `virtual:${file('ear.json', JSON.stringify({ ...chip, ...more }))}`], ...options]))
  test('a unit in its loader, and one that runs its program', async () => {
    expect(await hear({})).toMatchObject({
      text: expect.stringContaining('waiting for download'),
      boot: { verdict: 'serial_download' },
    })
    expect(await hear({ strap: 'free' })).toMatchObject({
      text: expect.stringContaining('hello from the shop'),
      boot: { verdict: 'flash_boot' },
    })
  })
  test('at the wrong rate it is garbled, and the right one is named', async () =>
    expect(await hear({ family: 'LX106', flashId: '684014', strap: 'free' })).toMatchObject({
      boot: { verdict: 'wrong_rate', likelyBaud: 74_880 },
    }))
  test('nothing is sent', async () => {
    const path = join(folder, 'ear.jsonl')
    await hear({}, [
      ['record', path],
      ['seconds', '1'],
    ])
    expect(readFileSync(path, 'utf8')).not.toContain('"out"')
  })
})
