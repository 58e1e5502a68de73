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
      siteRoutes(
        usualAssumptions,
        { 'wires-in-place': { units, died: 0, minutes: 20, taken: Array(units).fill(20), paid: 5, priced } },
        hour,
      )
    const of = (found: ReturnType<typeof own>) => found?.compared.find((c) => c.id === 'wires-in-place')
    expect(of(own(2, 2))).toMatchObject({ id: 'wires-in-place', minutes: 'assumed', price: 'assumed', curve: null })
    expect(of(own(3, 2))).toMatchObject({ id: 'wires-in-place', minutes: 'record', price: 'assumed' })
    expect(of(own(3, 3))).toMatchObject({ id: 'wires-in-place', minutes: 'record', price: 'record' })
    const total = (found: ReturnType<typeof own>) =>
      found?.comparison.results[0]?.routes.find((r) => r.id === 'wires-in-place')?.total ?? Number.POSITIVE_INFINITY
    expect(total(own(3, 3))).toBeLessThan(total(own(2, 2)))
  })
  describe('with units of one’s own', () => {
    const with_ = (taken: number[], died: number) =>
      siteRoutes(
        usualAssumptions,
        { 'wires-in-place': { units: taken.length, died, minutes: 40, taken, paid: null, priced: 0 } },
        hour,
      )
    const wires = (found: ReturnType<typeof with_>) => found?.compared.find((c) => c.id === 'wires-in-place')
    const at = (found: ReturnType<typeof with_>, i: number) =>
      found?.comparison.results[i]?.routes.find((r) => r.id === 'wires-in-place')
    const taken = Array.from({ length: 8 }, (_, i) => 100 * (i + 1) ** Math.log2(0.8))
    test('the next one takes what the curve says, not what the first took', () => {
      const found = with_(taken, 0)
      expect(wires(found)?.curve?.rate).toBeCloseTo(0.8, 9)
      // One unit, of which one in twenty dies and is begun anew.
      expect(at(found, 0)?.minutes).toBeCloseTo(100 * 9 ** Math.log2(0.8) * (1 + 0.05 / 0.95), 6)
    })
    test('how many die is counted from ten tries on, the dead ones among them', () => {
      expect(wires(with_(taken, 1))?.losses).toBe('assumed')
      const found = with_(taken, 2)
      expect(wires(found)?.losses).toBe('record')
      // 0.2 of the tries: a good unit takes 1.25 of them.
      expect(at(found, 0)?.material).toBeCloseTo(22 + 1.25 * 9.5, 9)
    })
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
