import type { UnitView } from '@fresh-coat/core/unit/view'
import { buttonClass } from '@/components/paint/paint'
import { desk } from './desk'
import { deskStore, isBusy } from './desk-store'
import { entersByLines } from './of-unit'
import { askPort } from './open-port'
import { useDesk } from './use-desk'
import { useUnable } from './use-unable'

/** What the line to this unit is worth: asked for by hand, kept with the adapter. */
export function MeasureLine({
  view,
  act,
  gated,
}: {
  view: UnitView
  act: (command: string, input: Record<string, unknown>) => Promise<boolean>
  /** The gate in front of work at the pads is not confirmed. */
  gated: boolean
}) {
  const state = useDesk(deskStore)
  const mine = state.unitId === view.id && state.what === 'measure'
  const unable = useUnable(view, state, mine)
  const { adapter } = view
  const begin = async () => {
    const open = await askPort()
    if (!open) return
    await desk.measure({
      unitId: view.id,
      open,
      byLines: entersByLines(view),
      note: async ({ latencyMs, bestRate }, { family }) => {
        if (adapter && family) await act('note-line', { kitId: adapter.id, measured: { latencyMs, bestRate, family } })
      },
    })
  }
  if (unable) return <p>{unable}</p>
  return (
    <>
      <p>
        Two hundred answers at each rate, from a chip in its loader: how long one waits in the adapter, and the highest
        rate that holds. Nothing of the flash is read or written.
      </p>
      {mine && isBusy(state) ? (
        <div className="grid justify-items-start gap-2" role="status">
          <p>
            {state.phase === 'calling'
              ? `It is called at ${state.rate} baud: bring it into download mode.`
              : `Trying the line${state.retries > 0 ? `, ${state.retries} asked again` : ''}…`}
          </p>
          <button type="button" className={buttonClass('plain')} onClick={() => desk.stop()}>
            Stop
          </button>
        </div>
      ) : (
        <>
          {mine && state.ended && (
            <p role="status">
              <strong>{state.ended.words}</strong>{' '}
              {state.ended.good &&
                (adapter ? `Kept with ${adapter.name}.` : 'No adapter is named at Wire: it is kept nowhere.')}
            </p>
          )}
          <button
            type="button"
            className={`${buttonClass('main')} justify-self-start`}
            disabled={gated}
            onClick={() => void begin()}
          >
            {mine && state.ended ? 'Measure it again' : 'Measure the line'}
          </button>
          {gated && <p className="text-ink-2">First the gate: the unit is off the mains.</p>}
        </>
      )}
    </>
  )
}
