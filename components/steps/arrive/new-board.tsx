import { TextField, Tick } from '@/components/forms/fields'
import { useKept } from '@/components/frame/frame-context'
import { buttonClass } from '@/components/paint/paint'
import { send } from '@/components/send'
import type { SurfaceProps } from '@/components/steps/context'

const blank = { maker: '', product: '', revision: '', mains: true, fixedWiring: false, hasMeter: false }

/** A board nobody has seen here: what is printed on its case. */
export function NewBoard({ view, act }: Pick<SurfaceProps<'arrive'>, 'view' | 'act'>) {
  const [b, setB] = useKept('new board', blank)
  const create = async () => {
    const made = await send('create-board', b)
    // A board that exists already is refused in words: the same command says so on the page.
    if (made.state === 'ok') await act('edit-unit', { unitId: view.id, version: view.version, boardId: made.value.id })
    else await act('create-board', b)
  }
  const tick = (label: string, key: 'mains' | 'fixedWiring' | 'hasMeter') => (
    <Tick label={label} checked={b[key]} onChange={(on) => setB({ ...b, [key]: on })} />
  )
  return (
    <div className="grid gap-3">
      <TextField label="Maker" value={b.maker} maxLength={120} onChange={(maker) => setB({ ...b, maker })} />
      <TextField label="Product" value={b.product} maxLength={120} onChange={(product) => setB({ ...b, product })} />
      <TextField label="Revision" value={b.revision} maxLength={60} onChange={(revision) => setB({ ...b, revision })} />
      <div>
        {tick('Runs on mains', 'mains')}
        {tick('Belongs into fixed wiring', 'fixedWiring')}
        {tick('Has a power meter', 'hasMeter')}
      </div>
      <button
        type="button"
        className={`${buttonClass('plain')} justify-self-start`}
        disabled={!b.maker.trim() || !b.product.trim()}
        onClick={() => void create()}
      >
        Name this board
      </button>
    </div>
  )
}
