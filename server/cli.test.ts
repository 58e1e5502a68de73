import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PinTemplate } from '@fresh-coat/core/pins/template'
import { lx6Image, lx106Image, lx106Stock } from '../demo/binaries'
import { demoTemplates } from '../demo/designs'

const folder = mkdtempSync(join(tmpdir(), 'fresh-coat-cli-'))
const file = (name: string, bytes: Uint8Array | string) => {
  writeFileSync(join(folder, name), bytes)
  return join(folder, name)
}
const call = (args: string[], input = '') => {
  const r = spawnSync('bin/fresh-coat', args, { input, encoding: 'utf8', maxBuffer: 1 << 26 })
  return { code: r.status, out: r.stdout, json: () => JSON.parse(r.stdout), err: r.stderr }
}

describe('the command line', () => {
  test('computed: one object that begins with ok, exit 0', () => {
    const r = call(['identify'], '{"evidence":[]}')
    expect([r.code, r.out.startsWith('{"ok":true,'), r.out.endsWith('}\n'), r.err]).toEqual([0, true, true, ''])
  })
  test('a finding of severity error: printed all the same, exit 1', () => {
    const r = call(
      ['wiring', '-'],
      '{"adapter":{"pins":["GND","TX","RX"]},"board":{"family":"LX6","pads":["GND","TX","RX"]},"power":"bench","entry":"button"}',
    )
    expect([r.code, r.json().allowed]).toEqual([1, false])
  })
  test.each<[string[], string, string, string]>([
    [['identify'], '{"evidence":[', 'json', ''],
    [['identify'], '{"evidence":[{"kind":"colour","value":"x"}]}', 'unknown-kind', '/evidence/0/kind'],
    [['pins', 'check'], '{"template":{"format":"x"}}', 'format', '/template/format'],
    [['net', 'match'], '{"tables":[],"units":[{"id":"a"}]}', 'empty', '/units/0'],
    [['image', 'inspect', '/nowhere.bin'], '', 'file', ''],
    [['image', 'inspect'], '', 'usage', ''],
    [['dump', 'inspect', 'package.json', '--flash-bytes', 'many'], '', 'usage', ''],
    [['frobnicate'], '', 'usage', ''],
  ])('%j is refused with its place, exit 2', (args, input, code, path) => {
    const r = call(args, input)
    expect(r.code).toBe(2)
    expect(r.json()).toMatchObject({ ok: false, error: { code, path } })
    expect(r.err.trim().split('\n')).toHaveLength(1)
  })
  test('bytes: image, dump, two reads', () => {
    const image = file('plain.bin', lx106Image('DOUT', 3))
    expect(call(['image', 'inspect', image, '--family', 'LX106', '--flash-bytes', '0x100000']).json()).toMatchObject({
      ok: true,
      file: 'plain.bin',
      kind: 'app',
      family: 'LX106',
      findings: [],
    })
    expect(call(['image', 'inspect', image, '--family', 'LX6']).code).toBe(1)
    const stock = lx106Stock(7)
    const a = file('a.bin', stock)
    expect(call(['dump', 'inspect', a]).json()).toMatchObject({ file: 'a.bin', bytes: 1048576, private: true })
    expect(call(['dump', 'compare', a, a]).json()).toMatchObject({ verdict: 'same', a: { file: 'a.bin' } })
  })
  test('a patched copy is a new file, never over another one', () => {
    const image = file('dio.bin', lx106Image('DIO', 3))
    const out = join(folder, 'dout.bin')
    const patch = () => call(['image', 'patch-mode', image, '--mode', 'dout', '--out', out])
    expect(patch().json()).toMatchObject({ file: 'dio.bin', out: 'dout.bin', from: 'DIO', to: 'DOUT', changed: true })
    expect(readFileSync(out)[2]).toBe(3)
    expect([patch().code, patch().json().error.code]).toEqual([2, 'file'])
    const again = call(['image', 'patch-mode', out, '--mode', 'DOUT', '--out', join(folder, 'never.bin')])
    expect([again.code, again.json().out, again.json().sha256After]).toEqual([0, null, null])
    expect(call(['image', 'patch-mode', image, '--mode', 'FAST', '--out', 'x']).code).toBe(2)
  })
  test('several files as one: merged to a new file, never over another one, never beside an error', () => {
    const chip = lx6Image('2.3.0')
    const loader = file('loader@2.bin', chip.subarray(0x1000, 0x8000))
    const table = file('table.bin', chip.subarray(0x8000, 0x10000))
    const program = file('program.bin', chip.subarray(0x10000))
    const out = join(folder, 'set.bin')
    const set = (...words: string[]) => call(['image', 'set', ...words, '--family', 'LX6', '--out', out])
    const missing = set(`${table}@0x8000`, `${program}@65536`)
    expect([missing.code, missing.json().merged.out]).toEqual([1, null])
    const whole = set(`${table}@0x8000`, `${program}@65536`, `${loader}@0x1000`)
    expect(whole.json()).toMatchObject({ ok: true, family: 'LX6', merged: { bytes: chip.length, out: 'set.bin' } })
    expect(whole.json().parts.map((p: { file: string }) => p.file)).toEqual([
      'loader@2.bin',
      'table.bin',
      'program.bin',
    ])
    expect(readFileSync(out).equals(chip)).toBe(true)
    expect(set(`${table}@0x8000`, `${program}@65536`, `${loader}@0x1000`).json().error.code).toBe('file')
    for (const words of [[], [table], [`${table}@here`], [`${table}@-1`]])
      expect([set(...words).code, set(...words).json().error.code]).toEqual([2, 'usage'])
    expect(call(['image', 'set', `${table}@0x8000`]).json().error.code).toBe('usage')
  })
  test('refit and paste read from the line', () => {
    const contacts = '"contacts":[{"n":1,"role":"3V3","edge":"left"},{"n":2,"role":"GND","edge":"left"}]'
    expect(call(['refit', 'checks'], `{${contacts}}`).json().checks).toHaveLength(4)
    const stop = call(['refit', 'judge'], `{${contacts},"readings":{"rail":3}}`)
    expect([stop.code, stop.json().verdict]).toEqual([1, 'stop'])
    expect(call(['paste', 'read'], '{"text":"digest ok"}').json()).toMatchObject({
      outcome: 'verified',
      conflict: false,
    })
    expect(call(['paste', 'read'], '{"text":" "}').json().error).toMatchObject({ code: 'empty', path: '/text' })
  })
  test('a table alone, a table missing, a chip id', () => {
    expect(call(['partitions', file('whole.bin', lx6Image('2.3.0')), '--flash-bytes', '4194304']).json()).toMatchObject(
      {
        ok: true,
        tableOffset: 32768,
        flashBytes: 4194304,
      },
    )
    const none = call(['partitions', file('none.bin', lx106Image('DIO', 3))])
    expect([none.code, none.json().entries, none.json().findings[0].code]).toEqual([1, [], 'partition-table-missing'])
    expect(call(['flash-id', '68', '40', '14']).json()).toMatchObject({ flashBytes: 1048576, findings: [] })
    expect([call(['flash-id', 'ffffff']).code, call(['flash-id', 'hello']).code]).toEqual([1, 2])
  })
  test('a preflight reads its files from where the request lies', () => {
    file('go.bin', lx106Image('DOUT', 3))
    const request = (more: object) =>
      file(
        'request.json',
        JSON.stringify({
          unit: {
            family: 'LX106',
            familyVerdict: 'identified',
            flashBytes: 1048576,
            flashId: '684014',
            dataLines: 2,
            inPackageFlash: false,
            provenModes: [],
            backup: { state: 'verified', bytes: 1048576, reason: null },
            layoutFile: null,
          },
          write: { file: 'go.bin', offset: null, eraseAll: true, baud: 115200, verify: 'digest' },
          chosen: { variant: null, language: null },
          ...more,
        }),
      )
    expect(call(['preflight', request({})]).json()).toMatchObject({
      file: 'go.bin',
      verdict: 'go',
      plan: { erase: 'chip', eraseSectors: 256, regions: [{ offset: 0, source: 'go.bin' }] },
    })
    const missing = call(['preflight', request({ write: { file: 'gone.bin', baud: 9600, verify: 'none' } })])
    expect([missing.code, missing.json().error.code]).toEqual([2, 'file'])
    const slow = call(['preflight', request({ write: { file: 'go.bin', baud: 3, verify: 'none' } })])
    expect([slow.code, slow.json().error]).toEqual([2, expect.objectContaining({ code: 'range', path: '/write/baud' })])
  })
  test('--in, --text and help', () => {
    const input = file('in.json', '{"text":"CCCCCCCC"}')
    expect(call(['boot-log', '--in', input]).json().verdict).toBe('loader_waiting')
    expect(call(['boot-log', input, '--text']).out).toContain('verdict: loader_waiting')
    for (const name of [
      'identify',
      'wiring',
      'dump inspect',
      'dump compare',
      'image inspect',
      'boot-log',
      'net match',
      'pins check',
      'meter fit',
      'topics plan',
      'pads',
      'jig',
      'divider',
      'troubleshoot',
      'rehearse',
      'image patch-mode',
      'partitions',
      'flash-id',
      'preflight',
      'upgrade-path',
    ])
      expect(call(['help']).out).toContain(name)
    expect(call(['help', 'meter', 'fit']).out).toContain('example:')
  })
})

describe('formats', () => {
  test('the pin template’s schema and our own reading of it agree', () => {
    const schema = JSON.parse(readFileSync('docs/formats/pin-template.schema.json', 'utf8'))
    const pin = schema.properties.pins.items
    expect(schema.required).toEqual(['format', 'version', 'board', 'family', 'pins'])
    expect(Object.keys(schema.properties).sort()).toEqual(Object.keys(PinTemplate.shape).sort())
    expect(Object.keys(pin.properties).sort()).toEqual(Object.keys(PinTemplate.shape.pins.element.shape).sort())
    for (const fn of pin.properties.fn.enum)
      expect(
        PinTemplate.safeParse({
          format: 'fresh-coat/pin-template',
          version: 1,
          board: 'x',
          family: 'LX6',
          pins: [{ pin: 'GPIO4', fn }],
        }).success,
      ).toBe(true)
  })
  test('every template of the demo is possible on its family', () => {
    for (const t of demoTemplates()) expect(t).toEqual({ name: t.name, errors: 0 })
  })
})

test('core is one workspace that sees neither DOM nor Node', () => {
  const config = JSON.parse(readFileSync('core/tsconfig.json', 'utf8')).compilerOptions
  expect([config.lib, config.types]).toEqual([['ES2023'], []])
  const lint = (source: string) => {
    const leak = `core/src/leak-${process.pid}.ts`
    writeFileSync(leak, source)
    try {
      return spawnSync('node_modules/.bin/biome', ['lint', leak], { encoding: 'utf8' })
    } finally {
      rmSync(leak)
    }
  }
  for (const from of ['node:fs', 'react', 'pg', '../../server/db']) {
    const leak = lint(`import * as x from '${from}'\nexport const y = x\n`)
    expect([from, leak.stdout + leak.stderr]).toEqual([
      from,
      expect.stringMatching(/noRestrictedImports|noNodejsModules/),
    ])
  }
})
