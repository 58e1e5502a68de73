'use client'
import { useRouter } from 'next/navigation'
import { useEffect } from 'react'

/** Of an anchor of a page or of a drawing. */
const anchorOf = (target: EventTarget | null): Element | null =>
  target instanceof Element ? target.closest('a') : null

/** Where a plain press on an anchor leads within the app; null where the browser goes by itself: elsewhere, into a file, a new window. */
export function pathOf(anchor: Element, here: Location): string | null {
  const href = anchor.getAttribute('href')
  const target = anchor.getAttribute('target')
  if (href === null || anchor.hasAttribute('download') || (target !== null && target !== '_self')) return null
  const to = new URL(href, here.href)
  if (to.origin !== here.origin || to.pathname.startsWith('/api/')) return null
  // A place on this very page is the browser's own.
  if (to.hash !== '' && to.pathname === here.pathname && to.search === here.search) return null
  return `${to.pathname}${to.search}${to.hash}`
}

/** Follows presses on links to other pages of the app without loading a page: one listener for all of them. */
export function FollowLinks() {
  const router = useRouter()
  useEffect(() => {
    const follow = (e: MouseEvent) => {
      // Whoever took the press has dealt with it; with a key held it is meant for the browser.
      if (e.defaultPrevented || e.button !== 0 || e.metaKey || e.ctrlKey || e.shiftKey || e.altKey) return
      const anchor = anchorOf(e.target)
      const path = anchor && pathOf(anchor, window.location)
      if (path === null) return
      e.preventDefault()
      router.push(path)
    }
    // The window hears it last: after everything on the page.
    window.addEventListener('click', follow)
    return () => window.removeEventListener('click', follow)
  }, [router])
  return null
}
