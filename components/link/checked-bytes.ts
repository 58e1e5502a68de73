import { hexOf } from '@fresh-coat/core/bytes/text'

/** A file's bytes from the vault, hashed again: only those that were checked go into a chip. @throws where they are others */
export async function checkedBytes({ id, sha256 }: { id: string; sha256: string }): Promise<Uint8Array> {
  const answer = await fetch(`/api/files/${id}`)
  if (!answer.ok) throw new Error('the file did not come from the server')
  const bytes = await answer.arrayBuffer()
  const digest = await crypto.subtle.digest('SHA-256', bytes)
  if (hexOf(new Uint8Array(digest)) !== sha256) throw new Error('the file that came is not the one that was checked')
  return new Uint8Array(bytes)
}
