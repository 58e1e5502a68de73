'use client'
import type { Assessment } from '@fresh-coat/core/unit/assess'
import { type CoatDone, coatSpan, painted } from '@fresh-coat/core/unit/coats'
import { coats, type StepId, stepOf } from '@fresh-coat/core/unit/way'
import Link from '@/components/link'
import { type Packed, usePacked } from '@/components/packed'
import { coatPaint, twoDigits } from '@/components/paint/paint'
import { Stripe } from '@/components/paint/stripe'
import { useFirstScreen } from '@/components/tables/first-screen'
import type { RackOrder } from './rack-orders'

export interface RackUnit {
  number: number
  name: string
  place: string
  board: string
  next: StepId
  inService: boolean
  inHand: boolean
  coats: readonly CoatDone[]
  waiting: Assessment['waiting']
}

/** The stripes take this much of the row; the rest is for words at the end. */
const reach = 0.86
/** Beyond this the words stand on the stripe, before the number. */
const wordsInside = 0.55

const numberLook = (unit: RackUnit) => {
  const [trouble] = unit.waiting
  if (!trouble) return unit.inHand ? 'border-ink bg-sheet border-[3px]' : 'border-ink bg-sheet'
  return trouble.severity === 'error' ? 'border-oxide bg-oxide-soft text-oxide' : 'border-ochre-line bg-ochre-soft'
}

/** Name, next step, and what is in the way, in a line. */
function Words({ unit, inside }: { unit: RackUnit; inside: boolean }) {
  const [trouble] = unit.waiting
  const step = unit.inService && !trouble ? 'in service' : stepOf(trouble?.step ?? unit.next).short.toLowerCase()
  return (
    <span className="flex min-w-0 items-baseline gap-2 whitespace-nowrap">
      <span className={`truncate font-semibold ${inside ? 'text-on-paint' : ''}`} dir="auto">
        {unit.name}
      </span>
      <span className={inside ? 'text-on-paint' : 'text-ink-2'}>{step}</span>
      {trouble && !inside && (
        <span className={`truncate ${trouble.severity === 'error' ? 'text-oxide' : 'text-ochre'}`}>{trouble.text}</span>
      )}
    </span>
  )
}

function RackRow({ unit }: { unit: RackUnit }) {
  const at = painted(unit.coats) * reach * 100
  const inside = at > wordsInside * 100
  const [trouble] = unit.waiting
  return (
    <li>
      <Link
        href={`/units/${unit.number}`}
        className="group relative block h-[33px] rounded-[8px] hover:bg-sheet/50"
        aria-label={`${twoDigits(unit.number)} ${unit.name}, ${stepOf(trouble?.step ?? unit.next).title}${trouble ? `: ${trouble.text}` : ''}`}
      >
        <span className="absolute inset-y-[6px] left-0" style={{ width: `${reach * 100}%` }}>
          <Stripe coats={unit.coats} pale={!unit.inHand} />
        </span>
        {inside ? (
          <span
            className="absolute inset-y-0 left-2 flex items-center justify-end overflow-hidden pr-2"
            style={{ width: `calc(${at}% - 1.6rem)` }}
          >
            <Words unit={unit} inside />
          </span>
        ) : null}
        <span
          className={`absolute top-[2px] grid h-[29px] min-w-[36px] place-items-center rounded-[8px] border-2 px-1 font-title text-[1.02rem] font-extrabold ${numberLook(unit)}`}
          style={{ left: `max(0px, calc(${at}% - 0.8rem))` }}
        >
          {twoDigits(unit.number)}
        </span>
        <span
          className="absolute inset-y-0 right-0 flex items-center overflow-hidden pl-2"
          style={{ left: `max(38px, calc(${at}% + 1.8rem))` }}
        >
          {inside ? (
            trouble && (
              <span className={`truncate ${trouble.severity === 'error' ? 'text-oxide' : 'text-ochre'}`}>
                {trouble.text}
              </span>
            )
          ) : (
            <Words unit={unit} inside={false} />
          )}
        </span>
      </Link>
    </li>
  )
}

/** The coats over the rack, each as wide as its steps. */
function RackHead() {
  return (
    <div className="relative h-[26px]" aria-hidden="true">
      {coats.map((c) => {
        const { from, to } = coatSpan(c.id)
        return (
          <span
            key={c.id}
            className="absolute top-0 border-b-4 pb-0.5 font-title text-[0.93rem] leading-tight font-bold"
            style={{
              left: `${from * reach * 100}%`,
              width: `calc(${(to - from) * reach * 100}% - 4px)`,
              borderColor: coatPaint[c.id],
            }}
          >
            {c.name}
          </span>
        )
      })}
    </div>
  )
}

/** What a row stands under, when the rack is sorted by it. */
const groupOf = (unit: RackUnit, by: RackOrder) =>
  by === 'place' ? unit.place || 'no place' : by === 'board' ? unit.board || 'board not named' : ''

/** What a tall screen shows. */
const rowsAtFirst = 26

/** One painted stripe per unit at work, its number at the wet edge. */
export function Rack({ given, by, more }: { given: Packed<RackUnit[]>; by: RackOrder; more: number }) {
  const units = usePacked(given)
  const groups = new Map<string, RackUnit[]>()
  for (const u of units) groups.set(groupOf(u, by), [...(groups.get(groupOf(u, by)) ?? []), u])
  const names = [...groups.keys()].sort()
  const inOrder = names.flatMap((name) => groups.get(name) ?? [])
  const count = useFirstScreen(inOrder.length, rowsAtFirst)
  const drawn = new Set(inOrder.slice(0, count))
  return (
    <div className="min-w-0">
      <RackHead />
      {names.map((name) => (
        <section key={name} aria-label={name || 'Drying rack'}>
          {name && (
            <h3 className="mt-1.5 text-[0.93rem] text-ink-2" dir="auto">
              {name}
            </h3>
          )}
          <ul>{groups.get(name)?.map((u) => drawn.has(u) && <RackRow key={u.number} unit={u} />)}</ul>
        </section>
      ))}
      {more > 0 && (
        <Link href="/units" className="mt-1 inline-block underline underline-offset-4">
          {more} more at work
        </Link>
      )}
    </div>
  )
}
