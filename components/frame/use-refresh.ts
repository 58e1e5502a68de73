'use client'
import { useRouter } from 'next/navigation'
import { useCallback } from 'react'
import { useOnScreen } from './unit-data'

/** Shows what is on the server now: of the unit on screen, or of the page. */
export function useRefresh(): () => void {
  const router = useRouter()
  const onScreen = useOnScreen()
  return useCallback(() => (onScreen ? onScreen.reload() : router.refresh()), [onScreen, router])
}
