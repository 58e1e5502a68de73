import { buttonClass } from '@/components/paint/paint'

/** Before something that can hurt is sent: what it is, a deliberate press, and the way out. */
export function SureFirst({
  why,
  go,
  leave,
  children,
}: {
  why: string
  go: () => void
  leave: () => void
  children: string
}) {
  return (
    <div role="alertdialog" aria-label="Are you sure?" className="grid gap-2 rounded-[10px] border-2 border-oxide p-3">
      <p className="font-semibold">{why}</p>
      <span className="flex flex-wrap gap-2">
        <button type="button" className={buttonClass('main')} onClick={go}>
          {children}
        </button>
        <button type="button" className={buttonClass('quiet')} onClick={leave}>
          Leave it
        </button>
      </span>
    </div>
  )
}
