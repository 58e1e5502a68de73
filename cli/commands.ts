import { basename } from 'node:path'
import type { Outcome } from '@fresh-coat/core/edge/fault'
import type { Family } from '@fresh-coat/core/families/families'
import type { FlashMode } from '@fresh-coat/core/image/image'
import { UsageError } from './usage'

/** A file given on the command line: base name, content, and its hash computed by the platform. */
export interface GivenFile {
  name: string
  bytes: Uint8Array
  sha256: string
}

interface Described {
  line: string
  input: string
  output: string
  example: string
}
export type Command = Described &
  (
    | { kind: 'json'; run: (input: unknown) => Promise<Outcome<object>> }
    | {
        kind: 'files'
        files: number
        run: (files: GivenFile[], options: Map<string, string>, io: Io) => Promise<object>
      }
    /** Files, each with the flash address it goes to: FILE@OFFSET. */
    | {
        kind: 'parts'
        run: (parts: (GivenFile & { offset: number })[], options: Map<string, string>, io: Io) => Promise<object>
      }
    /** Options only: it talks to the port that they name. */
    | { kind: 'port'; run: (options: Map<string, string>) => Promise<object> }
    /** Words on the line instead of a file. */
    | { kind: 'words'; run: (words: string[]) => Promise<object> }
    /** JSON that names further files, by paths relative to it. */
    | { kind: 'request'; run: (input: unknown, io: Io) => Promise<Outcome<object>> }
  )

/** What a command may do with files besides the ones it is given. */
export interface Io {
  /** Reads a file named by a path relative to the request; throws `FileError`. */
  read: (path: string) => GivenFile
  /** Writes a new file; throws `FileError` when there is one already. */
  write: (path: string, bytes: Uint8Array) => void
}

function bytesOption(options: Map<string, string>, name: string, least: number): number | null {
  const text = options.get(name)
  if (text === undefined) return null
  const n = /^(0x[0-9a-f]+|\d+)$/i.test(text) ? Number(text) : Number.NaN
  if (!(n >= least)) throw new UsageError(`--${name} must be a number of bytes${least > 0 ? ' above 0' : ''}`)
  return n
}

async function inspectOptions(
  options: Map<string, string>,
): Promise<{ family: Family | null; flashBytes: number | null }> {
  const { families } = await import('@fresh-coat/core/families/families')
  const family = options.get('family') ?? null
  if (family !== null && !(families as readonly string[]).includes(family))
    throw new UsageError(`--family must be one of ${families.join(', ')}`)
  const flashBytes = bytesOption(options, 'flash-bytes', 1)
  return { family: family === 'OTHER' ? null : (family as Family | null), flashBytes }
}

const [oneFile, twoFiles] = [1, 2]

/** What each command needs is loaded when it runs: the list of them is there at once. */
export const commands: Record<string, Command> = {
  identify: {
    kind: 'json',
    line: 'evidence → which chip family, what disagrees, which check next',
    input: '{ evidence: [{ kind, value | counts, sure? }], prior?: { family: p } }',
    output: 'posterior, leader, runnerUp, entropyBits, verdict, conflicts, next',
    example: '{"evidence":[{"kind":"crystal","value":"26"},{"kind":"flash_chip","value":"none"}]}',
    run: async (input) => (await import('@fresh-coat/core/identify/identify')).identify(input),
  },
  pads: {
    kind: 'json',
    line: 'readings at a row of pads → which pad is what, what disagrees, which reading next',
    input:
      '{ pads: [{ name?, cont_gnd?, ohms_3v3?, button_gnd?, square?, label?, volts?, volts_10k?, dip?, text? }], railKnown? }',
    output: 'best, runnerUp, marginals, conflicts, next, labelsSwapped, safeToWire, poweredAllowed, verdict',
    example: '{"pads":[{"ohms_3v3":0.4,"square":true},{"cont_gnd":false,"ohms_3v3":"open"},{"cont_gnd":true}]}',
    run: async (input) => (await import('@fresh-coat/core/pads/solve')).solvePads(input),
  },
  wiring: {
    kind: 'json',
    line: 'adapter and board → connection list and checks',
    input:
      '{ adapter: { pins, logicV, max3v3Ma?, labelledFrom }, board: { family, pads, pitchMm?, regulator5v?, peakMa? }, power, benchV, entry, mainsOff }',
    output: 'allowed, connections, findings, capacitorUf, contact',
    example:
      '{"adapter":{"pins":["GND","RX","TX","3V3"]},"board":{"family":"LX106","pads":["3V3","RX","TX","GND"]},"power":"adapter3v3","entry":"button","mainsOff":true}',
    run: async (input) => (await import('@fresh-coat/core/wiring/wiring')).planWiring(input),
  },
  jig: {
    kind: 'json',
    line: 'adapter row and pads → a straight plug with the fewest bent pins, or a jig',
    input: '{ adapter: [], pads: [], pitchAdapter?, pitchPads?, padsSeenFrom?, plugFace?, labelledFrom?, power? }',
    output: 'padsInView, straight, jig, reason',
    example: '{"adapter":["3V3","5V","TX","RX","GND"],"pads":["3V3","UNKNOWN","RX","TX","GND"]}',
    run: async (input) => (await import('@fresh-coat/core/wiring/jig')).planJig(input),
  },
  divider: {
    kind: 'json',
    line: 'two resistors in front of RX: checked at a rate, or designed from a series',
    input:
      '{ mode: "check", vin, rTop, rBottom, vdd?, baud?, loadPf? } or { mode: "design", vin, vout, series?, minTotal?, maxTotal? }',
    output: 'vout, rth, riseNs, bitNs, risePct, currentMa, verdict; or pairs',
    example: '{"mode":"check","vin":5,"rTop":1800,"rBottom":3300,"baud":115200}',
    run: async (input) => (await import('@fresh-coat/core/wiring/divider')).planDivider(input),
  },
  rehearse: {
    kind: 'json',
    line: 'hand moves with their times → did it reach download mode, what went wrong, a score',
    input: '{ family, events: [{ t, do }], goal?, railTauMs?, windowMs?, callMs? }',
    output: 'boots, end, mistakes, score',
    example:
      '{"family":"LX106","events":[{"t":0,"do":"strap_low"},{"t":400,"do":"power_on"},{"t":1500,"do":"strap_high"}]}',
    run: async (input) => (await import('@fresh-coat/core/boot/rehearse')).rehearse(input),
  },
  troubleshoot: {
    kind: 'json',
    line: 'symptom and answers → ranked causes, and the question that tells most per minute',
    input: '{ symptom, answers: [{ test, yes }] }',
    output: 'causes, entropyBits, next',
    example: '{"symptom":"no_answer","answers":[{"test":"new_port","yes":true}]}',
    run: async (input) => (await import('@fresh-coat/core/trouble/troubleshoot')).troubleshoot(input),
  },
  'boot-log': {
    kind: 'json',
    line: 'boot text or captured bytes → who talks, in which mode, what next',
    input: '{ text } or { bytesHex }, baud?',
    output: 'family, boots, mode, cause, strap, printable, likelyBaud, verdict, lines',
    example: '{"text":"rst:0x1 (POWERON),boot:0x5 (DOWNLOAD(USB/UART0/1))"}',
    run: async (input) => (await import('@fresh-coat/core/boot/boot-log')).readBootLog(input),
  },
  'paste read': {
    kind: 'json',
    line: 'what a tool printed → the facts in it, each with its line, and how it ended',
    input: '{ text, markings?: [{ text, family }] }',
    output: 'facts [{ kind, value, line }], outcome, outcomeLine, conflict',
    example: '{"text":"MAC address B8-3C-D0-77-1E-9A\\nflash id 684014, 1MB\\ndigest ok"}',
    run: async (input) => (await import('@fresh-coat/core/paste/paste')).readPaste(input),
  },
  'refit checks': {
    kind: 'json',
    line: 'contacts of a module → what the meter must say before any power',
    input: '{ contacts: [{ n, role, edge }], railOhms? }',
    output: 'checks',
    example: '{"contacts":[{"n":1,"role":"3V3","edge":"left"},{"n":2,"role":"GND","edge":"left"}]}',
    run: async (input) => (await import('@fresh-coat/core/refit/refit')).refitChecks(input),
  },
  'refit judge': {
    kind: 'json',
    line: 'readings against those checks → go, wait or stop, and where the joint is bad',
    input: '{ contacts, railOhms?, readings: { id: ohms | null } }',
    output: 'results [{ id, verdict, code, because }], verdict, findings',
    example:
      '{"contacts":[{"n":1,"role":"3V3","edge":"left"},{"n":2,"role":"GND","edge":"left"}],"readings":{"rail":350,"1-2":350,"C-1":0.3,"C-2":0.2}}',
    run: async (input) => (await import('@fresh-coat/core/refit/refit')).judgeRefit(input),
  },
  'load states': {
    kind: 'json',
    line: 'relay, pin and load → what the load does without supply, while starting, hung, off line',
    input:
      '{ channels: [{ ch, contact, active, bootLevel, start, latching?, localInput, load: { kind, wayOut?, attended? } }] }',
    output: 'channels [{ ch, coil, load }], findings',
    example:
      '{"channels":[{"ch":1,"contact":"NC","active":"high","bootLevel":"ru","start":"off","localInput":true,"load":{"kind":"modem"}}]}',
    run: async (input) => (await import('@fresh-coat/core/load/states')).loadStates(input),
  },
  'fleet survival': {
    kind: 'json',
    line: 'restarts of units on releases → stop, go, or how long to wait',
    input: '{ releases: [{ version, units: [{ id, days, restarts }] }], maxPerDay?, of? }',
    output: 'releases [{ version, days, restarts, rate, lower, upper }], of, verdict, moreDays, findings',
    example: '{"releases":[{"version":"1.5","units":[{"id":"LY-04","days":52.5,"restarts":1}]}]}',
    run: async (input) => (await import('@fresh-coat/core/fleet/survival')).fleetSurvival(input),
  },
  'bench plan': {
    kind: 'json',
    line: 'tasks and the minutes there are → which to take, in which order',
    input: '{ tasks: [{ id, unit?, minutes, hands?, setup?, needs?, waitMin?, value? }], minutesHave, setupMinutes? }',
    output: 'order [{ id, start, end, setupMin }], left, value, endMin, exact',
    example:
      '{"tasks":[{"id":"glue","minutes":8,"waitMin":25},{"id":"close","minutes":6,"needs":["glue"]}],"minutesHave":60}',
    run: async (input) => (await import('@fresh-coat/core/fleet/bench-plan')).planBench(input),
  },
  'dc-drop': {
    kind: 'json',
    line: 'direct current over a pair of leads → what is lost, the least area, the fuse',
    input: '{ V, A, lengthM, areaMm2 | awg, tempC?, maxPct?, cableA? }',
    output: 'areaMm2, ohm, dropV, dropPct, lossW, minAreaMm2, fuse { min, max }, verdict, reasons',
    example: '{"V":12,"A":2,"lengthM":5,"areaMm2":0.75,"cableA":6}',
    run: async (input) => (await import('@fresh-coat/core/calculators/dc-drop')).dcDrop(input),
  },
  battery: {
    kind: 'json',
    line: 'a battery and a unit that sleeps → how many days it lasts',
    input: '{ mAh, usable?, sleepUA, wakeMA, wakeS, perHour, selfPctMonth? }',
    output: 'avgMA, drainMA, days',
    example: '{"mAh":2500,"sleepUA":20,"wakeMA":80,"wakeS":4,"perHour":6}',
    run: async (input) => (await import('@fresh-coat/core/calculators/battery')).batteryLife(input),
  },
  'report-load': {
    kind: 'json',
    line: 'units and their periods → messages a minute, and how much slower to report',
    input: '{ units: [{ n, perMessageBytes?, periodS }], maxPerMinute? }',
    output: 'perMinute, bytesPerSecond, factor',
    example: '{"units":[{"n":12,"periodS":10}],"maxPerMinute":30}',
    run: async (input) => (await import('@fresh-coat/core/calculators/report-load')).reportLoad(input),
  },
  regulator: {
    kind: 'json',
    line: 'a linear regulator and what it feeds → drop-out, bursts, heat, what may be added',
    input: '{ vin, vout, dropoutV, iMaxMA, thetaJA, ambientC?, tjMaxC?, loads: [{ id, avgMA, peakMA?, count? }] }',
    output: 'avgMA, peakMA, W, tjC, heatLimitMA, spareMA, verdict, reasons, findings',
    example:
      '{"vin":5,"vout":3.3,"dropoutV":1.1,"iMaxMA":800,"thetaJA":90,"loads":[{"id":"module","avgMA":85,"peakMA":350}]}',
    run: async (input) => (await import('@fresh-coat/core/load/regulator')).checkRegulator(input),
  },
  'slip encode': {
    kind: 'json',
    line: 'bytes in hex → a frame on the line',
    input: '{ hex }',
    output: 'hex',
    example: '{"hex":"01c0db02"}',
    run: async (input) => (await import('@fresh-coat/core/link/slip')).encodeHex(input),
  },
  'slip decode': {
    kind: 'json',
    line: 'a byte stream in hex → its frames, and what is none',
    input: '{ hex }',
    output: 'frames, bad, head, tail',
    example: '{"hex":"0d0ac00102c0c0414203"}',
    run: async (input) => (await import('@fresh-coat/core/link/slip')).decodeHex(input),
  },
  'link frame': {
    kind: 'json',
    line: 'a request to a chip’s ROM in bytes, or what came back as answers',
    input: '{ build: { family, command, … } } or { parse: { family, hex } }',
    output: 'code, packet, hex, checksum | sizeField, blocks, erasedBytes; or answers, noise, tail, findings',
    example: '{"build":{"family":"LX106","command":"flash-begin","offset":0,"bytes":20000}}',
    run: async (input) => (await import('@fresh-coat/core/link/frame')).linkFrame(input),
  },
  'link info': {
    kind: 'port',
    line: 'a chip in its loader → family, address, crystal, flash; nothing is written',
    input: '--port tcp:HOST:PORT | virtual:FILE [--rate R] [--timeout MS] [--tries N] [--record FILE]',
    output: 'family, magic, chipId, mac, crystalMHz, flashId, flashBytes, security, virtual, line, findings',
    example: 'bin/fresh-coat link info --port virtual:chip.json',
    run: async (options) => (await import('./link')).linkInfo(options),
  },
  'link backup': {
    kind: 'port',
    line: 'reads a chip twice, compares, and keeps it in a new file',
    input:
      '--port tcp:HOST:PORT | virtual:FILE --out FILE [--offset N] [--bytes N] [--once] [--rate R] [--timeout MS] [--tries N] [--record FILE]',
    output: 'out, offset, bytes, sha256, reads, verdict, compare, whole, seconds, family, mac, virtual, line, findings',
    example: 'bin/fresh-coat link backup --port virtual:chip.json --out stock.bin',
    run: async (options) => (await import('./link')).linkBackup(options),
  },
  'link verify': {
    kind: 'port',
    line: 'is what stands in the chip this file',
    input:
      '--port tcp:HOST:PORT | virtual:FILE --file F [--offset N] [--method digest|readback|sample] [--seed N] [--rate R] [--timeout MS] [--tries N] [--record FILE]',
    output: 'verdict, method, bytes, firstDifference, family, mac, virtual, line, findings',
    example: 'bin/fresh-coat link verify --port virtual:chip.json --file stock.bin',
    run: async (options) => (await import('./link-verify')).linkVerify(options),
  },
  'link console': {
    kind: 'port',
    line: 'hears what a unit says, and judges it as boot-log does; sends nothing',
    input: '--port tcp:HOST:PORT | virtual:FILE [--seconds S] [--rate R] [--record FILE]',
    output: 'bytes, text, boot, virtual, line, findings',
    example: 'bin/fresh-coat link console --port virtual:chip.json --seconds 3',
    run: async (options) => (await import('./link-verify')).linkConsole(options),
  },
  'link time': {
    kind: 'json',
    line: 'how long a read or a write takes over the line',
    input: '{ family, action: read-registers | read-rom | write, bytes, rate, latencyMs, offset? }',
    output: 'exchanges, bytesOut, bytesIn, seconds, secondsPerKiB',
    example: '{"family":"LX106","action":"read-registers","bytes":1048576,"rate":115200,"latencyMs":1}',
    run: async (input) => (await import('@fresh-coat/core/link/time')).linkTime(input),
  },
  'net match': {
    kind: 'json',
    line: 'pasted lease lists and neighbour tables → which device is which unit',
    input:
      '{ tables: [{ text, format?, phase? }], units: [{ id, apMac?, staMac?, family?, firmware?, nameSuffix?, hostname? }] }',
    output: 'formats, entries, matches, batches, conflicts, newcomers, gone, skipped, findings',
    example:
      '{"tables":[{"text":"192.168.71.61 dev br0 lladdr 44:b7:d0:31:0a:0f STALE"}],"units":[{"id":"LY-51","apMac":"44:b7:d0:31:0a:10","family":"RV32"}]}',
    run: async (input) => (await import('@fresh-coat/core/network/match')).matchNetwork(input),
  },
  'pins check': {
    kind: 'json',
    line: 'pin template → is it possible, what happens at power-up',
    input: '{ template } (docs/formats/pin-template.schema.json)',
    output: 'verdict, counts, findings',
    example:
      '{"template":{"format":"fresh-coat/pin-template","version":1,"board":"p1","family":"LX106","pins":[{"pin":"GPIO12","fn":"relay","ch":1},{"pin":"GPIO0","fn":"button","ch":1,"pull":"up"}]}}',
    run: async (input) => (await import('@fresh-coat/core/pins/check')).checkPins(input),
  },
  'meter fit': {
    kind: 'json',
    line: 'indicated and reference readings → gain, offset, errors, uncertainty, due date',
    input:
      '{ quantity, reference: { gainPct, digits, resolution }, indicatedResolution, points: [{ id, indicated, reference, role?, group?, refs?, inds? }], rated?, load, limits?, model?, zeroReadings?, bandAt?, date?, recheckMonths? }',
    output:
      'model, why, gain, offset, seGain, seOffset, points, verify, band, warnings, minDetectable, passed, due, findings',
    example:
      '{"quantity":"P","reference":{"gainPct":0.5,"digits":2,"resolution":0.1},"indicatedResolution":0.1,"load":{"kind":"resistive","warm":true},"points":[{"id":"a","indicated":58.1,"reference":60.2},{"id":"b","indicated":961.8,"reference":1001.2}]}',
    run: async (input) => (await import('@fresh-coat/core/metering/fit')).fitMeter(input),
  },
  'topics plan': {
    kind: 'json',
    line: 'names → unique slugs and MQTT topics, and names that people confuse',
    input: '{ base, site, maxSlug?, units: [{ id, number, name, spoken?, pinned?, meter?, channels? }], groups? }',
    output: 'units, groups, collisions, warnings, findings',
    example:
      '{"base":"yard","site":"lantern","units":[{"id":"LY-07","number":7,"name":"Glue pot"},{"id":"LY-08","number":8,"name":"Glue Pot!"}]}',
    run: async (input) => (await import('@fresh-coat/core/topics/plan')).planTopics(input),
  },
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
      const { preflightOfRequest, readPreflightRequest } = await import('@fresh-coat/core/flash/request')
      const { inspectImage } = await import('@fresh-coat/core/image/inspect')
      const { defaultTableOffset, readTableFile } = await import('@fresh-coat/core/image/partitions')
      const parsed = readPreflightRequest(input)
      if (!parsed.ok) return parsed
      const { unit, write } = parsed.value
      const { name, bytes, sha256 } = io.read(write.file)
      const family = unit.family === 'OTHER' ? null : unit.family
      const inspection = inspectImage(bytes, { family, flashBytes: unit.flashBytes ?? null }, { sha256 })
      const layout = unit.layoutFile
        ? readTableFile(io.read(unit.layoutFile).bytes, defaultTableOffset, unit.flashBytes ?? null)
        : null
      const { verdict, kind, plan, findings } = preflightOfRequest(parsed.value, { name, inspection }, layout)
      return { ok: true, value: { file: name, verdict, kind, plan, findings } }
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
