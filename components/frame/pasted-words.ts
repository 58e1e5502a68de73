'use client'
import { useEffect } from 'react'

/** Is something typed here? Then a paste is meant for it. */
const writes = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['TEXTAREA', 'INPUT', 'SELECT'].includes(target.tagName))

/** Text that is pasted on the page, beside any field. */
export function usePastedWords(onWords: (text: string) => void): void {
  useEffect(() => {
    const onPaste = (e: ClipboardEvent) => {
      const text = e.clipboardData?.getData('text/plain') ?? ''
      if (writes(e.target) || document.querySelector('[role="dialog"]') || text.trim() === '') return
      e.preventDefault()
      onWords(text)
    }
    window.addEventListener('paste', onPaste)
    return () => window.removeEventListener('paste', onPaste)
  }, [onWords])
}
