/**
 * What opens on a press is no part of a first visit, but has to be there when the line to the server is not: it is fetched as
 * soon as the page has nothing else to do.
 */
const onDemand = [
  () => import('./popup-sheet'),
  () => import('./drawer-sheet'),
  () => import('./keys-help'),
  () => import('./find'),
  () => import('./known'),
  () => import('./bench-view'),
  () => import('./tool-words'),
  () => import('./trouble'),
]

const againMs = 5000

/** @returns ends it */
export function fetchAhead(): () => void {
  let timer: ReturnType<typeof setTimeout>
  const go = async (left: typeof onDemand) => {
    const failed: typeof onDemand = []
    for (const load of left) await load().catch(() => failed.push(load))
    if (failed.length > 0) timer = setTimeout(() => void go(failed), againMs)
  }
  timer = setTimeout(() => void go(onDemand), 1000)
  return () => clearTimeout(timer)
}
