import { isOpen, type Journal } from '@fresh-coat/core/link/journal'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { useEffect, useState } from 'react'
import { openJournal } from './journal-store'

/** The unfinished write of this unit, as this browser remembers it. */
export function useJournal(view: UnitView, over: boolean): Journal | null {
  const [journal, setJournal] = useState<Journal | null>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked at again when a write is over
  useEffect(() => {
    let wanted = true
    void openJournal(view.id).then((kept) => wanted && setJournal(kept))
    return () => {
      wanted = false
    }
  }, [view.id, over])
  return journal
}

/** It is of this file, and was not finished. */
export const journalOf = (journal: Journal | null, file: { sha256: string } | null): Journal | null =>
  journal && file && isOpen(journal) && journal.file.sha256 === file.sha256 ? journal : null
