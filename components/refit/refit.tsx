'use client'
import {
  checkName,
  type RefitStep,
  refitContacts,
  refitOf,
  refitReason,
  thousandOff,
} from '@fresh-coat/core/refit/of-unit'
import type { RefitRecord } from '@fresh-coat/core/refit/record'
import { ohmsWords, type RefitCheck, type RefitJudgement, wantedOf } from '@fresh-coat/core/refit/refit'
import type { UnitView } from '@fresh-coat/core/unit/view'
import { RefitDrawing } from '@/components/drawings/refit-drawing'
import { NumberField } from '@/components/forms/fields'
import type { Ask } from '@/components/frame/card'

/** Measuring before power, on the card and on the contacts: one reading at a time. */

interface Handle {
  data: { refit: RefitRecord }
  patch: (change: { refit: RefitRecord }) => void
}

const askId = (check: RefitCheck) => `refit ${check.id}`

function howOf(check: RefitCheck): string {
  const probes = check.expected === 'range' ? 'Red lead on 3V3, black on GND. ' : ''
  return `${probes}${wantedOf(check)} is due. Write it down once it stands still.`
}

/** A reading a thousand times off is asked about once it was typed: it counts as it stands until somebody says. */
function offAsk(check: RefitCheck, name: string, { data, patch }: Handle, reading: number, meant: number): Ask {
  const { refit } = data
  return {
    id: `off ${check.id}`,
    name,
    lead: 'A thousand times off?',
    ask: `${ohmsWords(reading)}, or is it ${ohmsWords(meant)}?`,
    how: `${name}: ${wantedOf(check)} is due. Meters switch from Ω to kΩ by themselves.`,
    said: null,
    answers: [
      {
        label: ohmsWords(meant),
        pick: () => patch({ refit: { ...refit, readings: { ...refit.readings, [check.id]: meant } } }),
      },
      {
        label: `${ohmsWords(reading)}, as I typed it`,
        grave: true,
        pick: () => patch({ refit: { ...refit, sure: [...refit.sure, check.id] } }),
      },
    ],
  }
}

/** One check, and before it what has to be said of the reading that stands there. */
function checkAsks(check: RefitCheck, name: string, judged: RefitJudgement, handle: Handle): Ask[] {
  const { data, patch } = handle
  const { readings, sure } = data.refit
  const measured = Object.hasOwn(readings, check.id)
  const reading = readings[check.id] ?? null
  const meant = measured && !sure.includes(check.id) ? thousandOff(check, reading) : null
  const off = meant !== null && reading !== null ? [offAsk(check, name, handle, reading, meant)] : []
  const put = (value: number | null, there = true) => {
    const { [check.id]: _, ...others } = readings
    patch({
      refit: { readings: there ? { ...others, [check.id]: value } : others, sure: sure.filter((s) => s !== check.id) },
    })
  }
  const bad = judged.results.find((r) => r.id === check.id)?.verdict === 'bad'
  const ask: Ask = {
    id: askId(check),
    name,
    lead: 'Before any power, unplugged and discharged',
    ask: `${name}: how many ohms?`,
    how: howOf(check),
    // A bad one stays asked until it is mended and measured again.
    said: measured && !bad ? ohmsWords(reading) : null,
    answers: [{ label: 'Over range', pick: () => put(null), chosen: measured && reading === null }],
    field: (
      <NumberField
        key={check.id}
        label={name}
        unit="Ω"
        min={0}
        max={1e9}
        value={measured ? reading : null}
        onChange={(value) => put(value, value !== null)}
      />
    ),
  }
  return [...off, ask]
}

export interface Refit {
  reason: string
  judged: RefitJudgement
  asks: Ask[]
  drawing: (at: string | null) => React.ReactNode
}

/** What has to be measured at a step; null where nothing has. */
export function refitAt(view: UnitView, step: RefitStep, handle: Handle): Refit | null {
  const [reason, judged] = [refitReason(view, step), refitOf(view, step)]
  if (reason === null || judged === null) return null
  const contacts = refitContacts(view)
  const asks = judged.checks.flatMap((check) => checkAsks(check, checkName(check, contacts), judged, handle))
  return {
    reason,
    judged,
    asks,
    drawing: (at) => {
      const open = at ?? asks.find((a) => a.said === null)?.id
      return (
        <RefitDrawing
          contacts={contacts}
          judged={judged}
          at={judged.checks.find((c) => askId(c) === open || `off ${c.id}` === open) ?? null}
        />
      )
    },
  }
}
