import { useState } from 'react'

/**
 * Puts a text on the clipboard. A page that came over plain http from another machine of the house gets no clipboard from its
 * browser: there the event of a copy is filled, as browsers let a press do.
 * @returns false where neither went
 */
export async function copyText(text: string): Promise<boolean> {
  try {
    if (navigator.clipboard) {
      await navigator.clipboard.writeText(text)
      return true
    }
  } catch {
    // Refused: the other way is left.
  }
  let filled = false
  const fill = (e: ClipboardEvent) => {
    e.clipboardData?.setData('text/plain', text)
    e.preventDefault()
    filled = e.clipboardData !== null
  }
  document.addEventListener('copy', fill, { once: true })
  try {
    return document.execCommand('copy') && filled
  } catch {
    return false
  } finally {
    document.removeEventListener('copy', fill)
  }
}

export const copyByHand = 'This browser lets no page copy: mark it and copy it by hand.'

/** What was copied last, or could not be, by its key. */
export function useCopy(): {
  copy: (text: string, key?: string) => void
  said: (key: string) => 'copied' | 'refused' | null
} {
  const [last, setLast] = useState<{ key: string; went: boolean } | null>(null)
  return {
    copy: (text, key = text) => void copyText(text).then((went) => setLast({ key, went })),
    said: (key) => (last?.key !== key ? null : last.went ? 'copied' : 'refused'),
  }
}
