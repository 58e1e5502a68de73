'use client'
import { isSlug, slugOf } from '@fresh-coat/core/topics/slug'
import type { Money } from '@fresh-coat/core/unit/cost'
import { CommandForm } from '@/components/forms/command-form'
import { NumberField, TextField } from '@/components/forms/fields'

export function SiteForm({
  site,
}: {
  site: { name: string; base: string; slug: string; mainsVolts: number; money: Money }
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
          <p className="text-ink-2">
            Changing a level changes every topic: hub tests go stale. Topics begin{' '}
            <span className="pin">{`${v.base}/${v.slug}/…`}</span>
          </p>
        </>
      )}
    </CommandForm>
  )
}
