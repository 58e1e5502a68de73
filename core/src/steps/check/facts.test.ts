import { lx106, unit } from '../../testing/a-unit'
import { lx106File } from '../../testing/an-image'
import { routeIds, routes } from '../../unit/way'
import { preflightOf } from './facts'

const image = lx106File('DOUT')

/** What Check says about the backup on a route, of a unit that has none. */
function backupFinding(route: (typeof routeIds)[number], skip?: { code: 'owner'; reason: string }) {
  const records = {
    arrive: { route },
    identify: lx106,
    check: { fileId: 'i', offset: 0 },
    backup: skip ? { skip } : {},
  }
  return preflightOf(unit(records, { image, route }))?.findings.find((f) => /backup|skip-reason/.test(f.code))
}

describe('a write without a backup', () => {
  const opened = routeIds.filter((id) => !routes[id].skips.includes('check'))
  test.each(opened)('on the route %s an image is refused only where there was something to lose', (route) => {
    const finding = backupFinding(route)
    const { noStock } = routes[route]
    expect(finding?.severity).toBe(noStock ? 'watch' : 'error')
    if (noStock) expect(JSON.stringify(finding)).toContain(noStock)
  })
  test('a route that writes either asks for a backup or says why there is none', () => {
    for (const id of opened) expect(routes[id].skips.includes('backup')).toBe(routes[id].noStock !== undefined)
  })
  test('a reason that a person gave is told as theirs', () =>
    expect(
      JSON.stringify(backupFinding('wires-in-place', { code: 'owner', reason: 'A second one of hers is kept.' })),
    ).toContain('A second one of hers is kept.'))
})
