'use client'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'

/** What is loaded and what is being saved, for as long as the tab lives: a save goes on when its page is left. */
export function Queries({ children }: { children: ReactNode }) {
  const [client] = useState(() => new QueryClient({ defaultOptions: { queries: { retry: 2 } } }))
  return <QueryClientProvider client={client}>{children}</QueryClientProvider>
}
