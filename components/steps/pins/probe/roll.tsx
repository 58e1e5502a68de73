import { sharesOf } from '@fresh-coat/core/pins/infer'
import { inputsOf, restOf, type SignId, signsOf, trialsOf } from '@fresh-coat/core/pins/session'
import { naturalOrder } from '@fresh-coat/core/pins/words'
import { type DrawnPin, ModuleDrawing } from '@/components/drawings/module-drawing'
import { type RollPin, TrialRoll } from '@/components/drawings/trial-roll'
import { type At, kindOf, restWords, signNames } from './words'

/** The module and its trials beside each other: what was driven, what was seen above, what that makes likely. */

export function ProbeRoll({
  session,
  plan,
  found,
  now,
  chip,
}: Pick<At, 'session' | 'plan' | 'found'> & { now: readonly string[] | null; chip: string }) {
  const signs = signsOf(session, plan)
  const trials = trialsOf(session, plan)
  const shares = signs.map((s) => sharesOf(plan.candidates, s, trials))
  const pins: RollPin[] = plan.candidates.map((pin, i) => ({
    pin,
    does: found.signs
      .filter((s) => s.p >= 0.9 && s.pins.includes(pin))
      .map((s) => signNames[s.id as SignId])
      .join(', '),
    shares: shares.map((s) => s[i]?.p ?? 0),
    suspect: found.suspects.includes(pin),
  }))
  const pressed = new Set(inputsOf(session).flatMap((i) => i.pin ?? []))
  const drawn: DrawnPin[] = [...plan.candidates, ...plan.excluded.map((e) => e.pin)].sort(naturalOrder).map((pin) => {
    const known = pins.find((p) => p.pin === pin)
    return {
      pin,
      does: known?.does || (pressed.has(pin) ? 'button' : restWords[restOf(session, pin) ?? 'free']),
      sure: known?.does || pressed.has(pin) ? 'seen' : '',
      wrong: found.suspects.includes(pin),
      closed: known === undefined,
    }
  })
  return (
    <div className="flex items-center gap-6">
      <div className="hidden w-[15rem] shrink-0 md:block">
        <ModuleDrawing pins={drawn} chip={chip} chosen={null} lit={now ?? []} bare />
      </div>
      <TrialRoll
        signs={signs.map((s) => ({ id: s.id, name: signNames[s.id as SignId], kind: kindOf(s.id) }))}
        trials={trials}
        now={now}
        pins={pins}
      />
    </div>
  )
}
