import { latin1 } from '../bytes/text'
import { sectorBytes } from './sectors'

export const secretKinds = ['named', 'pem', 'hex64', 'urlAuth'] as const
export type SecretKind = (typeof secretKinds)[number]

const patterns: Record<SecretKind, RegExp> = {
  named:
    /(?:ssid|psk|passphrase|password|passwd|pass|secret|token|api_?key)["']?[ \t]*[=:][ \t]*["']?[!#-&(-+\--:<-~]{4,64}/gi,
  pem: /-----BEGIN [A-Z0-9 ]+-----/g,
  hex64: /(?<![0-9A-Fa-f])[0-9A-Fa-f]{64}(?![0-9A-Fa-f])/g,
  urlAuth: /[a-z][a-z0-9+.-]{1,15}:\/\/[!-.0-9;-?A-~]{1,64}:[!-.0-9;-?A-~]{1,64}@/g,
}

export interface SecretsFound {
  count: number
  byKind: Record<SecretKind, number>
  /** Sectors where one begins, ascending. */
  sectors: number[]
}

/** Counts and places strings that look like passwords or keys. It never returns the strings themselves. */
export function findSecrets(bytes: Uint8Array): SecretsFound {
  const text = latin1(bytes)
  const byKind: Record<SecretKind, number> = { named: 0, pem: 0, hex64: 0, urlAuth: 0 }
  const sectors = new Set<number>()
  for (const kind of secretKinds)
    for (const match of text.matchAll(patterns[kind])) {
      byKind[kind]++
      sectors.add(Math.floor(match.index / sectorBytes))
    }
  return {
    count: secretKinds.reduce((n, kind) => n + byKind[kind], 0),
    byKind,
    sectors: [...sectors].sort((a, b) => a - b),
  }
}
