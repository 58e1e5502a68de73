import type { Identity } from '@fresh-coat/core/link/identity'
import type { Journal } from '@fresh-coat/core/link/journal'
import type { LineMeasure } from '@fresh-coat/core/link/measure'
import type { Question } from '@fresh-coat/core/link/questions'
import { VirtualPort } from '@/standins/chip/browser-port'
import { ChipSpec } from '@/standins/chip/chip-spec'
import { Desk } from './desk'
import type { LinkAttempt, OpenPort } from './desk-base'
import { measureWords } from './desk-measure'
import type { ReadJob } from './desk-read'
import { DeskStore, type DeskView } from './desk-store'
import type { WriteJob } from './desk-write'
import { openerOf } from './open-port'

// A chip that is not heard again is called for some seconds before it is given up.
jest.setTimeout(40_000)
const flashBytes = 2 ** 18
const spec = (more: object = {}) =>
  ChipSpec.parse({ family: 'LX6', flashBytes, flashId: '204012', mac: '02:4c:59:10:20:44', ...more })
const nobodyKnows = { family: null, mac: null, flashId: null, flashBytes: null }
const until = async (desk: Desk, holds: (view: DeskView) => boolean) => {
  for (let i = 0; i < 2000; i++) {
    if (holds(desk.store.now())) return desk.store.now()
    await new Promise((done) => setTimeout(done, 5))
  }
  throw new Error(`it never came: ${JSON.stringify({ ...desk.store.now(), runs: 0 })}`)
}
const phase = (wanted: DeskView['phase']) => (v: DeskView) => v.phase === wanted

function reading(port: VirtualPort, more: Partial<ReadJob> = {}) {
  const kept: { read: 1 | 2; bytes: Uint8Array; rate: number }[] = []
  const logged: LinkAttempt[] = []
  const desk = new Desk(new DeskStore())
  const job: ReadJob = {
    unitId: 'u',
    open: openerOf(port),
    expected: nobodyKnows,
    byLines: false,
    reads: [1, 2],
    identified: async () => {},
    keep: async (bytes, { read, rate }) => {
      kept.push({ read, bytes, rate })
      return true
    },
    log: async (attempt) => logged.push(attempt),
    ...more,
  }
  return { desk, kept, logged, over: desk.read(job) }
}

describe('reading', () => {
  test('both reads are whole, equal to what stands in the chip, and made at two rates', async () => {
    const port = new VirtualPort(spec())
    const { desk, kept, logged, over } = reading(port)
    await over
    expect(desk.store.now()).toMatchObject({ phase: 'over', ended: { good: true }, differing: [] })
    expect(kept.map((k) => [k.read, k.rate])).toEqual([
      [1, 460_800],
      [2, 230_400],
    ])
    for (const { bytes } of kept) expect(Buffer.compare(bytes, port.flash as Uint8Array)).toBe(0)
    expect(logged).toEqual([])
  })
  test('it calls until it answers, says what comes instead, and notices the first answer by itself', async () => {
    const port = new VirtualPort(spec({ strap: 'free' }))
    const { desk, over } = reading(port, { reads: [1] })
    expect((await until(desk, (v) => v.heard !== null)).heard?.code).toBe('link-app-running')
    port.power(false)
    port.hold('held')
    port.power(true)
    await over
    expect(desk.store.now().ended?.good).toBe(true)
  })
  test.each(['circuit', 'direct'] as const)(
    'wired to its lines (%s) it is brought into its loader by itself',
    async (lines) => {
      const { desk, kept, over } = reading(new VirtualPort(spec({ strap: 'free', lines })), {
        reads: [1],
        byLines: true,
      })
      await over
      expect([desk.store.now().ended?.good, kept.length]).toEqual([true, 1])
    },
  )
  test('an adapter pulled in the middle: gone on with from the last whole sector, over whatever port is chosen', async () => {
    const port = new VirtualPort(spec({ faults: [{ fault: 'unplug', after: 90_000 }] }))
    const { desk, kept, over } = reading(port, { reads: [1] })
    const lost = await until(desk, phase('lost'))
    expect(lost.progress?.done).toBeGreaterThan(0)
    desk.again(openerOf(port))
    await over
    expect(Buffer.compare(kept[0]?.bytes as Uint8Array, port.flash as Uint8Array)).toBe(0)
  })
  test('another unit after the slip is not read on, and nothing is kept', async () => {
    const port = new VirtualPort(spec({ faults: [{ fault: 'unplug', after: 90_000 }] }))
    const { desk, kept, over } = reading(port, { reads: [1] })
    await until(desk, phase('lost'))
    desk.again(openerOf(new VirtualPort(spec({ mac: '02:4c:59:10:20:99' }))))
    await over
    expect(kept).toEqual([])
    expect(desk.store.now().ended).toMatchObject({ good: false, words: expect.stringMatching(/Another unit/) })
  })
  test('paused it rests, and goes on where it was', async () => {
    const port = new VirtualPort(spec())
    const { desk, kept, over } = reading(port, { reads: [1] })
    await until(desk, (v) => (v.progress?.done ?? 0) > 0)
    desk.pause()
    await until(desk, (v) => v.paused)
    await new Promise((done) => setTimeout(done, 60))
    const { progress } = desk.store.now()
    await new Promise((done) => setTimeout(done, 60))
    expect(desk.store.now().progress).toEqual(progress)
    desk.continue()
    await over
    expect(kept[0]?.bytes.length).toBe(flashBytes)
  })
  test('stopped it keeps nothing, says so, and logs it', async () => {
    const { desk, kept, logged, over } = reading(new VirtualPort(spec()))
    await until(desk, (v) => (v.progress?.done ?? 0) > 0)
    desk.stop()
    await over
    expect(kept).toEqual([])
    expect(logged).toMatchObject([{ action: 'read', outcome: 'cancelled' }])
  })
  test('stopped in the second read, the first stays kept and is the only row', async () => {
    const { desk, kept, logged, over } = reading(new VirtualPort(spec()))
    await until(desk, (v) => v.read === 2 && (v.progress?.done ?? 0) > 0)
    desk.stop()
    await over
    expect([kept.map((k) => k.read), logged]).toEqual([[1], []])
  })
  test('the chip that the record does not know is not read', async () => {
    const expected = { ...nobodyKnows, mac: '02:4c:59:10:20:01' }
    const { desk, kept, over } = reading(new VirtualPort(spec()), { expected })
    await over
    expect(kept).toEqual([])
    expect(desk.store.now().findings.map((f) => f.code)).toEqual(['link-other-unit'])
  })
  test('a cell that reads otherwise every other time makes two reads that differ, at its sector', async () => {
    const port = new VirtualPort(spec({ faults: [{ fault: 'unstable', address: 5000, mask: 4 }] }))
    const { desk, over } = reading(port)
    await over
    const { ended, differing } = desk.store.now()
    // Whether both reads meet it alike is a matter of its turn: said where they do not.
    expect(differing.every((s) => s === 1)).toBe(true)
    expect(ended?.good).toBe(differing.length === 0)
  })
  test('the port is closed at once where the mains may come', async () => {
    const { desk, logged, over } = reading(new VirtualPort(spec()))
    await until(desk, (v) => (v.progress?.done ?? 0) > 0)
    await desk.store.close()
    await over.catch(() => {})
    expect(desk.busy).toBe(false)
    expect(logged.length).toBe(1)
  })
})

const data = Uint8Array.from({ length: 9000 }, (_, i) => (i * 37) & 0xff)
function writing(port: VirtualPort, more: Partial<WriteJob> = {}) {
  const journals: (Journal | null)[] = []
  const logged: LinkAttempt[] = []
  const desk = new Desk(new DeskStore())
  const job: WriteJob = {
    unitId: 'u',
    open: openerOf(port),
    expected: nobodyKnows,
    byLines: false,
    file: { sha256: 'of the file', bytes: data.length },
    data,
    offset: 0x4000,
    eraseAll: false,
    verify: 'digest',
    journal: null,
    keepJournal: async (journal) => {
      journals.push(journal)
    },
    log: async (attempt) => logged.push(attempt),
    ...more,
  }
  return { desk, journals, logged, over: desk.write(job) }
}

describe('writing', () => {
  test('written, proven by the digest, logged as such, and no journal left', async () => {
    const port = new VirtualPort(spec())
    const { desk, journals, logged, over } = writing(port)
    await over
    expect(desk.store.now()).toMatchObject({ ended: { good: true, words: 'Written, and equal by digest.' } })
    expect(Buffer.compare((port.flash as Uint8Array).slice(0x4000, 0x4000 + data.length), data)).toBe(0)
    expect(logged).toMatchObject([{ action: 'write', outcome: 'done', verified: true, verify: 'digest' }])
    expect(journals[0]?.regions[0]?.confirmedBlocks).toBe(0)
    expect(journals.at(-1)).toBeNull()
  })
  test('over a bridge whose rate is what it was set to, the chip is never asked for another', async () => {
    const port = new VirtualPort(spec())
    const rates: number[] = []
    const bridge: OpenPort = async (rate) => {
      const link = await openerOf(port)(rate)
      Object.defineProperty(link, 'can', { value: { lines: false, rate: false } })
      jest.spyOn(link, 'changeRate').mockImplementation(async (r) => void rates.push(r))
      return link
    }
    const { desk, over } = writing(port, { open: bridge })
    await over
    expect([desk.store.now().ended?.good, rates]).toEqual([true, []])
    const again = reading(port, { open: bridge, reads: [1] })
    await again.over
    expect([again.desk.store.now().ended?.good, rates]).toEqual([true, []])
  })
  test('a sample is never logged as verified', async () => {
    const { logged, over } = writing(new VirtualPort(spec({ family: 'LX106', flashId: '684012' })), {
      verify: 'sample',
    })
    await over
    expect(logged).toMatchObject([{ outcome: 'done', verified: false, verify: 'none' }])
  })
  test('lost with BOOT let go it is half written; the journal finishes it, on the same chip only', async () => {
    const port = new VirtualPort(spec({ faults: [{ fault: 'brownout', block: 7, strap: 'free' }] }))
    const first = writing(port)
    await first.over
    const journal = first.journals.at(-1) as Journal
    expect([journal.state, first.logged[0]?.outcome]).toEqual(['lost-midway', 'lost-midway'])
    const other = writing(new VirtualPort(spec({ mac: '02:4c:59:10:20:99' })), { journal })
    await other.over
    expect(other.desk.store.now().findings.map((f) => f.code)).toEqual(['link-other-unit'])
    port.power(false)
    port.hold('held')
    port.power(true)
    const again = writing(port, { journal })
    await again.over
    expect(again.desk.store.now().ended?.good).toBe(true)
    expect(Buffer.compare((port.flash as Uint8Array).slice(0x4000, 0x4000 + data.length), data)).toBe(0)
  })
  test('silent before anything was erased, it is no answer, and no journal is left', async () => {
    const port = new VirtualPort(spec({ faults: [{ fault: 'mute', request: 60, count: 1_000_000 }] }))
    const { desk, journals, logged, over } = writing(port)
    await over
    expect([logged.map((l) => l.outcome), journals]).toEqual([['no-answer'], []])
    expect(desk.store.now().ended?.words).not.toMatch(/: \.$/)
  })
  test('a journal that cannot be kept stops it before anything is erased', async () => {
    const port = new VirtualPort(spec())
    const { desk, over } = writing(port, {
      keepJournal: async () => {
        throw new Error('no room')
      },
    })
    await over
    expect(desk.store.now().ended).toMatchObject({ good: false, words: expect.stringMatching(/no room/) })
    expect(
      (port.flash as Uint8Array).slice(0x4000, 0x4100).every((b) => b === (port.flash as Uint8Array)[0x4000]),
    ).toBe(false)
  })
})

test('a port that something else has is said to be one, and no attempt is told of it', async () => {
  const port = new VirtualPort(spec())
  await port.open({ baudRate: 115_200 })
  const { desk, logged, over } = reading(port)
  await over
  expect(desk.store.now().ended?.words).toMatch(/cannot be opened.*Another page or program/)
  expect(logged).toEqual([])
})

test('one port at a time: a second job does not begin while one is at work', async () => {
  const port = new VirtualPort(spec())
  const { desk, kept, over } = reading(port, { reads: [1] })
  const open = jest.fn()
  await desk.write({ ...({} as WriteJob), open })
  expect(open).not.toHaveBeenCalled()
  await over
  expect(kept.length).toBe(1)
})

test('what a line is worth is measured: the wait of its adapter, and the highest rate that holds', async () => {
  const desk = new Desk(new DeskStore())
  const noted: [number | null, string | null][] = []
  const job = {
    unitId: 'u',
    byLines: false,
    note: async (m: LineMeasure, w: Identity) => noted.push([m.bestRate, w.family]),
  }
  await desk.measure({ ...job, open: openerOf(new VirtualPort(spec())) })
  expect([noted[0]?.[1], (noted[0]?.[0] ?? 0) >= 115_200]).toEqual(['LX6', true])
  expect(desk.store.now().ended?.words).toMatch(/^It holds \d+ baud.*an answer waits/)
  // A ROM that cannot change its rate is measured at the one it was called with.
  await desk.measure({ ...job, open: openerOf(new VirtualPort(spec({ family: 'LX106', flashId: '684012' }))) })
  expect(noted[1]).toEqual([115_200, 'LX106'])
})

test('a slow adapter is told what would help', () => {
  const rates = [{ rate: 115_200, holds: true }]
  expect(measureWords({ latencyMs: 16, bestRate: 115_200, rates })).toMatch(/latency setting/)
  expect(measureWords({ latencyMs: 1, bestRate: 115_200, rates })).not.toMatch(/latency setting/)
  expect(measureWords({ latencyMs: null, bestRate: null, rates: [{ rate: 115_200, holds: false }] })).toMatch(
    /does not hold/,
  )
})

test('what it hears of a start is told with its rate, and nothing is sent', async () => {
  const port = new VirtualPort(spec({ strap: 'free' }))
  const heard: [string, number][] = []
  const desk = new Desk(new DeskStore())
  await desk.listen({
    unitId: 'u',
    open: openerOf(port),
    byLines: false,
    rates: [{ rate: 115_200, seconds: 0.3 }],
    heard: (text, rate) => heard.push([text, rate]),
  })
  expect(heard[0]?.[0]).toMatch(/hello from the shop/)
  expect(heard[0]?.[1]).toBe(115_200)
})

test('wired to its lines it is given its reset, and its first words are heard', async () => {
  const desk = new Desk(new DeskStore())
  const heard: string[] = []
  await desk.listen({
    unitId: 'u',
    open: openerOf(new VirtualPort(spec({ strap: 'free', lines: 'circuit' }))),
    byLines: true,
    rates: [{ rate: 115_200, seconds: 0.4 }],
    heard: (text) => heard.push(text),
  })
  expect(heard[0]).toMatch(/SPI_FAST_FLASH_BOOT/)
})

test('what is said to it stands in the text as said, and its answer behind it', async () => {
  const desk = new Desk(new DeskStore())
  const heard: string[] = []
  const over = desk.listen({
    unitId: 'u',
    open: openerOf(new VirtualPort(spec({ strap: 'free' }))),
    byLines: false,
    rates: [{ rate: 115_200, seconds: 5 }],
    heard: (text) => heard.push(text),
  })
  await until(desk, phase('listening'))
  await desk.say('status')
  await until(desk, (v) => v.text.includes('heard "status"'))
  desk.stop()
  await over
  expect(heard[0]).toMatch(/\n> status\n[\s\S]*heard "status"/)
  // Nothing is listened to any more: nothing is sent.
  await desk.say('again')
  expect(desk.store.now().text).not.toMatch(/again/)
})

describe('asking what a firmware can be asked', () => {
  const version: Question = { what: 'version', say: 'which coat', answers: ['coat {name} {version}'], withinMs: 3000 }
  const listening = async (faults: object[] = []) => {
    const desk = new Desk(new DeskStore())
    const over = desk.listen({
      unitId: 'u',
      open: openerOf(new VirtualPort(spec({ strap: 'free', faults }))),
      byLines: false,
      rates: [{ rate: 115_200, seconds: 20 }],
      heard: () => {},
    })
    await until(desk, phase('listening'))
    return {
      desk,
      end: async () => {
        desk.stop()
        await over
      },
    }
  }
  const asking = { question: version, vars: {}, ends: 'crlf' as const, release: '9.4.1' }

  test('its answer is the one behind the question, judged against what was written', async () => {
    const { desk, end } = await listening()
    expect(await desk.ask(asking)).toMatchObject({
      severity: 'ok',
      words: 'It is 9.4.1, as written.',
      said: 'which coat',
      answer: { line: 'coat plainsong 9.4.1' },
    })
    expect(await desk.ask({ ...asking, release: '9.5.0' })).toMatchObject({ severity: 'watch' })
    expect(
      desk.store
        .now()
        .lines.filter((l) => l.from === 'us')
        .map((l) => l.text),
    ).toEqual(['which coat', 'which coat'])
    await end()
  })
  test('one question at a time, and none where nothing is listened to', async () => {
    const { desk, end } = await listening()
    const first = desk.ask(asking)
    expect(await desk.ask(asking)).toBeNull()
    await first
    await end()
    expect(await desk.ask(asking)).toBeNull()
  })
  test('who stops listening gets no answer, and nothing waits for ever', async () => {
    const { desk, end } = await listening()
    const asked = desk.ask({ ...asking, question: { ...version, answers: ['never {x}'], withinMs: 60_000 } })
    await end()
    expect(await asked).toMatchObject({ severity: 'watch', answer: null })
  })
})
