/** @jest-environment jsdom */
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import fc from 'fast-check'
import { type AirRow, AirRows } from './air-rows'
import { HourBars } from './hour-bars'
import { HubDrawing, type Way } from './hub-drawing'
import { MacMatch } from './mac-match'
import { RingLines } from './ring-lines'
import { SubnetMap } from './subnet-map'

afterEach(cleanup)

const now = Date.parse('2026-05-12T12:00:00Z')
const row = (more: Partial<AirRow> = {}): AirRow => ({
  number: 7,
  name: 'Glue pot',
  place: 'workshop',
  state: 'on',
  on: true,
  unsure: false,
  watts: '240 W',
  beats: [now - 60_000, now - 30_000],
  changes: [],
  says: '',
  silentFrom: null,
  watch: false,
  ...more,
})

describe('who is on the air', () => {
  test('each message of the last quarter of an hour is a stroke, older ones are none', () => {
    const { container } = render(<AirRows rows={[row({ beats: [now - 16 * 60_000, now - 60_000, now] })]} now={now} />)
    const strokes = container.querySelector('path[stroke="var(--prussian)"]')?.getAttribute('d') ?? ''
    expect(strokes.match(/M/g)).toHaveLength(2)
  })
  test('what nobody can be sure of is not shown as on', () => {
    render(<AirRows rows={[row({ unsure: true, state: 'on', watch: true, says: 'silent for 6 min' })]} now={now} />)
    const said = screen.getByText('on')
    expect(said.className).not.toContain('bg-verdigris')
    expect(screen.getByText('silent for 6 min')).toBeDefined()
  })
  test('it leads to the page of the unit', () => {
    render(<AirRows rows={[row()]} now={now} />)
    expect(screen.getByRole('link').getAttribute('href')).toBe('/units/7/watch')
  })
})

describe('hours', () => {
  test('an hour without a reading is a gap and no zero, and the average is of what was measured', () => {
    const hour = now - (now % 3_600_000)
    const { container } = render(
      <HourBars
        hours={[
          { hour, messages: 9, meanW: 200, mostW: 300 },
          { hour: hour - 3_600_000, messages: 4, meanW: null, mostW: 0 },
        ]}
        now={now}
      />,
    )
    expect(screen.getByRole('img', { name: 'The last 24 hours: 200 W on average, 300 W at most' })).toBeDefined()
    expect(container.querySelectorAll('rect[fill="var(--prussian)"]')).toHaveLength(2)
  })
  test('a load that was off all the time took nothing, and no watt is made up for it', () => {
    const hour = now - (now % 3_600_000)
    render(<HourBars hours={[{ hour, messages: 9, meanW: 0, mostW: 0 }]} now={now} />)
    expect(screen.getByRole('img', { name: 'The last 24 hours: 0 W on average, 0 W at most' })).toBeDefined()
  })
  test('nothing measured is said', () => {
    render(<HourBars hours={[]} now={now} />)
    expect(screen.getAllByRole('img', { name: /nothing was measured/ })).toHaveLength(2)
  })
})

describe('rings over time', () => {
  const rings = [
    {
      ring: 'Trial',
      status: 'stopped' as const,
      notBefore: now,
      end: now,
      all: 1,
      units: [{ number: 1, start: now, how: { state: 'failed' as const } }],
    },
    {
      ring: 'The rest',
      status: 'held' as const,
      notBefore: now + 1e8,
      end: now + 1e8,
      all: 2,
      units: [2, 3].map((number) => ({ number, start: now + 1e8, how: { state: 'waiting' as const } })),
    },
  ]
  test('say in words what is drawn, and blocks of one moment stand beside each other', () => {
    const chosen = jest.fn()
    const { container } = render(<RingLines rings={rings} blackouts={[]} now={now} chosen={null} onChoose={chosen} />)
    expect(
      screen.getByRole('img', { name: 'Trial stopped: 01 failed; The rest held: 02 waits, 03 waits' }),
    ).toBeDefined()
    const xs = [...container.querySelectorAll('rect')].map((r) => Number(r.getAttribute('x')))
    expect((xs[2] as number) - (xs[1] as number)).toBeGreaterThanOrEqual(30)
    fireEvent.click(screen.getByText('03'))
    expect(chosen).toHaveBeenCalledWith(3)
  })
  test.each([1, 12, 13, 30, 200])(
    'with %i units in a ring no block lies on another or beyond the edge, and what is not drawn is counted',
    (n) => {
      const units = Array.from({ length: n }, (_, i) => ({
        number: i + 1,
        start: now + i * 720_000,
        how: { state: 'waiting' as const },
      }))
      const rings = [
        { ring: 'Trial', status: 'pending' as const, notBefore: now, end: now, all: 1, units: units.slice(0, 1) },
        {
          ring: 'The rest',
          status: 'pending' as const,
          notBefore: now + 172_800_000,
          end: now + n * 720_000,
          all: n,
          // The page brings no more than are drawn.
          units: units.slice(0, 48),
        },
      ]
      const { container } = render(
        <RingLines rings={rings} blackouts={[]} now={now} chosen={null} onChoose={() => {}} />,
      )
      const [, , width, height] = (container.querySelector('svg')?.getAttribute('viewBox') ?? '').split(' ').map(Number)
      const blocks = [...container.querySelectorAll('rect')].map((r) => ({
        x: Number(r.getAttribute('x')),
        y: Number(r.getAttribute('y')),
      }))
      expect(blocks).toHaveLength(1 + Math.min(n, 48))
      for (const [i, a] of blocks.entries()) {
        expect(a.x).toBeGreaterThanOrEqual(0)
        expect(a.x + 30).toBeLessThanOrEqual(width as number)
        expect(a.y + 30).toBeLessThanOrEqual(height as number)
        for (const b of blocks.slice(i + 1)) expect(Math.abs(a.x - b.x) >= 30 || Math.abs(a.y - b.y) >= 30).toBe(true)
      }
      expect(screen.queryByText(`${n - 48} not drawn`) !== null).toBe(n > 48)
    },
  )
})

describe('a network', () => {
  const units = [
    { number: 7, name: 'Glue pot', now: '192.168.71.144', planned: '192.168.71.40' },
    { number: 8, name: 'Lamp', now: '192.168.71.41', planned: '192.168.71.41' },
  ]
  const map = (subnet: string) => (
    <SubnetMap
      subnet={subnet}
      pool={{ from: '192.168.71.100', to: '192.168.71.199' }}
      groups={[]}
      taken={['192.168.71.2']}
      units={units}
    />
  )
  type Span = { from: string; to: string }
  /** Addresses, from the first of the network, that boxes of a kind are drawn at. */
  const covered = (container: HTMLElement, kind: string): number[] => {
    const id = container.querySelector(`pattern rect[${kind}]`)?.parentElement?.id
    const of = (e: Element, name: string) => Number(e.getAttribute(name))
    return [...container.querySelectorAll('rect')]
      .filter((e) => e.getAttribute('fill') === `url(#${id})`)
      .flatMap((e) =>
        Array.from(
          { length: of(e, 'width') / 30 },
          (_, i) => ((of(e, 'y') - 2) / 24) * 32 + (of(e, 'x') - 46) / 30 + i,
        ),
      )
  }
  test('shows who moves where, and who stays', () => {
    const { container } = render(map('192.168.71.0/24'))
    expect(screen.getByRole('img', { name: /unit 7 at 192\.168\.71\.40; unit 8 at 192\.168\.71\.41/ })).toBeDefined()
    expect(container.querySelectorAll('path[stroke="var(--ochre-line)"]')).toHaveLength(1)
    expect(covered(container, 'fill="var(--rule)"')).toEqual(Array.from({ length: 100 }, (_, i) => 100 + i))
    expect(container.querySelectorAll('circle')).toHaveLength(1)
  })
  test('whatever a span is, the boxes of its kind are drawn at its addresses in the network, each once', () => {
    const ip = (n: number) => `10.0.${n >> 8}.${n & 255}`
    fc.assert(
      fc.property(
        fc.constantFrom(24, 25, 27, 28, 30),
        fc.array(fc.tuple(fc.nat(600), fc.nat(300)), { minLength: 2, maxLength: 2 }),
        (prefix, spans) => {
          const size = 2 ** (32 - prefix)
          const [pool, group] = spans.map(([from, more]) => ({ from: ip(from), to: ip(from + more) })) as [Span, Span]
          const { container, unmount } = render(
            <SubnetMap
              subnet={`10.0.1.0/${prefix}`}
              pool={pool}
              groups={[{ place: 'pit', ...group }]}
              taken={[]}
              units={[]}
            />,
          )
          const inside = ([from, more]: number[]) =>
            Array.from({ length: size }, (_, i) => i).filter(
              (i) => 256 + i >= (from ?? 0) && 256 + i <= (from ?? 0) + (more ?? 0),
            )
          expect(covered(container, 'fill="var(--sheet-2)"')).toEqual(Array.from({ length: size }, (_, i) => i))
          expect(covered(container, 'fill="var(--rule)"')).toEqual(inside(spans[0] ?? []))
          expect(covered(container, 'stroke="var(--prussian)"')).toEqual(inside(spans[1] ?? []))
          unmount()
        },
      ),
      { numRuns: 40 },
    )
  })
  test('too large to draw, or none at all, says so', () => {
    render(map('10.0.0.0/8'))
    expect(screen.getByText(/is not drawn/)).toBeDefined()
  })
})

describe('a unit’s own Wi-Fi held against a device on the network', () => {
  const draw = (own: string | null, mac: string, suffix = '', name: string | null = null) =>
    render(<MacMatch own={own} suffix={suffix} found={{ mac, name, address: '192.168.71.44' }} />).container
  const marked = (container: HTMLElement) => container.querySelectorAll('rect[stroke="var(--ochre-line)"]').length
  test.each([
    ['ba:3c:d0:77:1e:9a', 'b8:3c:d0:77:1e:9a', 'One bit apart', 2],
    ['b8:3c:d0:77:1e:9a', 'b8:3c:d0:77:1e:9a', 'The same in all six', 0],
    ['b8:3c:d0:77:1e:9a', 'b8:3c:d0:77:1e:99', 'One below', 2],
    ['b8:3c:d0:77:1e:ff', 'b8:3c:d0:77:1e:00', 'One above', 2],
    ['b8:3c:d0:77:1e:9a', '78:2e:41:0b:5d:12', 'Not of one kind', 12],
  ])('%s and %s: %s', (own, mac, words, places) => {
    const container = draw(own, mac)
    expect(screen.getByText(words)).toBeTruthy()
    expect(marked(container)).toBe(places)
  })
  test('of one bit apart, all eight of both are shown and the turned one is marked', () => {
    const bits = [...draw('ba:3c:d0:77:1e:9a', 'b8:3c:d0:77:1e:9a').querySelectorAll('text')]
      .map((t) => t.textContent)
      .filter((t) => t === '0' || t === '1')
    expect(bits.join('')).toBe('1011101010111000')
  })
  test('the end of the name stands out where it is the same, whatever its case', () => {
    const bold = (name: string) =>
      [...draw(null, 'b8:3c:d0:77:1e:9a', '1E9A', name).querySelectorAll('tspan[fill="var(--verdigris)"]')].map(
        (t) => t.textContent,
      )
    expect(bold('plainsong-1e9a')).toEqual(['1E9A', '1e9a'])
    cleanup()
    expect(bold('box-office-till')).toEqual(['1E9A'])
  })
  test('a MAC that nobody noted is no MAC: nothing is called the same', () => {
    const container = draw(null, 'b8:3c:d0:77:1e:9a', '1E9A', 'plainsong-1e9a')
    expect(screen.getByText('Nobody noted its own MAC')).toBeTruthy()
    expect(container.querySelectorAll('path')).toHaveLength(0)
    expect(screen.getAllByText('?')).toHaveLength(6)
  })
})

describe('between a hub and a unit', () => {
  const way = (...states: Way['state'][]): Way => ({
    does: 'on and off',
    state: states.find((s) => s !== 'stands') ?? 'stands',
    note: '',
    channels: states.map((state, i) => ({ channel: i + 1, state })),
  })
  const draw = (toUnit: Way) =>
    render(<HubDrawing hub="Mantel" number="24" unit="Relays" toUnit={toUnit} toHub={null} stations={[]} />).container
  test.each<[Way['state'][], string]>([
    [['stands'], 'stands'],
    [['none'], 'not tested'],
    [['stands', 'stands', 'stands', 'stands'], 'stands on all 4'],
    [['none', 'none'], 'not tested'],
    [['stands', 'none', 'stands'], '2 of 3 stand'],
    [['stands', 'failed', 'failed'], '1 of 3 stand, 2 and 3 failed'],
    [['stale', 'stale'], 'stale on all 2'],
  ])('%j: %s', (states, words) => {
    draw(way(...states))
    expect(screen.getByText(words)).toBeTruthy()
    expect(screen.getByRole('img', { name: new RegExp(`from the hub ${words}`) })).toBeTruthy()
  })
  test('every channel of several has its number on the arrow, apart from the others and from the boxes', () => {
    const xs = [...draw(way(...Array.from({ length: 8 }, () => 'none' as const))).querySelectorAll('circle')].map((c) =>
      Number(c.getAttribute('cx')),
    )
    expect(xs).toHaveLength(8)
    for (const [i, x] of xs.entries()) {
      expect(x).toBeGreaterThan(250 + 13)
      expect(x).toBeLessThan(580 - 13)
      if (i > 0) expect(x - (xs[i - 1] as number)).toBeGreaterThan(26)
    }
  })
})
