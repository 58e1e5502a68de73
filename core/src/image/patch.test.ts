import fc from 'fast-check'
import { sha256Hex } from '../bytes/digests'
import { buildDescriptor, buildExtended, buildLx106, buildLx106Second, noise } from './build'
import { flashModes } from './image'
import { inspectImage } from './inspect'
import { patchedName, patchMode } from './patch'

const lx106 = buildLx106({
  mode: 'DIO',
  sizeCode: 2,
  entry: 0x40100004,
  segments: [
    { address: 0x40100000, data: Uint8Array.from([0, 1, 2, 3, 4, 5, 6, 7]) },
    { address: 0x3ffe8000, data: Uint8Array.from([65, 66, 67, 68]) },
  ],
})
const codes = (p: { findings: { code: string }[] }) => p.findings.map((f) => f.code)

describe('another mode in the header', () => {
  test('worked example: DIO to DOUT, byte 2 and nothing else', () => {
    const patched = patchMode(lx106, 'DOUT')
    expect(patched.sha256Before).toMatch(/^94d3cd5d/)
    expect(patched.sha256After).toMatch(/^acda4c5d31d52510.*b0093655$/)
    expect(patched).toMatchObject({
      from: 'DIO',
      to: 'DOUT',
      changed: true,
      changedBytes: [{ offset: 2, before: 2, after: 3 }],
      hashRecomputed: false,
      crcRecomputed: false,
      findings: [],
    })
    expect(inspectImage(patched.bytes as Uint8Array).images[0]?.mode).toBe('DOUT')
  })
  test('an extended app: the hash is computed anew, and the byte has no effect there', () => {
    const app = buildExtended({
      mode: 'DIO',
      sizeCode: 2,
      entry: 0x42000020,
      chipId: 5,
      segments: [{ address: 0x3c000020, data: noise(70_000, 5) }],
    })
    const patched = patchMode(app, 'DOUT')
    expect(codes(patched)).toEqual(['mode-ignored-in-app'])
    expect(patched.hashRecomputed).toBe(true)
    const after = inspectImage(patched.bytes as Uint8Array)
    expect(after.findings.filter((f) => f.severity === 'error')).toEqual([])
    expect(after.images[0]?.mode).toBe('DOUT')
  })
  test('worked example: the RV32 app', () => {
    const data = buildDescriptor({
      version: '3.2.0',
      project: 'curtain',
      time: '18:30:00',
      date: 'Jan  6 2031',
      framework: '5.2',
    })
    const app = buildExtended({
      mode: 'DIO',
      sizeCode: 2,
      clock: 15,
      entry: 0x42000020,
      chipId: 5,
      minRevision: 3,
      maxRevision: 199,
      segments: [{ address: 0x3c000020, data }],
    })
    const patched = patchMode(app, 'DOUT')
    expect(patched.sha256Before).toMatch(/^b5b46286.*2a6913a4$/)
    expect(inspectImage(patched.bytes as Uint8Array).images[0]?.hash?.stored).toMatch(/^39ee31f280d6a81e.*028f5540db$/)
    expect(patched.sha256After).toMatch(/^488327409cbf37c6.*dcabf1cc$/)
  })
  test('a second-generation image: both headers, then the CRC', () => {
    const image = buildLx106Second(
      { mode: 'QIO', sizeCode: 2, entry: 0x40100004, segments: [{ address: 0x40100000, data: noise(64, 5) }] },
      noise(32, 7),
    )
    const patched = patchMode(image, 'DOUT')
    expect(patched.changedBytes.map((c) => c.after)).toEqual([3, 3])
    expect(patched.crcRecomputed).toBe(true)
    expect(inspectImage(patched.bytes as Uint8Array).images[0]?.crc32?.ok).toBe(true)
  })
  test('already so: nothing is made', () =>
    expect(patchMode(lx106, 'DIO')).toMatchObject({
      changed: false,
      sha256After: null,
      bytes: null,
      findings: [{ code: 'already-mode' }],
    }))
  test('what is refused', () => {
    const corrupt = lx106.slice()
    corrupt[30] = (corrupt[30] as number) ^ 1
    expect(codes(patchMode(corrupt, 'DOUT'))).toEqual(['refuse-corrupt'])
    expect(codes(patchMode(lx106.subarray(0, 40), 'DOUT'))).toEqual(['refuse-corrupt'])
    expect(codes(patchMode(lx106.subarray(0, 20), 'DOUT'))).toEqual(['refuse-corrupt'])
    expect(codes(patchMode(noise(500, 3), 'DOUT'))).toEqual(['refuse-format'])
    expect(codes(patchMode(new Uint8Array(), 'DOUT'))).toEqual(['refuse-format'])
    expect(codes(patchMode(Uint8Array.from([0x1f, 0x8b, 8, 0]), 'DOUT'))).toEqual(['refuse-gzip'])
  })
  test('there and back gives the same file, and the original is never touched', () =>
    fc.assert(
      fc.property(fc.constantFrom(...flashModes), fc.uint8Array({ minLength: 4, maxLength: 200 }), (mode, data) => {
        const image = buildLx106({
          mode: 'QIO',
          sizeCode: 2,
          entry: 0x40100000,
          segments: [{ address: 0x40100000, data }],
        })
        const before = sha256Hex(image)
        const there = patchMode(image, mode)
        const back = patchMode(there.bytes ?? image, 'QIO')
        expect(sha256Hex(back.bytes ?? there.bytes ?? image)).toBe(before)
        expect(sha256Hex(image)).toBe(before)
      }),
    ))
  test.each([
    ['plainsong-dio.bin', 'plainsong-dout.bin'],
    ['plainsong.bin', 'plainsong-dout.bin'],
    ['plainsong', 'plainsong-dout'],
  ])('%s becomes %s', (name, patched) => expect(patchedName(name, 'DOUT')).toBe(patched))
})
