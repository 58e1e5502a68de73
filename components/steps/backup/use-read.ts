import type { DumpComparison } from '@fresh-coat/core/dump/compare'
import type { DumpInspection } from '@fresh-coat/core/dump/inspect'
import type { Run } from '@fresh-coat/core/dump/sectors'
import { flashBytesOf } from '@fresh-coat/core/steps/backup/facts'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { useEffect, useState } from 'react'
import { analyseDump, prepareAnalysis } from '@/components/files/analyse-dump'
import { useUpload } from '@/components/files/use-upload'
import { useRefresh } from '@/components/frame/use-refresh'
import { amount } from '@/components/paint/paint'

/** What differs between two kept reads; null while nobody knows. */
export function useComparison(backup: {
  first: { id: string } | null
  second: { id: string } | null
}): DumpComparison | null {
  const [comparison, setComparison] = useState<DumpComparison | null>(null)
  const pair = backup.first && backup.second ? `${backup.first.id}/${backup.second.id}` : null
  useEffect(() => {
    setComparison(null)
    if (!pair) return
    let wanted = true
    void fetch(`/api/compare/${pair}`)
      .then((r) => r.json())
      .then((result) => {
        if (wanted && result.ok) setComparison(result.value)
      })
      .catch(() => {})
    return () => {
      wanted = false
    }
  }, [pair])
  return comparison
}

/** Takes a file in as a read: looked at while it comes, then kept. */
export function useRead(view: UnitView, onDisk: boolean) {
  const refresh = useRefresh()
  const flash = flashBytesOf(view)
  const uploading = useUpload()
  const { setWork, setError } = uploading
  const [fresh, setFresh] = useState<DumpInspection | null>(null)
  const [early, setEarly] = useState<Run[] | null>(null)

  useEffect(prepareAnalysis, [])

  const take = async (file: File, read: 1 | 2, how: Record<string, string>): Promise<boolean> => {
    setError(null)
    setFresh(null)
    if (file.size > 16 * 1048576) {
      setError({
        code: 'too-large',
        message: `This file has ${amount(file.size)} bytes; at most 16 MiB can be a flash file.`,
        kept: 'Nothing was stored.',
        next: 'Check that you chose the right file.',
      })
      return false
    }
    const started = performance.now()
    const family = familyOf(view)?.family ?? null
    const analysis = analyseDump(
      file,
      { family: family === 'OTHER' ? null : family, flashBytes: flash },
      (phase, done, total) => {
        const rate = done / 1048576 / ((performance.now() - started) / 1000)
        setWork({
          label:
            phase === 'hash'
              ? 'Hashing, looking for headers and keys'
              : `Looking at every sector, ${rate.toFixed(0)} MiB/s`,
          done,
          total,
          cancel: analysis.cancel,
        })
      },
      setEarly,
    )
    setWork({ label: 'Reading', done: 0, total: file.size, cancel: analysis.cancel })
    const found = await analysis.done.finally(() => setEarly(null))
    if (found === null) {
      setWork(null)
      return false
    }
    setFresh(found)
    const kept = await uploading.keep(
      { kind: 'dump', name: file.name, unitId: view.id, read: String(read), keep: onDisk ? 'no' : 'yes', ...how },
      file,
      onDisk ? 'Looking at it; its bytes are not kept' : 'Keeping it',
    )
    if (!kept) return false
    setFresh(null)
    refresh()
    return true
  }
  const unreadable = (): boolean => {
    setWork(null)
    setError({
      code: 'unreadable',
      message: 'The file could not be read to its end.',
      kept: 'Nothing was stored.',
      next: 'See whether it is still where it was, and choose it again.',
    })
    return false
  }

  return {
    /** What was found in a file that is not kept yet. */
    fresh,
    /** The map as far as it is drawn. */
    early,
    busy: uploading.busy,
    state: uploading.state,
    /** True once it is kept. @param how rate and tool of the read, where they are known */
    take: (file: File, read: 1 | 2, how: Record<string, string> = {}): Promise<boolean> =>
      take(file, read, how).catch(unreadable),
  }
}
