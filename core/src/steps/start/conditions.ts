import { type Condition, must } from '../../unit/condition'
import type { UnitView } from '../../unit/view'
import { bootOf, startLooks } from './facts'

/** What must hold before this step is done; gates are asked apart. */
export const conditions = (view: UnitView): Condition[] => {
  const boot = bootOf(view)
  const { seenBy, strapFree } = startLooks(view)
  const talks = boot?.verdict === 'flash_boot' || boot?.verdict === 'app_text'
  const wired = view.route !== 'ready-flashed'
  return [
    must(
      talks || seenBy === 'access point' || seenBy === 'light or click',
      talks ? 'The boot text shows it starting.' : `Seen starting: ${seenBy}.`,
      boot ? `The boot text says: ${boot.verdict.replaceAll('_', ' ')}.` : 'It has not been seen starting.',
      'Paste the boot text, or say how you saw it.',
    ),
    ...(wired
      ? [
          must(
            strapFree,
            'BOOT is free again.',
            'The jumper or button may still hold BOOT.',
            'Take the jumper off, then power off and on.',
          ),
        ]
      : []),
  ]
}
