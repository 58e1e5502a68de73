import type { Happening, LiveState, Presence } from '@fresh-coat/core/live/standing'

/** What is heard, as people say it. */

export const since = (ms: number): string => {
  const s = Math.max(0, Math.round(ms / 1000))
  if (s < 90) return `${s} s`
  if (s < 5400) return `${Math.round(s / 60)} min`
  return s < 172_800 ? `${Math.round(s / 3600)} h` : `${Math.round(s / 86_400)} d`
}

/** Channels of a unit and whether they are on, in the order of their names. */
export function channelsOf(fields: LiveState['fields']): { channel: string; on: boolean }[] {
  return Object.entries(fields)
    .flatMap(([field, { value }]) => {
      const channel = /^channel\/(.+)\/on$/.exec(field)?.[1]
      return channel !== undefined && typeof value === 'boolean' ? [{ channel, on: value }] : []
    })
    .sort((a, b) => a.channel.localeCompare(b.channel, undefined, { numeric: true }))
}

/** "on", "off", "1 3" of several. */
export function stateWords(fields: LiveState['fields']): { words: string; on: boolean } {
  const channels = channelsOf(fields)
  const on = channels.filter((c) => c.on)
  if (channels.length === 0) return { words: '', on: false }
  if (channels.length === 1) return { words: on.length > 0 ? 'on' : 'off', on: on.length > 0 }
  return { words: on.length === 0 ? 'all off' : on.map((c) => c.channel).join(' '), on: on.length > 0 }
}

export const numberOf = (fields: LiveState['fields'], field: string): number | null => {
  const value = fields[field]?.value
  return typeof value === 'number' ? value : null
}

export const presenceWords: Record<Presence, string> = {
  online: 'on the air',
  offline: 'gone',
  stale: 'silent',
  unknown: 'not known',
}

/** "silent", "comes and goes": how it is with a unit's presence. */
export const standingOf = ({ flapping, presence }: { flapping: boolean; presence: Presence }): string =>
  flapping ? 'comes and goes' : presenceWords[presence]

export function happened({ kind, field, value, was }: Happening): string {
  const channel = field?.split('/')[1]
  switch (kind) {
    case 'online':
      return 'came on the air'
    case 'offline':
      return 'went off the air'
    case 'restart':
      return 'restarted'
    case 'update':
      return `restarted with ${String(value)}, it was ${String(was)}`
    case 'state':
      return `channel ${channel} went ${value === true ? 'on' : 'off'}`
    case 'asked':
      return `asked to switch ${channel} ${value === true ? 'on' : 'off'}`
    case 'event':
      return `${String(value)} at ${channel}`
    case 'flapping':
      return 'comes and goes'
    default:
      return 'has been calm for half an hour'
  }
}
