/**
 * What opens on a press is no part of a first visit, but has to be there when the line to the server is not: whoever loads it on
 * demand gives the same loader here, and it is fetched as soon as the page has nothing else to do.
 */
const waiting = new Set<() => Promise<unknown>>()
const restMs = 1000
const againMs = 5000
let fetching = false

async function fetchThem(): Promise<void> {
  const failed = new Set<() => Promise<unknown>>()
  // One after the other, those too that a page brings meanwhile.
  for (;;) {
    const load = [...waiting].find((one) => !failed.has(one))
    if (!load) break
    await load().then(
      () => waiting.delete(load),
      () => failed.add(load),
    )
  }
  // What did not come is asked for again.
  fetching = failed.size > 0
  if (fetching) setTimeout(() => void fetchThem(), againMs)
}

/** The loader, fetched ahead in a browser; the same one has to be used on demand, since a bundle may hold a module twice. */
export function ahead<T>(load: () => Promise<T>): () => Promise<T> {
  waiting.add(load)
  if (typeof window !== 'undefined' && !fetching) {
    fetching = true
    setTimeout(() => void fetchThem(), restMs)
  }
  return load
}
