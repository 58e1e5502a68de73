import { isOpen, type Journal, wasFinished } from '@fresh-coat/core/link/journal'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { useEffect, useState } from 'react'
import { openJournal } from './journal-store'

/** The unfinished write of this unit, as this browser or the server remembers it. */
export function useJournal({ id, number, attempts }: UnitView, over: boolean): Journal | null {
  const [journal, setJournal] = useState<Journal | null>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked at again when a write is over
  useEffect(() => {
    let wanted = true
    void openJournal({ id, number }).then((kept) => wanted && setJournal(kept))
    return () => {
      wanted = false
    }
  }, [id, number, over])
  return journal && !wasFinished(journal, attempts) ? journal : null
}

/** It is of this file, and was not finished. */
export const journalOf = (journal: Journal | null, file: { sha256: string } | null): Journal | null =>
  journal && file && isOpen(journal) && journal.file.sha256 === file.sha256 ? journal : null
