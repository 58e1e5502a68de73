/** Two workers share the machine's two cores; each has a server and a database of its own, so that none sees the other's units. */
export const workers = 2
const first = Number(process.env.FRESH_COAT_E2E_PORT ?? 4491)
export const portOf = (worker: number): number => first + worker
export const emptyPort = first + workers
