import type { Happening, LiveState, Presence } from './standing'

/** What pages know of the air: as it is read, sent and drawn. Times in milliseconds. */

export interface OnAirRow {
  unitId: string
  number: number
  name: string
  place: string
  presence: Presence
  flapping: boolean
  staleAt: number | null
  usualS: number | null
  heardAt: number | null
  fields: LiveState['fields']
  restarts: number
  skewS: number | null
  beats: number[]
  changes: number[]
}

export interface LinkRow {
  state: 'off' | 'connecting' | 'connected' | 'refused'
  broker: string
  message: string
  since: number
  beatAt: number
  counts: Record<string, number>
  refused: { because: string; topic: string; sample: string; at: number } | null
  dropped: Record<string, number>
}

export interface StrangeSender {
  prefix: string
  firstAt: number
  lastAt: number
  messages: number
  sample: string
}

export interface LiveHour {
  hour: number
  messages: number
  meanW: number | null
  mostW: number
}

export interface WishRow {
  id: string
  channel: string
  value: boolean
  by: string
  madeAt: number
  state: 'waiting' | 'sent' | 'answered' | 'silent' | 'late' | 'failed'
  sentAt: number | null
  answeredAt: number | null
  note: string
}

/** From set to state, of the last twenty presses that were answered. */
export interface ResponseTimes {
  n: number
  medianMs: number
  worstMs: number
}

export interface UnitOnAirPage {
  response: ResponseTimes | null
  listening: boolean
  row: OnAirRow | null
  happenings: Happening[]
  hours: LiveHour[]
  wishes: WishRow[]
}
