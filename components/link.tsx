import NextLink from 'next/link'
import type { ComponentProps } from 'react'

/** A link that loads its page when it is followed: every page is made anew from the database, so loading it ahead is work for nothing. */
export default function Link(props: ComponentProps<typeof NextLink>) {
  return <NextLink prefetch={false} {...props} />
}
