import { createHash } from 'node:crypto'
import { Listener, type LiveUnit, type Message } from '@fresh-coat/core/live/listener'
import { filtersOf, ownMapping, readMapping } from '@fresh-coat/core/live/mapping'
import type { LiveState } from '@fresh-coat/core/live/standing'
import { answerWithinS, wishLivesS } from '@fresh-coat/core/live/wish'
import pg from 'pg'
import type { Db } from '@/server/db/client'
import { type ListenTo, listenTo, mappingsOf, type UnitOnAir, unitsOnAir } from '@/server/live/settings'
import { sentWish, settleWish, waitingWishes } from '@/server/live/wishes'
import { forgetOld, knownStates, type LinkState, lastBatch, wishChannel, writeBatch } from '@/server/live/writes'
import { BrokerLine } from './broker'
import type { AckJournal } from './journal'

/** The long-running listener: broker in, database out. What a database does not take stays here until it does. */

const tickMs = 250
/** What little was heard is written soon; much is gathered, for as long as writing took, four times over. */
const soonMs = 50
const mostGatherMs = 250
const gatherTimes = 4
const beatMs = 5000
const planMs = 5000
const askAgainMs = 450
const forgetMs = 3_600_000

/** Held while a listener lives: any number that nothing else of the app locks. */
const onlyListener = 0x46_43_4c

const strictly = new TextDecoder('utf-8', { fatal: true })
const decode = (bytes: Uint8Array): string | null => {
  try {
    return strictly.decode(bytes)
  } catch {
    return null
  }
}

interface Plan {
  to: ListenTo
  units: UnitOnAir[]
  mark: string
}
interface Pending {
  id: string
  unitId: string
  field: string
  value: boolean
  sentAt: number
}

export interface FieldOptions {
  db: Db
  /** For the line on which the database tells of wishes. */
  url: string
  journal: AckJournal
  /** A stand-in’s address instead of the site’s broker. */
  standIn?: { host: string; port: number } | null
}

export class Field {
  private readonly listener = new Listener(decode)
  private line: BrokerLine | null = null
  private plan: Plan | null = null
  private topics = new Map<string, string>()
  private link: LinkState = {
    state: 'off',
    broker: '',
    message: '',
    since: Date.now(),
    counts: {},
    refused: null,
  }
  private batch = 1
  private inFlight: { batch: number; drained: ReturnType<Listener['drain']> } | null = null
  private linkChanged = true
  private writtenAt = 0
  private planAt = 0
  private forgotAt = 0
  private pending: Pending[] = []
  private timer: NodeJS.Timeout | null = null
  private soon: NodeJS.Timeout | null = null
  private ended = false
  private notices: pg.Client | null = null
  /** This is the one listener of the database. */
  private locked = false
  private askedAt = 0
  private busy = Promise.resolve()
  private wanted = true
  failing = ''

  constructor(private readonly options: FieldOptions) {}

  /** Reads what is known, takes in what was noted before it was killed, and begins. Waits for a database that is away. */
  async start(): Promise<void> {
    // Two starts in one folder share a database: one of them listens.
    while (!this.locked && !this.ended) {
      await this.listenForNotices()
      if (!this.locked) await new Promise((done) => setTimeout(done, 500))
    }
    while (!this.ended) {
      try {
        const known = await knownStates(this.options.db)
        const last = await lastBatch(this.options.db)
        const { messages, next } = this.options.journal.after(last)
        this.batch = next
        await this.replan(known)
        for (const m of messages) this.listener.take(m)
        break
      } catch (cause) {
        this.failed(cause)
        await new Promise((done) => setTimeout(done, 1000))
      }
    }
    if (this.ended) return
    this.timer = setInterval(() => this.tick(), tickMs)
    this.soon = setInterval(() => this.hurry(), soonMs)
  }

  health(): object {
    return {
      state: this.link.state,
      broker: this.link.broker,
      message: this.link.message,
      since: new Date(this.link.since).toISOString(),
      batch: this.batch,
      writing: this.inFlight !== null,
      database: this.failing || 'answers',
      counts: this.listener.counts,
    }
  }

  private failed(cause: unknown): void {
    const words = cause instanceof Error ? cause.message : String(cause)
    if (words !== this.failing) console.error(`field: the database does not take it: ${words}`)
    this.failing = words
  }

  private async readPlan(): Promise<Plan & { mappings: Awaited<ReturnType<typeof mappingsOf>> }> {
    const { db, standIn } = this.options
    const [to, units, mappings] = [await listenTo(db), await unitsOnAir(db), await mappingsOf(db)]
    const there = standIn ? { ...to, on: to.on, host: standIn.host, port: standIn.port, tls: false } : to
    const mark = createHash('sha256')
      .update(JSON.stringify([there, units, mappings]))
      .digest('hex')
    return { to: there, units, mappings, mark }
  }

  /** Another broker, another plan of topics, another mapping: everything heard so far is kept. */
  private async replan(known?: ReadonlyMap<string, LiveState>): Promise<void> {
    const next = await this.readPlan()
    this.planAt = Date.now()
    if (next.mark === this.plan?.mark) return
    const { to, units, mappings } = next
    // "Plainsong 9.4.1/full" runs what is called Plainsong.
    const speaks = (firmware: string) =>
      mappings.findIndex((m) => firmware === m.firmware || firmware.startsWith(`${m.firmware} `))
    const live: LiveUnit[] = units.map((u) => ({
      id: u.id,
      slug: u.topic.split('/').at(-1) ?? '',
      mapping: speaks(u.firmware) + 1,
    }))
    const spoken = [ownMapping, ...mappings.map((m) => m.mapping)]
    this.listener.plan(spoken.map(readMapping), live, known)
    this.topics = new Map(units.map((u) => [u.id, u.topic]))
    const before = this.plan
    this.plan = next
    const filters = filtersOf(spoken, { base: to.base, site: to.site })
    const same = before && JSON.stringify([before.to, filters]) === JSON.stringify([to, this.filters])
    this.filters = filters
    if (!same) await this.connect()
  }
  private filters: string[] = []

  private async connect(): Promise<void> {
    await this.line?.end()
    this.line = null
    const to = (this.plan as Plan).to
    const broker = to.host ? `${this.options.standIn ? 'stand-in at ' : ''}${to.host}:${to.port}` : ''
    this.setLink({ broker })
    if (!to.on) return this.setLink({ state: 'off', message: '' })
    this.line = new BrokerLine(to, this.filters, {
      message: (m, acknowledged) => this.heard(m, acknowledged),
      state: (state, message) => this.setLink({ state, message }),
    })
  }

  private setLink(change: Partial<LinkState>): void {
    const next = { ...this.link, ...change }
    if (next.state !== this.link.state) next.since = Date.now()
    if (next.state !== this.link.state || next.message !== this.link.message || next.broker !== this.link.broker)
      this.linkChanged = true
    this.link = next
  }

  private heard(m: Message, acknowledged: boolean): void {
    // A retained state comes again with the next connection: only what comes once is noted.
    if (acknowledged && !m.retained) this.options.journal.note(this.batch, m)
    const took = this.listener.take(m)
    if (!took || took.retained) return
    for (const wish of [...this.pending]) {
      if (wish.unitId !== took.unit.id) continue
      const came = took.filled.find((f) => f.field === wish.field)
      if (came && came.value === wish.value) this.settle(wish, 'answered', m.at)
    }
  }

  private settle(wish: Pending, state: 'answered' | 'silent', at: number | null): void {
    this.pending = this.pending.filter((p) => p !== wish)
    this.inTurn(() => settleWish(this.options.db, wish.id, wish.unitId, state, at))
  }

  /** One thing after the other: what the database does for wishes and plans never overlaps. */
  private inTurn(run: () => Promise<unknown>): void {
    this.busy = this.busy.then(run).then(
      () => undefined,
      (cause) => this.failed(cause),
    )
  }

  private tick(): void {
    const now = Date.now()
    this.listener.look(now)
    for (const wish of [...this.pending])
      if (now - wish.sentAt > answerWithinS * 1000) this.settle(wish, 'silent', null)
    void this.listenForNotices()
    if (this.wanted || now - this.planAt > planMs) {
      this.wanted = false
      this.planAt = now
      this.inTurn(() => this.replan())
    }
    if (now - this.forgotAt > forgetMs) {
      this.forgotAt = now
      this.inTurn(() => forgetOld(this.options.db))
    }
  }

  /** What somebody waits for: a press on its way out, a state on its way to the page. */
  private hurry(): void {
    if (this.wishes) {
      this.wishes = false
      this.inTurn(() => this.sendWishes())
    }
    const now = Date.now()
    if (now - this.writtenAt >= Math.min(mostGatherMs, gatherTimes * this.writeMs)) this.flush(now)
  }
  private wishes = true

  /** Sends what is waiting and young enough; what is older is never sent. */
  private async sendWishes(): Promise<void> {
    const { db } = this.options
    for (const wish of await waitingWishes(db)) {
      const topic = this.topics.get(wish.unitId)
      if (Date.now() - wish.madeAt > wishLivesS * 1000) await settleWish(db, wish.id, wish.unitId, 'late', null)
      else if (!topic || !this.line)
        await settleWish(db, wish.id, wish.unitId, 'failed', null, 'The app is not connected to a broker.')
      else {
        // Said first: a press that was sent once is never sent again, whatever breaks in between.
        await sentWish(db, wish.id, wish.unitId)
        const sentAt = Date.now()
        const pending = {
          id: wish.id,
          unitId: wish.unitId,
          field: `channel/${wish.channel}/on`,
          value: wish.value,
          sentAt,
        }
        this.pending.push(pending)
        try {
          await this.line.publish(`${topic}/${wish.channel}/set`, String(wish.value))
        } catch (cause) {
          this.pending = this.pending.filter((p) => p !== pending)
          await settleWish(db, wish.id, wish.unitId, 'failed', null, (cause as Error).message)
        }
      }
    }
  }

  private async listenForNotices(): Promise<void> {
    if (this.notices || this.ended || Date.now() - this.askedAt < askAgainMs) return
    this.askedAt = Date.now()
    const client = new pg.Client({ connectionString: this.options.url })
    this.notices = client
    const lost = () => {
      if (this.notices === client) {
        this.notices = null
        this.locked = false
      }
      client.removeAllListeners()
      client.on('error', () => {})
      client.end().catch(() => {})
    }
    client.on('error', lost)
    client.on('notification', ({ payload }) => {
      if (payload === 'wish') this.wishes = true
      else this.wanted = true
    })
    try {
      await client.connect()
      const got = await client.query('select pg_try_advisory_lock($1) as alone', [onlyListener])
      if (!got.rows[0]?.alone) {
        lost()
        return
      }
      await client.query(`listen ${wishChannel}`)
      this.locked = true
      // Whatever was asked for while nobody listened.
      this.wishes = true
      this.wanted = true
    } catch {
      lost()
    }
  }

  private flush(now: number): void {
    if (!this.inFlight) {
      const drained = this.listener.drain(now)
      const something =
        drained.units.length + drained.happenings.length + drained.hours.length + drained.senders.length > 0 ||
        Object.keys(drained.dropped).length > 0
      if (!something && !this.linkChanged && now - this.writtenAt < beatMs) return
      this.inFlight = { batch: this.batch++, drained }
    }
    if (this.writing) return
    void this.write()
  }
  private writing = false
  private writeMs = 0

  /** The same batch with the same number until it stands: written twice it is there once. */
  private async write(): Promise<void> {
    const flight = this.inFlight
    // Another one that listens by now writes for itself.
    if (!flight || !this.locked) return
    this.writing = true
    const began = Date.now()
    try {
      this.link.counts = this.listener.counts as Record<string, number>
      this.link.refused = this.listener.lastRefused
      this.linkChanged = false
      await writeBatch(this.options.db, flight.batch, flight.drained, this.link)
      this.inFlight = null
      this.writtenAt = Date.now()
      this.writeMs = this.writtenAt - began
      this.failing = ''
      this.options.journal.written(flight.batch)
    } catch (cause) {
      this.linkChanged = true
      this.failed(cause)
      await new Promise((done) => setTimeout(done, 500))
    } finally {
      this.writing = false
    }
  }

  private async writeAll(): Promise<void> {
    while (this.writing) await new Promise((done) => setTimeout(done, 20))
    if (!this.inFlight) this.inFlight = { batch: this.batch++, drained: this.listener.drain(Date.now()) }
    for (let tries = 0; tries < 5 && this.inFlight; tries++) await this.write()
  }

  /** Leaves the broker, writes what there is, and ends. */
  async end(): Promise<void> {
    this.ended = true
    if (this.timer) clearInterval(this.timer)
    if (this.soon) clearInterval(this.soon)
    await this.line?.end()
    await this.busy
    this.setLink({ state: 'off', message: 'The listener was ended.' })
    await this.writeAll()
    const { notices } = this
    this.notices = null
    await notices?.end().catch(() => {})
  }
}
