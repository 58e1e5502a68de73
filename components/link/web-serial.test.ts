import { LineLost } from '@fresh-coat/core/link/byte-link'
import { drive } from '@fresh-coat/core/link/drive'
import { newLine } from '@fresh-coat/core/link/flow'
import { identify } from '@fresh-coat/core/link/identity'
import { VirtualPort } from '@/standins/chip/browser-port'
import { ChipSpec } from '@/standins/chip/chip-spec'
import { serialHere, WebSerialLink } from './web-serial'

const spec = (more: object = {}) =>
  ChipSpec.parse({ family: 'LX6', flashBytes: 2 ** 18, flashId: '204012', mac: '02:4c:59:10:20:44', ...more })

test('a chip behind a port of the browser says the same as everywhere', async () => {
  const port = new VirtualPort(spec())
  const link = await WebSerialLink.open(port, 115_200)
  const who = await drive(identify(newLine(115_200, 400), 10), link)
  expect(who).toMatchObject({ family: 'LX6', mac: '02:4c:59:10:20:44', flashBytes: 2 ** 18, findings: [] })
  await link.close()
  await expect(link.read(10)).rejects.toThrow(LineLost)
})

test('both lines are put off as soon as it is open, and after every change of rate', async () => {
  const port = new VirtualPort(spec())
  const signals = jest.spyOn(port, 'setSignals')
  const link = await WebSerialLink.open(port, 115_200)
  expect(signals).toHaveBeenLastCalledWith({ dataTerminalReady: false, requestToSend: false })
  await link.changeRate(230_400)
  expect(signals).toHaveBeenCalledTimes(2)
  await link.close()
})

test('its rate is changed by closing and opening it anew; nothing of it stays locked', async () => {
  const port = new VirtualPort(spec())
  const [open, close] = [jest.spyOn(port, 'open'), jest.spyOn(port, 'close')]
  const link = await WebSerialLink.open(port, 115_200)
  await link.changeRate(460_800)
  expect(open.mock.calls.map(([o]) => o.baudRate)).toEqual([115_200, 460_800])
  expect(close).toHaveBeenCalledTimes(1)
  await link.close()
  const again = await WebSerialLink.open(port, 115_200)
  await again.close()
})

test('an adapter that is pulled is told once, and ends every read', async () => {
  const port = new VirtualPort(spec())
  const link = await WebSerialLink.open(port, 115_200)
  const told = jest.fn()
  link.onLost(told)
  const waiting = link.read(60_000)
  port.unplug()
  port.unplug()
  for (;;) if ((await link.read(50).catch(() => null)) === null) break
  await waiting.catch(() => null)
  expect(told).toHaveBeenCalledTimes(1)
  expect(told).toHaveBeenCalledWith('unplugged', expect.any(String))
})

test('an adapter that is pulled in the middle of a write is a lost line, not a fault of ours', async () => {
  const port = new VirtualPort(spec())
  const link = await WebSerialLink.open(port, 115_200)
  const told = jest.fn()
  link.onLost(told)
  Object.defineProperty(link, 'writer', {
    value: { write: () => Promise.reject(new Error('The device has been lost.')) },
  })
  await expect(link.write(Uint8Array.of(1))).rejects.toThrow(LineLost)
  expect(told).toHaveBeenCalledWith('error', 'The device has been lost.')
  await port.close()
})

test('one that cannot be opened again at another rate is a lost line too', async () => {
  const port = new VirtualPort(spec())
  const link = await WebSerialLink.open(port, 115_200)
  jest.spyOn(port, 'open').mockRejectedValue(new Error('Failed to open serial port.'))
  await expect(link.changeRate(230_400)).rejects.toThrow(LineLost)
  await link.close()
})

test('a stream that breaks by an overrun leaves the port: the next one is taken, and what came after it is read', async () => {
  const streams = [
    new ReadableStream<Uint8Array>({ start: (to) => to.error(new Error('overrun')) }),
    new ReadableStream<Uint8Array>({ start: (to) => to.enqueue(Uint8Array.of(7)) }),
  ]
  let at = 0
  const port = new VirtualPort(spec())
  await port.open({ baudRate: 115_200 })
  Object.defineProperty(port, 'open', { value: async () => {} })
  Object.defineProperty(port, 'readable', { get: () => streams[Math.min(at++, 1) === 0 ? 0 : 1], set: () => {} })
  const link = await WebSerialLink.open(port, 115_200)
  expect(await link.read(1000)).toEqual(Uint8Array.of(7))
  await port.close()
})

test('a port that cannot be opened says so, and nothing is kept of it', async () => {
  const port = new VirtualPort(spec())
  const first = await WebSerialLink.open(port, 115_200)
  await expect(WebSerialLink.open(port, 115_200)).rejects.toThrow(/open already/)
  await first.close()
})

describe('whether this browser can', () => {
  const secure = (isSecureContext: boolean) => {
    Object.defineProperty(globalThis, 'window', { value: { isSecureContext }, configurable: true })
    Object.defineProperty(globalThis, 'navigator', { value: {}, configurable: true })
  }
  test('a page from elsewhere without HTTPS may not, and says what instead', () => {
    secure(false)
    expect(serialHere()).toMatchObject({ why: expect.stringMatching(/HTTPS/), instead: expect.stringMatching(/bring/) })
  })
  test('a browser without ports says so', () => {
    secure(true)
    expect(serialHere()).toMatchObject({ why: 'This browser has no serial ports.' })
  })
})
