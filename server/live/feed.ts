import type { LinkRow, OnAirRow } from '@fresh-coat/core/live/on-air'
import pg from 'pg'
import { database } from '../db/client'
import { linkRow, onAirOf } from './reads'
import { liveChannel } from './writes'

/** One line to the database that hears what changed on the air, for all pages that look. */

export interface AirNews {
  rows: Omit<OnAirRow, 'beats'>[]
  link: LinkRow | null
}
type Looks = (news: AirNews) => void

const gatherMs = 50
const againMs = 1000
const kept = globalThis as unknown as { freshCoatFeed?: Feed }

class Feed {
  private readonly lookers = new Set<Looks>()
  private client: pg.Client | null = null
  private changed = new Set<number>()
  private timer: NodeJS.Timeout | null = null

  add(looks: Looks): () => void {
    this.lookers.add(looks)
    void this.listen()
    return () => {
      this.lookers.delete(looks)
      // Nobody looks: the line is given back.
      if (this.lookers.size === 0) this.close()
    }
  }

  private close(): void {
    const { client } = this
    this.client = null
    client?.end().catch(() => {})
  }

  private async listen(): Promise<void> {
    if (this.client) return
    const client = new pg.Client({ connectionString: process.env.DATABASE_URL })
    this.client = client
    const lost = () => {
      if (this.client !== client) return
      this.client = null
      client.end().catch(() => {})
      if (this.lookers.size > 0) setTimeout(() => void this.listen(), againMs)
    }
    client.on('error', lost)
    client.on('end', lost)
    client.on('notification', ({ payload }) => this.hear(payload ?? '[]'))
    try {
      await client.connect()
      await client.query(`listen ${liveChannel}`)
    } catch {
      lost()
    }
  }

  private hear(payload: string): void {
    for (const n of JSON.parse(payload) as number[]) this.changed.add(n)
    this.timer ??= setTimeout(() => void this.tell(), gatherMs)
  }

  private async tell(): Promise<void> {
    const numbers = [...this.changed]
    this.changed = new Set()
    this.timer = null
    try {
      const [found, link] = [await onAirOf(database(), numbers), await linkRow(database())]
      const rows = found.map(({ beats: _, ...row }) => row)
      for (const looks of this.lookers) looks({ rows, link })
    } catch {
      // The database is away: its line ends too, and what changed is read anew when a page comes back.
    }
  }
}

export function onAirNews(looks: Looks): () => void {
  kept.freshCoatFeed ??= new Feed()
  return kept.freshCoatFeed.add(looks)
}
