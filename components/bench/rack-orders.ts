/** What the drying rack can be sorted by. */
export const rackOrders = ['progress', 'place', 'board'] as const
export type RackOrder = (typeof rackOrders)[number]
