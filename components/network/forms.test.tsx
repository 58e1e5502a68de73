/** @jest-environment jsdom */
import type { CampaignPolicy } from '@fresh-coat/core/fleet/campaign'
import { addressBoard } from '@fresh-coat/core/network/site-board'
import type { SitePlan, SiteUnit } from '@fresh-coat/core/network/site-plan'
import { noAir } from '@fresh-coat/core/unit/air'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import type { ReactNode } from 'react'
import { openFolds } from '@/components/testing/folds'
import { pack } from '../packed'
import { AddressPlan } from './address-plan'
import { SiteForm } from './site-form'
import { freshPolicy, PolicyForm } from './updates-form'

const refresh = jest.fn()
jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn(), refresh, prefetch: jest.fn() }) }))
afterEach(() => {
  cleanup()
  jest.clearAllMocks()
})
const show = (children: ReactNode) => {
  const shown = render(<QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>)
  openFolds()
  return shown
}
const field = (label: string | RegExp, i = 0) => screen.getAllByLabelText(label)[i] as HTMLInputElement
const type = (label: string | RegExp, value: string, i = 0) => fireEvent.change(field(label, i), { target: { value } })
const press = (name: string | RegExp, i = 0) =>
  act(async () => {
    fireEvent.click(screen.getAllByRole('button', { name })[i] as HTMLElement)
  })
/** What the server got as the body of the last command. */
const sent = () =>
  JSON.parse((global.fetch as jest.Mock).mock.calls.filter(([, init]) => init?.body !== undefined).at(-1)?.[1].body)
beforeEach(() => {
  global.fetch = jest.fn(async () => ({ status: 200, json: async () => ({ ok: true, value: {} }) })) as never
})

describe('how an update goes', () => {
  const units = [
    { id: 'u3', number: 3, name: 'Props heater', bridge: false },
    { id: 'u7', number: 7, name: 'Glue pot', bridge: false },
    { id: 'u20', number: 20, name: 'Sensor bridge', bridge: true },
  ]
  const serve = (answer: () => object) => {
    global.fetch = jest.fn(async (path: string) => ({
      status: 200,
      json: async () => (path.startsWith('/api/updates/units') ? answer() : { ok: true, value: {} }),
    })) as never
  }
  beforeEach(() => serve(() => ({ ok: true, value: units })))
  const policy: CampaignPolicy = { ...freshPolicy('Plainsong'), start: '2026-12-01T10:00:00Z', utcOffset: 'Z' }
  const open = (change: Partial<CampaignPolicy> = {}) =>
    show(
      <PolicyForm
        policy={{ ...policy, ...change }}
        firmwares={[
          { name: 'Plainsong', units: 3 },
          { name: 'Lattice', units: 1 },
        ]}
        special={units.filter((u) => u.bridge)}
      />,
    )
  const listed = () => screen.findByLabelText('Number of a unit')

  test('is not planned without a version, and goes out as it stands', async () => {
    open()
    expect((screen.getByRole('button', { name: 'Plan it' }) as HTMLButtonElement).disabled).toBe(true)
    type('To version', '9.5.0')
    await press('Plan it')
    expect(sent()).toEqual({ ...policy, version: '9.5.0' })
  })
  test('a ring that is taken off takes its steady hours along', async () => {
    open({ version: '9.5.0', soakHours: [48, 24, 12] })
    await press('Take it off', 1)
    await press('Plan it')
    expect(sent()).toMatchObject({ rings: [{ name: 'Trial' }, { name: 'The rest' }], soakHours: [48, 12] })
  })
  test('steady hours of a ring are its own, with zero where nobody said', async () => {
    open({ version: '9.5.0', soakHours: [48] })
    type(/Then steady for/, '6', 2)
    await press('Plan it')
    expect(sent().soakHours).toEqual([48, 0, 6])
  })
  test('the window has its days in the order of the week, whatever order they are ticked in', async () => {
    open({ version: '9.5.0', window: { days: ['sun'], from: '22:30', to: '00:30' } })
    fireEvent.click(screen.getByLabelText('wed'))
    fireEvent.click(screen.getByLabelText('mon'))
    fireEvent.click(screen.getByLabelText('sun'))
    await press('Plan it')
    expect(sent().window.days).toEqual(['mon', 'wed'])
    fireEvent.click(screen.getByLabelText('Only in a window'))
    await press('Plan it')
    expect(sent().window).toBeNull()
  })
  test('what comes before a unit is said by number; its own number and one of no unit are not taken', async () => {
    open({ version: '9.5.0' })
    await listed()
    type('Number of a unit', '3')
    await press('It is special')
    type('Only after', '20, 3, 99', 0)
    expect(screen.getByText('Not in this update: 3, 99')).toBeTruthy()
    await press('Plan it')
    expect(sent().units.u3.after).toEqual(['u20'])
  })
  test('a number that no unit of the update has is said, and makes nothing special', async () => {
    open({ version: '9.5.0' })
    await listed()
    type('Number of a unit', '99')
    expect(screen.getByText('No unit of this update has it.')).toBeTruthy()
    expect((screen.getByRole('button', { name: 'It is special' }) as HTMLButtonElement).disabled).toBe(true)
  })
  test('a bridge is one until somebody says otherwise', async () => {
    open({ version: '9.5.0' })
    await listed()
    type('Left as it is, because', 'its dongle is borrowed')
    await press('Plan it')
    expect(sent().units).toEqual({ u20: { role: 'bridge', canary: false, after: [], held: 'its dongle is borrowed' } })
  })
  test('which units there are is asked for once the fold is open; where no answer comes, what was said of units stands', async () => {
    serve(() => ({ ok: false, error: { message: 'The database is away.' } }))
    const kept = { u3: { role: 'normal' as const, canary: true, after: [], held: '' } }
    open({ version: '9.5.0', units: kept })
    expect((await screen.findByRole('alert', {}, { timeout: 4000 })).textContent).toMatch(/The database is away/)
    await press('Plan it')
    expect(sent().units).toEqual(kept)
    serve(() => ({ ok: true, value: units }))
    await press('Ask once more')
    await listed()
    expect((screen.getAllByLabelText('goes first')[0] as HTMLInputElement).checked).toBe(true)
  })
  test('of another firmware the units are others, and what was said of the first ones is not said of them', async () => {
    open({ version: '9.5.0', units: { u3: { role: 'normal', canary: true, after: [], held: '' } } })
    await listed()
    fireEvent.change(field('Firmware'), { target: { value: 'Lattice' } })
    await listed()
    const asked = (global.fetch as jest.Mock).mock.calls.map(([path]) => path)
    expect(asked).toContain('/api/updates/units?firmware=Lattice')
    await press('Plan it')
    expect(sent()).toMatchObject({ firmware: 'Lattice', units: {} })
  })
  test('what the server refuses is said, and what was typed is still there', async () => {
    open()
    global.fetch = jest.fn(async () => ({
      status: 400,
      json: async () => ({
        ok: false,
        error: { code: 'range', message: 'No slot within a year.', kept: 'Nothing was changed.', next: 'Widen it.' },
      }),
    })) as never
    type('To version', '9.5.0')
    await press('Plan it')
    expect(screen.getByText('No slot within a year.')).toBeTruthy()
    expect(field('To version').value).toBe('9.5.0')
  })
})

describe('the address plan', () => {
  const site: SitePlan = {
    subnet: '192.168.71.0/24',
    gateway: '192.168.71.1',
    pool: { from: '192.168.71.100', to: '192.168.71.199' },
    leaseTime: '12h',
    groups: [{ place: 'workshop', from: '192.168.71.40', to: '192.168.71.47' }],
    taken: '',
  }
  const unit = (number: number, name: string, more: Partial<SiteUnit>): SiteUnit => ({
    ...{ id: `u${number}`, number, name, place: '', mac: '', address: '', slug: `unit-${number}` },
    ...more,
  })
  const units = [
    unit(7, 'Glue pot', { place: 'workshop', mac: 'b8:3c:d0:77:1e:9a', address: '192.168.71.144' }),
    unit(3, 'Props heater', { mac: 'b8:3c:d0:77:10:03', address: '192.168.71.22' }),
    unit(9, 'Bare', {}),
  ]
  const most = { rows: 100, found: 24, lines: 300, inWords: 30 }
  const open = (given: SiteUnit[] = units, shown = most) => {
    global.fetch = jest.fn(async (path: string) => ({
      status: 200,
      json: async () => ({ ok: true, value: path.startsWith('/api/network/units') ? given : {} }),
    })) as never
    return show(<AddressPlan given={pack({ site, board: addressBoard(site, given, shown), shown, beyond: null })} />)
  }
  /** A hand is on the form, and the units have come. */
  const near = () =>
    act(async () => {
      field('Network').focus()
    })
  const row = (name: RegExp) => within(screen.getByRole('row', { name }))

  test('says who moves and why, before anything is kept or asked for', () => {
    open()
    expect(row(/Glue pot/).getByText('192.168.71.40')).toBeTruthy()
    expect(row(/Glue pot/).getByText('the range of its place')).toBeTruthy()
    expect(row(/Props heater/).getByText('keeps its own')).toBeTruthy()
    expect(screen.getByText('2 units, 1 to move')).toBeTruthy()
    expect(screen.getByText(/^07 Glue pot: Its address lies in the pool/)).toBeTruthy()
    expect(screen.getByText(/Without a MAC nothing can be promised to 09/)).toBeTruthy()
    expect(global.fetch).not.toHaveBeenCalled()
  })
  test('moves while the network is typed, and says where it cannot be planned', async () => {
    open()
    await near()
    type('from', '192.168.71.60', 0)
    type('to', '192.168.71.61', 1)
    expect((await screen.findAllByText('192.168.71.60')).length).toBeGreaterThan(0)
    expect(row(/Glue pot/).getByText('192.168.71.60')).toBeTruthy()
    type('Network', '192.168.71.0/33')
    expect(screen.getByRole('alert').textContent).toMatch(/What you typed is still here/)
    // What could be planned last stays: nothing moves under the hand.
    expect(row(/Glue pot/).getByText('192.168.71.60')).toBeTruthy()
    type('Network', '192.168.71.0/24')
    expect(row(/Glue pot/).getByText('192.168.71.60')).toBeTruthy()
  })
  test('while nobody says which units there are, the drawing is of what is kept, and what is typed stands', async () => {
    open()
    global.fetch = jest.fn(async () => {
      throw new TypeError('network')
    }) as never
    await near()
    type('from', '192.168.71.60', 0)
    expect(
      await screen.findByText(/does not answer.*The drawing is of what is kept/, {}, { timeout: 4000 }),
    ).toBeTruthy()
    expect(row(/Glue pot/).getByText('192.168.71.40')).toBeTruthy()
    expect(field('from').value).toBe('192.168.71.60')
  })
  test('what the router is told is written three ways', async () => {
    open()
    expect(screen.getByText(/dhcp-host=b8:3c:d0:77:1e:9a,192\.168\.71\.40,/)).toBeTruthy()
    await press('Blocks for a dhcpd')
    expect(screen.getByText(/hardware ethernet b8:3c:d0:77:1e:9a;/)).toBeTruthy()
    await press('A table')
    expect(screen.getByText(/^number,id,mac,ip,hostname,group/)).toBeTruthy()
  })
  test('of a long list its beginning stands there, and a press copies all of it', async () => {
    const written = jest.fn(async () => {})
    Object.defineProperty(navigator, 'clipboard', { value: { writeText: written }, configurable: true })
    open(units, { ...most, lines: 1 })
    expect(screen.getByText(/and 1 more line:/)).toBeTruthy()
    await press('Copy all of it')
    await screen.findByText('Copied')
    const [all] = written.mock.calls[0] as unknown as [string]
    expect(all.match(/dhcp-host=/g)).toHaveLength(2)
    global.fetch = jest.fn(async () => {
      throw new TypeError('network')
    }) as never
    await press('Copied')
    expect(await screen.findByText(/does not answer.*Nothing was copied/, {}, { timeout: 4000 })).toBeTruthy()
  })
  test('units that it takes no more are counted', () => {
    show(<AddressPlan given={pack({ site, board: null, shown: most, beyond: { units: 12, takes: 3, above: 9 } })} />)
    expect(screen.getByText('12 more units, of numbers above 9, are not in this plan: it takes 3.')).toBeTruthy()
  })
  test('a line about others that cannot be read is named', () => {
    open()
    type(/Addresses of others/, '192.168.71.2 hub\nsomewhere in the cellar')
    expect(screen.getByText(/Not read: somewhere in the cellar/)).toBeTruthy()
  })
})

describe('the place', () => {
  const site = {
    name: 'Lantern Yard',
    base: 'yard',
    slug: 'lantern',
    mainsVolts: 230,
    money: { currency: '€', hourWorth: null, prices: [{ from: '2026-01-01', perKWh: 0.31 }] },
    air: noAir,
  }
  test('levels of topics are slugs, and what would be one is offered', () => {
    show(<SiteForm site={site} />)
    type('Second level: the site', 'Stage Door')
    expect((screen.getByRole('button', { name: 'Save' }) as HTMLButtonElement).disabled).toBe(true)
    expect(screen.getByText('a–z, 0–9, hyphens: stage-door')).toBeTruthy()
  })
  test('a price counts once its day is whole, in the order of days', async () => {
    show(<SiteForm site={site} />)
    await press('Another price')
    type('From the day', '2025-0', 1)
    type(/A kWh costs/, '0.28', 1)
    await press('Save')
    expect(sent().money.prices).toEqual([{ from: '2026-01-01', perKWh: 0.31 }])
  })
  test('prices are kept in order', async () => {
    show(<SiteForm site={site} />)
    await press('Another price')
    type('From the day', '2025-07-01', 1)
    type(/A kWh costs/, '0.28', 1)
    await press('Save')
    expect(sent().money.prices).toEqual([
      { from: '2025-07-01', perKWh: 0.28 },
      { from: '2026-01-01', perKWh: 0.31 },
    ])
  })
  test('a network’s name that makes trouble is said where it is typed', () => {
    show(<SiteForm site={{ ...site, air: { ...noAir, ssid: 'yard ' } }} />)
    expect(document.body.textContent).toMatch(/space/)
  })
})
