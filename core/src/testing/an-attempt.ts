import type { Attempt } from '../unit/view'

/** A good write with an adapter of the kit, but for what is said. */
export const attempt = (more: Partial<Attempt>): Attempt => ({
  id: 'a',
  at: '',
  outcome: 'done',
  sha256: '',
  fileName: '',
  verify: 'digest',
  verified: true,
  minutes: 9,
  baud: 115200,
  adapter: 'Adapter 2',
  message: '',
  firmware: '',
  ...more,
})
