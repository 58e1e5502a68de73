import { settled } from '@fresh-coat/core/behaviour/definition'
import { renderSettings } from '@fresh-coat/core/profile/settings'
import { behaviourOf } from '@fresh-coat/core/steps/behaviour/facts'
import { CopyText } from '@/components/forms/copy-text'
import Link from '@/components/link'
import type { SurfaceProps } from '@/components/steps/context'

/** The settings of this unit in the words of its firmware: one paste, in order, with what it cannot say. */
export function SettingSheet({ view, choices }: Pick<SurfaceProps<'behaviour'>, 'view' | 'choices'>) {
  const { firmware } = view.records.check.data
  const phrases = choices.profiles.find((p) => p.name === firmware)?.phrases ?? null
  const here = behaviourOf(view)
  if (!here) return <p>There is no pin template yet.</p>
  if (!phrases)
    return (
      <p>
        {firmware ? `${firmware} has no phrases yet` : 'Nobody has said which firmware it runs'}: its words are kept
        under{' '}
        <Link href="/images/firmware" className="underline underline-offset-4">
          Firmware
        </Link>
        .
      </p>
    )
  const shown = renderSettings(phrases, { template: here.template, behaviour: settled(here.def), connection: null })
  if (!shown.ok)
    return (
      <p className="text-oxide" role="alert">
        Its phrase {shown.faults[0]?.path.replace('/profile/phrases/', '')} cannot be filled: {shown.faults[0]?.message}
        . It is changed under Firmware; nothing is lost.
      </p>
    )
  const { text, notExpressible, problems } = shown.value
  return (
    <div className="grid gap-3">
      <p className="text-ink-2">
        For {firmware}, {phrases.form === 'checklist' ? 'to tick off in this order' : 'to paste in this order'}.
      </p>
      <CopyText text={text} />
      {notExpressible.length > 0 && (
        <p className="text-ochre">
          {firmware} has no words for {notExpressible.map((n) => `${n.key} (${n.on})`).join(', ')}: set these in the
          hub, or add a phrase.
        </p>
      )}
      {problems.map((p) => (
        <p key={p.line} className="text-ochre">
          Line {p.line} has {p.length} of {p.max} characters: it may be cut off.
        </p>
      ))}
    </div>
  )
}
