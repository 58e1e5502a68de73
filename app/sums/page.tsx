import type { Metadata } from 'next'
import { Sums } from '@/components/sums/sums'

export const metadata: Metadata = { title: 'Sums' }

/** Small sums of the bench; a link holds the line that was typed. */
export default async function SumsPage({ searchParams }: { searchParams: Promise<{ q?: string | string[] }> }) {
  const { q } = await searchParams
  return <Sums begun={(Array.isArray(q) ? q[0] : q)?.slice(0, 200) ?? ''} />
}
