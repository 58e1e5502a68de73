import { join } from 'node:path'

/** Where what does not go into the database is kept. The build has no business in it: it would look at every file there. */
export const dataFolder = (): string =>
  process.env.FRESH_COAT_DATA ?? join(/* turbopackIgnore: true */ process.cwd(), '.data')
