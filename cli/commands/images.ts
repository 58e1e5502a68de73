import { basename } from 'node:path'
import type { Family } from '@fresh-coat/core/families/families'
import type { FlashMode } from '@fresh-coat/core/image/image'
import type { Commands, GivenFile } from '../command'
import { bytesOption, inspectOptions } from '../options'
import { UsageError } from '../usage'

const [oneFile, twoFiles] = [1, 2]

/** Images, dumps and tables, and whether they may go in. */
export const images: Commands = {
  'image inspect': {
    kind: 'files',
    files: oneFile,
    line: 'FILE → what this image is, whole or not, fit for the unit or not',
    input: 'FILE [--family F] [--flash-bytes N]',
    output: 'file, bytes, sha256, gzip, kind, family, chipId, trailingBytes, images, partitions, findings',
    example: 'bin/fresh-coat image inspect plainsong.bin --family LX106 --flash-bytes 1048576',
    run: async ([file], options) => {
      const { inspectImage } = await import('@fresh-coat/core/image/inspect')
      const { name, bytes, sha256 } = file as GivenFile
      return { file: name, ...inspectImage(bytes, await inspectOptions(options), { sha256 }) }
    },
  },
  'image set': {
    kind: 'parts',
    line: 'FILE@OFFSET… → several files as one: what is missing, what lies on what, merged',
    input: 'FILE@OFFSET… --family F [--flash-bytes N] [--out MERGED]',
    output: 'family, parts [{ file, offset, bytes, end, sha256, kind }], merged { bytes, sha256, out }, findings',
    example: 'bin/fresh-coat image set loader.bin@0 table.bin@0x8000 curtain.bin@0x10000 --family RV32 --out whole.bin',
    run: async (given, options, io) => {
      const { families } = await import('@fresh-coat/core/families/families')
      const { judgeSet } = await import('@fresh-coat/core/image/set')
      const { createHash } = await import('node:crypto')
      const family = options.get('family') as Family | undefined
      if (!family || !families.includes(family)) throw new UsageError(`--family must be one of ${families.join(', ')}`)
      const digest = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex')
      const parts = given.map(({ name, ...part }) => ({ file: name, ...part }))
      const { content, merged, ...set } = judgeSet(parts, {
        family,
        flashBytes: bytesOption(options, 'flash-bytes', 1),
        digest,
      })
      const out = options.get('out')
      if (content && out) io.write(out, content)
      return { ...set, merged: merged && { ...merged, out: content && out ? basename(out) : null } }
    },
  },
  'dump inspect': {
    kind: 'files',
    files: oneFile,
    line: 'FILE → is this a good copy of a chip, what lies where, what is private',
    input: 'FILE [--family F] [--flash-bytes N]',
    output:
      'file, bytes, sha256, private, sectorBytes, sectors, counts, runs, repeatsEvery, kind, family, chipId, images, partitions, secrets, findings',
    example: 'bin/fresh-coat dump inspect unit007_stock.bin --flash-bytes 1048576',
    run: async ([file], options) => {
      const { inspectDump } = await import('@fresh-coat/core/dump/inspect')
      const { name, bytes, sha256 } = file as GivenFile
      return { file: name, ...inspectDump(bytes, await inspectOptions(options), { sha256 }) }
    },
  },
  'dump compare': {
    kind: 'files',
    files: twoFiles,
    line: 'A B → do two reads of a chip agree, and if not, what that means',
    input: 'A B',
    output:
      'a, b, verdict, comparedBytes, sectors, differingBytes, differingSectors, ranges, bitsLost, bitsGained, findings',
    example: 'bin/fresh-coat dump compare first.bin second.bin',
    run: async ([a, b]) => {
      const { compareDumps } = await import('@fresh-coat/core/dump/compare')
      const name = ({ name, bytes, sha256 }: GivenFile) => ({ file: name, bytes: bytes.length, sha256 })
      return {
        a: name(a as GivenFile),
        b: name(b as GivenFile),
        ...compareDumps((a as GivenFile).bytes, (b as GivenFile).bytes),
      }
    },
  },
  'image patch-mode': {
    kind: 'files',
    files: oneFile,
    line: 'FILE → a copy with another flash mode, its hash and CRC computed anew',
    input: 'FILE --mode QIO|QOUT|DIO|DOUT --out OUT',
    output:
      'file, out, kind, from, to, changed, changedBytes, hashRecomputed, crcRecomputed, sha256Before, sha256After, findings',
    example: 'bin/fresh-coat image patch-mode plainsong-dio.bin --mode DOUT --out plainsong-dout.bin',
    run: async ([file], options, io) => {
      const { flashModes } = await import('@fresh-coat/core/image/image')
      const { patchMode } = await import('@fresh-coat/core/image/patch')
      const { name, bytes, sha256 } = file as GivenFile
      const mode = (options.get('mode') ?? '').toUpperCase()
      const out = options.get('out')
      if (!(flashModes as readonly string[]).includes(mode))
        throw new UsageError(`--mode must be one of ${flashModes.join(', ')}`)
      if (!out) throw new UsageError('--out names the new file')
      const { bytes: patched, ...result } = patchMode(bytes, mode as FlashMode, sha256)
      if (patched) io.write(out, patched)
      return { file: name, out: patched ? basename(out) : null, ...result }
    },
  },
  partitions: {
    kind: 'files',
    files: oneFile,
    line: 'FILE → the partition table, what overlaps, which slot is active',
    input: 'FILE [--table-offset N] [--flash-bytes N]',
    output: 'file, tableOffset, entries, md5, flashBytes, slots, factory, layout, overlaps, active, findings',
    example: 'bin/fresh-coat partitions whole-chip.bin --flash-bytes 4194304',
    run: async ([file], options) => {
      const { defaultTableOffset, readTableFile } = await import('@fresh-coat/core/image/partitions')
      const { sortFindings } = await import('@fresh-coat/core/image/inspect')
      const { name, bytes } = file as GivenFile
      const tableOffset = bytesOption(options, 'table-offset', 0) ?? defaultTableOffset
      const flashBytes = bytesOption(options, 'flash-bytes', 1)
      const { table, findings } = readTableFile(bytes, tableOffset, flashBytes)
      const none = { entries: [], md5: null, slots: 0, factory: false, layout: [], overlaps: [], active: null }
      return { file: name, ...(table ?? { tableOffset, flashBytes, ...none }), findings: sortFindings(findings) }
    },
  },
  'flash-id': {
    kind: 'words',
    line: 'HEX → manufacturer, type, capacity and size of a flash chip',
    input: 'HEX, manufacturer first: 684014, 68:40:14, 0x684014, 68 40 14',
    output: 'manufacturer, type, capacity, flashBytes, findings',
    example: 'bin/fresh-coat flash-id 684014',
    run: async (words) => {
      const { flashIdFindings, parseFlashId } = await import('@fresh-coat/core/flash/flash-id')
      const id = parseFlashId(words.join(' '))
      if (!id) throw new UsageError('Give three bytes in hex, manufacturer first: 684014')
      return { ...id, findings: flashIdFindings(id).map((f) => ({ ...f, at: null })) }
    },
  },
  preflight: {
    kind: 'request',
    line: 'unit, file and write settings → may it go in, and the plan',
    input:
      '{ unit: { family, familyVerdict?, flashBytes, flashId, dataLines, inPackageFlash, provenModes, backup: { state, bytes, reason }, layoutFile }, write: { file, offset, eraseAll, baud, verify }, chosen: { variant, language }, profile?: { offset } }',
    output: 'file, verdict, kind, plan, findings',
    example:
      '{"unit":{"family":"LX106","flashBytes":1048576,"backup":{"state":"verified","bytes":1048576}},"write":{"file":"plainsong.bin","offset":0,"eraseAll":true,"baud":115200,"verify":"digest"},"chosen":{}}',
    run: async (input, io) => {
      const { readPreflightRequest } = await import('@fresh-coat/core/flash/request')
      const { judged } = await import('../link/judged')
      const parsed = readPreflightRequest(input)
      if (!parsed.ok) return parsed
      return { ok: true, value: (await judged(parsed.value, io)).preflight }
    },
  },
  'upgrade-path': {
    kind: 'json',
    line: 'installed build, wanted build, releases → the shortest safe way over the air',
    input:
      '{ unit: { family, scheme, updateEnd | slotBytes, layout, hostVersion, current: Build }, target: { version, build }, releases: [Build], allowDowngrade }',
    output: 'found, steps, uploadBytes, direct, reachable, findings',
    example:
      '{"unit":{"family":"LX106","scheme":"single","updateEnd":1028096,"current":{"version":"3.1.0","build":"full","family":"LX106","bytes":545000}},"target":{"version":"6.0.0","build":"small"},"releases":[{"version":"6.0.0","build":"small","family":"LX106","bytes":338000}]}',
    run: async (input) => (await import('@fresh-coat/core/flash/upgrade')).planUpgrade(input),
  },
}
