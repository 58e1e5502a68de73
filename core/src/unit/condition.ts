/** One thing that must hold before a step is done. */
export interface Condition {
  met: boolean
  /** What holds, or what is missing, as a sentence. */
  text: string
  /** The way out when it is not met. */
  next: string
}

export const must = (met: boolean, yes: string, no: string, next: string): Condition => ({
  met,
  text: met ? yes : no,
  next: met ? '' : next,
})

export const decisionLength = 15

export const longEnough = (reason: string | undefined) => (reason ?? '').trim().length >= decisionLength

export const firstError = (findings: readonly { severity: string; message: string; next: string }[]) =>
  findings.find((f) => f.severity === 'error')

export const plain = (tag: string) => tag.replaceAll('_', ' ')
