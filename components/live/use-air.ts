'use client'
import type { LinkRow, OnAirRow } from '@fresh-coat/core/live/on-air'
import { useEffect, useRef, useState } from 'react'

/** The air as it changes, for a page that looks. It closes while nobody sees the page: browsers allow six lines to a server. */

export interface Air {
  rows: readonly OnAirRow[]
  link: LinkRow | null
  /** The line to the server: a page that lost it says so, and catches up when it is back. */
  line: 'opening' | 'open' | 'lost'
}

const beatsKept = 15 * 60_000

/** A row with its newest message beside those that were known. */
function merged(before: OnAirRow | undefined, news: Omit<OnAirRow, 'beats'>): OnAirRow {
  const beats = before?.beats ?? []
  const fresh = news.heardAt !== null && news.heardAt > (beats.at(-1) ?? 0) ? [...beats, news.heardAt] : beats
  const from = (news.heardAt ?? 0) - beatsKept
  return { ...news, beats: fresh.filter((b) => b > from) }
}

/** @param after units of the page begin after this number  @param changed hears which units changed */
export function useAir(
  initial: { rows: readonly OnAirRow[]; link: LinkRow | null },
  after: number,
  changed?: (numbers: readonly number[]) => void,
): Air {
  const [air, setAir] = useState<Air>({ ...initial, line: 'opening' })
  const told = useRef(changed)
  told.current = changed
  useEffect(() => {
    let source: EventSource | null = null
    const close = () => {
      source?.close()
      source = null
    }
    const open = () => {
      if (source) return
      source = new EventSource(`/api/live?after=${after}`)
      source.addEventListener('all', (e) => {
        const all = JSON.parse((e as MessageEvent<string>).data) as Pick<Air, 'rows' | 'link'>
        setAir({ ...all, line: 'open' })
        told.current?.(all.rows.map((r) => r.number))
      })
      source.addEventListener('news', (e) => {
        const { rows, link } = JSON.parse((e as MessageEvent<string>).data) as {
          rows: Omit<OnAirRow, 'beats'>[]
          link: LinkRow | null
        }
        setAir((before) => {
          const known = new Map(before.rows.map((r) => [r.number, r]))
          for (const row of rows) if (row.number > after) known.set(row.number, merged(known.get(row.number), row))
          return { rows: [...known.values()].sort((a, b) => a.number - b.number), link, line: 'open' }
        })
        told.current?.(rows.map((r) => r.number))
      })
      source.addEventListener('error', () => setAir((before) => ({ ...before, line: 'lost' })))
    }
    const look = () => (document.hidden ? close() : open())
    look()
    document.addEventListener('visibilitychange', look)
    return () => {
      document.removeEventListener('visibilitychange', look)
      close()
    }
  }, [after])
  return air
}

/** The moment that is now, every so often. Null until the page is there: a server’s clock would be another. */
export function useNow(everyMs = 1000): number | null {
  const [now, setNow] = useState<number | null>(null)
  useEffect(() => {
    setNow(Date.now())
    const timer = setInterval(() => setNow(Date.now()), everyMs)
    return () => clearInterval(timer)
  }, [everyMs])
  return now
}
