import { type ChildProcess, spawn } from 'node:child_process'
import { LanternYard } from './lantern-yard'

/** A server that answers as the app does, after a moment. */
const standIn = (port: number): ChildProcess =>
  spawn(process.execPath, [
    '-e',
    `setTimeout(() => require('node:http').createServer((_, r) => r.end('{}')).listen(${port}, '127.0.0.1'), 300)`,
  ])

const until = async (yard: LanternYard, state: string) => {
  for (let i = 0; i < 100; i++) {
    const now = await yard.look()
    if (now.state === state) return now
    await new Promise((r) => setTimeout(r, 50))
  }
  throw new Error(`never ${state}`)
}

describe('Lantern Yard on request', () => {
  test('is made, then ready at an address of its own; pressed twice it starts once', async () => {
    const started: number[] = []
    const yard = new LanternYard((port) => {
      started.push(port)
      return standIn(port)
    })
    expect((await yard.look()).state).toBe('none')
    const [one, two] = await Promise.all([yard.open(), yard.open()])
    expect([one.state, two.state]).toEqual(['making', 'making'])
    const ready = await until(yard, 'ready')
    expect(ready.url).toBe(`http://127.0.0.1:${started[0]}`)
    expect(started).toHaveLength(1)
    yard.close()
    expect((await yard.look()).state).toBe('none')
  })
  test('one that ends by itself is said to have failed, and can be asked for again', async () => {
    let good = false
    const yard = new LanternYard((port) => (good ? standIn(port) : spawn(process.execPath, ['-e', 'process.exit(1)'])))
    await yard.open()
    await until(yard, 'failed')
    good = true
    await yard.open()
    await until(yard, 'ready')
    yard.close()
  })
})
