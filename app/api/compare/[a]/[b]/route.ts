import { database } from '@/server/db/client'
import { compareFiles } from '@/server/files/private-bytes'

/** Compares two kept files byte by byte; of files with one hash nothing needs to be read. */
export async function GET(_: Request, { params }: { params: Promise<{ a: string; b: string }> }) {
  const { a, b } = await params
  return compareFiles(database(), a, b)
}
