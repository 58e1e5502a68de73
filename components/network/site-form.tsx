'use client'
import { ssidFindings } from '@fresh-coat/core/network/wifi'
import { isSlug, slugOf } from '@fresh-coat/core/topics/slug'
import type { Air } from '@fresh-coat/core/unit/air'
import { type Money, pricesInOrder } from '@fresh-coat/core/unit/cost'
import { useState } from 'react'
import { CommandForm } from '@/components/forms/command-form'
import { NumberField, TextField, Tick } from '@/components/forms/fields'
import { Fold } from '@/components/forms/fold'
import { Rows } from '@/components/forms/rows'
import { Sayings } from '@/components/forms/sayings'

/** What every unit is told of the air; passwords are secrets of the units. */
function AirFields({ air, set }: { air: Air; set: (change: Partial<Air>) => void }) {
  const broker = (change: Partial<Air['broker']>) => set({ broker: { ...air.broker, ...change } })
  return (
    <Fold summary="The air: what every unit is told" startOpen={air.ssid !== '' || air.broker.host !== ''}>
      <div className="grid gap-3 sm:grid-cols-4">
        <TextField
          label="Network"
          value={air.ssid}
          maxLength={64}
          onChange={(ssid) => set({ ssid })}
          hint={<Sayings of={ssidFindings(air.ssid)} />}
        />
        <TextField
          label="Second network"
          value={air.ssid2}
          maxLength={64}
          onChange={(ssid2) => set({ ssid2 })}
          hint={<Sayings of={ssidFindings(air.ssid2)} />}
        />
        <TextField
          label="Broker"
          mono
          value={air.broker.host}
          maxLength={253}
          placeholder="192.168.71.2"
          onChange={(host) => broker({ host })}
        />
        <NumberField
          label="Port of the broker"
          min={1}
          max={65_535}
          whole
          value={air.broker.port}
          onChange={(port) => broker({ port })}
          hint={`Empty: ${air.broker.tls ? 8883 : 1883}`}
        />
        <TextField
          label="User at the broker"
          value={air.broker.user}
          maxLength={120}
          onChange={(user) => broker({ user })}
        />
        <NumberField
          label="A report every"
          unit="s"
          min={1}
          max={86_400}
          whole
          value={air.reportSeconds}
          onChange={(reportSeconds) => set({ reportSeconds })}
        />
        <Tick label="TLS to the broker" checked={air.broker.tls} onChange={(tls) => broker({ tls })} />
      </div>
    </Fold>
  )
}

const dayPattern = /^\d{4}-\d{2}-\d{2}$/

/** What a kWh costs, each from a day on. What is typed stays as it is until it is whole. */
function PriceFields({ money, set }: { money: Money; set: (prices: Money['prices']) => void }) {
  const [rows, setRows] = useState<{ from: string; perKWh: number | null }[]>(() => [...money.prices])
  const put = (next: typeof rows) => {
    setRows(next)
    set(
      pricesInOrder(
        next.flatMap(({ from, perKWh }) => (dayPattern.test(from) && perKWh !== null ? [{ from, perKWh }] : [])),
      ),
    )
  }
  return (
    <Fold
      summary={rows.length === 0 ? 'What a kWh costs there' : `What a kWh costs there: ${rows.length} since`}
      startOpen={rows.length > 0}
    >
      <Rows
        rows={rows}
        columns="sm:grid-cols-[11rem_11rem_auto]"
        most={100}
        another="Another price"
        fresh={() => ({ from: '', perKWh: null })}
        onChange={put}
      >
        {(row, one) => (
          <>
            <TextField
              label="From the day"
              mono
              value={row.from}
              maxLength={10}
              placeholder="2026-01-01"
              onChange={(from) => one({ from })}
            />
            <NumberField
              label="A kWh costs"
              unit={money.currency}
              min={0}
              max={1000}
              value={row.perKWh}
              onChange={(perKWh) => one({ perKWh })}
            />
          </>
        )}
      </Rows>
    </Fold>
  )
}

export function SiteForm({
  site,
}: {
  site: { name: string; base: string; slug: string; mainsVolts: number; money: Money; air: Air }
}) {
  return (
    <CommandForm
      command="set-site"
      empty={{ ...site } as { [key: string]: unknown } & typeof site}
      submit="Save"
      disabled={(v) => !v.name.trim() || !isSlug(v.base) || !isSlug(v.slug)}
    >
      {(v, set) => (
        <>
          <div className="grid gap-3 sm:grid-cols-4">
            <TextField label="Name of the place" value={v.name} maxLength={120} onChange={(name) => set({ name })} />
            <TextField
              label="First level of all topics"
              mono
              value={v.base}
              maxLength={63}
              onChange={(base) => set({ base: base.toLowerCase() })}
              hint={isSlug(v.base) ? '' : `a–z, 0–9, hyphens: ${slugOf(v.base) || 'home'}`}
            />
            <TextField
              label="Second level: the site"
              mono
              value={v.slug}
              maxLength={63}
              onChange={(slug) => set({ slug: slug.toLowerCase() })}
              hint={isSlug(v.slug) ? '' : `a–z, 0–9, hyphens: ${slugOf(v.slug) || 'main'}`}
            />
            <NumberField
              label="Mains there"
              unit="V"
              min={90}
              max={260}
              value={v.mainsVolts}
              onChange={(mainsVolts) => mainsVolts !== null && set({ mainsVolts })}
            />
            <TextField
              label="Sign of its money"
              value={v.money.currency}
              maxLength={8}
              onChange={(currency) => set({ money: { ...v.money, currency } })}
            />
            <NumberField
              label="An hour at the bench counts"
              unit={v.money.currency}
              min={0}
              max={10000}
              value={v.money.hourWorth}
              onChange={(hourWorth) => set({ money: { ...v.money, hourWorth } })}
              hint="Empty: work is not counted in money."
            />
          </div>
          <PriceFields money={v.money} set={(prices) => set({ money: { ...v.money, prices } })} />
          <AirFields air={v.air} set={(air) => set({ air: { ...v.air, ...air } })} />
          <p className="text-ink-2">
            Changing a level changes every topic: hub tests go stale. Topics begin{' '}
            <span className="pin">{`${v.base}/${v.slug}/…`}</span>
          </p>
        </>
      )}
    </CommandForm>
  )
}
