import type { AnchorHTMLAttributes } from 'react'

/**
 * A link to another page of the app: an anchor like any other, which costs a list of hundreds nothing. Presses on it are followed
 * without a page load by the one listener of the page (`follow-links.tsx`).
 */
export default function Link(props: AnchorHTMLAttributes<HTMLAnchorElement> & { href: string }) {
  return <a {...props} />
}
