/** One result of a check. `code` is stable and listed in docs/formats/findings.md; the sentences may be reworded. */
export type Severity = 'error' | 'watch' | 'ok'

export interface Finding {
  code: string
  severity: Severity
  message: string
  /** The facts the check looked at, in words. */
  because: string
  /** What to do about it; empty when nothing is needed. */
  next: string
}

/** A finding that belongs to a place: a byte offset, a pin, a channel. */
export interface PlacedFinding<Place> extends Finding {
  at: Place
}

const rank: Record<Severity, number> = { error: 0, watch: 1, ok: 2 }

export const severityRank = (severity: Severity): number => rank[severity]

/** The worst severity present; 'ok' for an empty list. */
export function worstOf(findings: readonly { severity: Severity }[]): Severity {
  return findings.reduce<Severity>((worst, f) => (rank[f.severity] < rank[worst] ? f.severity : worst), 'ok')
}

export const hasError = (findings: readonly { severity: Severity }[]): boolean => worstOf(findings) === 'error'

export const finding = (code: string, severity: Severity, message: string, because = '', next = ''): Finding => ({
  code,
  severity,
  message,
  because,
  next,
})
