import { routeIds } from '../unit/way'
import { RouteAssumptions, siteRoutes, usualAssumptions } from './routes-of-site'

const hour = 12

describe('which route pays', () => {
  test('by the figures of the worked example: bought ready at first, over wires at twenty', () => {
    const found = siteRoutes({ ...usualAssumptions, must: ['noAccount'] }, {}, hour)
    if (!found) throw new Error('nothing compared')
    expect(found.comparison.results.map((r) => r.best)).toEqual(['ready-flashed', 'ready-flashed', 'wires-in-place'])
    const pair = found.comparison.breakEven.find((b) => b.a === 'wires-in-place' && b.b === 'ready-flashed')
    expect(pair?.breakEvenN).toBe(19)
    const local = found.comparison.results[2]?.routes.find((r) => r.id === 'local-control')
    expect(local?.eligible).toBe(false)
    expect(found.comparison.findings.map((f) => f.code)).toEqual(['too-close'])
  })
  test('a route that nobody has said anything of is left out by name, never guessed', () => {
    const found = siteRoutes(usualAssumptions, {}, hour)
    expect(found?.left).toEqual(['module-off'])
    expect(siteRoutes(RouteAssumptions.parse({ routes: {} }), {}, hour)).toBeNull()
  })
  test('three proven units say more than an assumption, two do not; prices count by themselves', () => {
    const own = (units: number, priced: number) =>
      siteRoutes(usualAssumptions, { 'wires-in-place': { units, minutes: 20, paid: 5, priced } }, hour)
    const of = (found: ReturnType<typeof own>) => found?.compared.find((c) => c.id === 'wires-in-place')
    expect(of(own(2, 2))).toEqual({ id: 'wires-in-place', minutes: 'assumed', price: 'assumed' })
    expect(of(own(3, 2))).toEqual({ id: 'wires-in-place', minutes: 'record', price: 'assumed' })
    expect(of(own(3, 3))).toEqual({ id: 'wires-in-place', minutes: 'record', price: 'record' })
    const total = (found: ReturnType<typeof own>) =>
      found?.comparison.results[0]?.routes.find((r) => r.id === 'wires-in-place')?.total ?? Number.POSITIVE_INFINITY
    expect(total(own(3, 3))).toBeLessThan(total(own(2, 2)))
  })
  test('where an hour counts for nothing, only money is compared', () => {
    const found = siteRoutes(usualAssumptions, {}, 0)
    for (const r of found?.comparison.results ?? []) for (const route of r.routes) expect(route.labour).toBe(0)
  })
  test('every route of the app may be assumed, and none that is not', () => {
    const all = RouteAssumptions.parse({
      routes: Object.fromEntries(routeIds.map((id) => [id, { unitPrice: 1, minutesFirst: 1 }])),
    })
    expect(siteRoutes(all, {}, hour)?.compared).toHaveLength(routeIds.length)
    expect(RouteAssumptions.safeParse({ routes: { teleport: {} } }).success).toBe(false)
  })
})
