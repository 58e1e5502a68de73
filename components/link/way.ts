import { useSyncExternalStore } from 'react'
import type { FieldWay } from './field-link'

/** How this browser reaches the adapter: its own ports, or the machine that runs the app. Remembered in this browser. */
export type Way = { kind: 'browser' } | FieldWay

const key = 'fresh-coat:way'
const own: Way = { kind: 'browser' }
const listeners = new Set<() => void>()
let known: { text: string | null; way: Way } = { text: null, way: own }

function read(text: string | null): Way {
  try {
    const kept = JSON.parse(text ?? 'null') as Partial<{
      kind: string
      host: string
      port: number
      path: string
    }> | null
    if (kept?.kind === 'bridge' && kept.host && kept.port) return { kind: 'bridge', host: kept.host, port: kept.port }
    if (kept?.kind === 'adapter' && kept.path) return { kind: 'adapter', path: kept.path }
  } catch {
    // Something else stands there: the browser's own ports are meant.
  }
  return own
}

export function wayNow(): Way {
  let text: string | null = null
  try {
    text = localStorage.getItem(key)
  } catch {
    return known.way
  }
  if (text !== known.text) known = { text, way: read(text) }
  return known.way
}
export function setWay(way: Way): void {
  try {
    localStorage.setItem(key, JSON.stringify(way))
  } catch {
    known = { text: null, way }
  }
  for (const heard of listeners) heard()
}
const subscribe = (heard: () => void) => {
  listeners.add(heard)
  return () => listeners.delete(heard)
}
export const useWay = (): Way => useSyncExternalStore(subscribe, wayNow, () => own)

export const wayWords = (way: Way): string =>
  way.kind === 'browser' ? 'this browser’s' : way.kind === 'bridge' ? `the bridge ${way.host}:${way.port}` : way.path

/** "10.0.0.7:3333", "[fe80::1]:3333"; null for anything else. */
export function bridgeOf(text: string): Extract<Way, { kind: 'bridge' }> | null {
  const [, host, port] = /^(?:\[(?=.*\]))?([^\s[\]]+?)\]?:(\d{1,5})$/.exec(text.trim()) ?? []
  return host && Number(port) >= 1 && Number(port) <= 65_535 ? { kind: 'bridge', host, port: Number(port) } : null
}
