/**
 * What opens on a press is no part of a first visit, but has to be there when the line to the server is not: whoever loads it on
 * demand gives the same loader here, and it is fetched as soon as the page has nothing else to do.
 */
const waiting = new Set<() => Promise<unknown>>()
const restMs = 1000
const againMs = 5000
let fetching = false

async function fetchThem(): Promise<void> {
  for (const load of [...waiting])
    await load().then(
      () => waiting.delete(load),
      () => {},
    )
  // What a page brought meanwhile, or what did not come.
  fetching = waiting.size > 0
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
