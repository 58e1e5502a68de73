import { useEffect, useSyncExternalStore } from 'react'
import { type DeskStore, type DeskView, idleDesk, isBusy } from './desk-store'

/** What the desk says now. */
export const useDesk = (store: DeskStore): DeskView =>
  useSyncExternalStore(store.subscribe, store.snapshot, () => idleDesk)

/** As {@link useDesk}; leaving the page while it works is asked about first. */
export function useWatchedDesk(store: DeskStore): DeskView {
  const view = useDesk(store)
  const busy = isBusy(view)
  useEffect(() => {
    if (!busy) return
    const ask = (e: BeforeUnloadEvent) => e.preventDefault()
    window.addEventListener('beforeunload', ask)
    return () => window.removeEventListener('beforeunload', ask)
  }, [busy])
  return view
}
