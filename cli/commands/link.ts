import type { Commands } from '../command'

/** The line to a chip: frames and times, and the commands that open a port. */
export const link: Commands = {
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
    run: async (options) => (await import('../link/look')).linkInfo(options),
  },
  'link backup': {
    kind: 'port',
    line: 'reads a chip twice, compares, and keeps it in a new file',
    input:
      '--port tcp:HOST:PORT | virtual:FILE --out FILE [--offset N] [--bytes N] [--once] [--rate R] [--timeout MS] [--tries N] [--record FILE]',
    output: 'out, offset, bytes, sha256, reads, verdict, compare, whole, seconds, family, mac, virtual, line, findings',
    example: 'bin/fresh-coat link backup --port virtual:chip.json --out stock.bin',
    run: async (options) => (await import('../link/backup')).linkBackup(options),
  },
  'link verify': {
    kind: 'port',
    line: 'is what stands in the chip this file',
    input:
      '--port tcp:HOST:PORT | virtual:FILE --file F [--offset N] [--method digest|readback|sample] [--seed N] [--rate R] [--timeout MS] [--tries N] [--record FILE]',
    output: 'verdict, method, bytes, firstDifference, family, mac, virtual, line, findings',
    example: 'bin/fresh-coat link verify --port virtual:chip.json --file stock.bin',
    run: async (options) => (await import('../link/verify')).linkVerify(options),
  },
  'link write': {
    kind: 'request',
    line: 'writes what a request names, where the preflight allows it, and proves it',
    input:
      'the request of preflight, with unit.mac, write.kind image | restore, write.verify also sample; --port tcp:HOST:PORT | virtual:FILE [--journal FILE] [--resume] [--seed N] [--rate R] [--timeout MS] [--tries N] [--record FILE]',
    output: 'outcome, preflight, regions, blocks, verify, journal, family, mac, virtual, line, findings',
    example: 'bin/fresh-coat link write request.json --port virtual:chip.json --journal write.json',
    run: async (input, io, options) => (await import('../link/write')).linkWrite(input, io, options),
  },
  'link console': {
    kind: 'port',
    line: 'hears what a unit says, and judges it as boot-log does; sends nothing',
    input: '--port tcp:HOST:PORT | virtual:FILE [--seconds S] [--rate R] [--record FILE]',
    output: 'bytes, text, boot, virtual, line, findings',
    example: 'bin/fresh-coat link console --port virtual:chip.json --seconds 3',
    run: async (options) => (await import('../link/look')).linkConsole(options),
  },
  'link time': {
    kind: 'json',
    line: 'how long a read or a write takes over the line',
    input: '{ family, action: read-registers | read-rom | write, bytes, rate, latencyMs, offset? }',
    output: 'exchanges, bytesOut, bytesIn, seconds, secondsPerKiB',
    example: '{"family":"LX106","action":"read-registers","bytes":1048576,"rate":115200,"latencyMs":1}',
    run: async (input) => (await import('@fresh-coat/core/link/time')).linkTime(input),
  },
}
