'use client'
import { CommandForm } from '@/components/forms/command-form'
import { TextField, Tick } from '@/components/forms/fields'

interface BoardValues {
  [key: string]: unknown
  maker: string
  product: string
  revision: string
  mains: boolean
  fixedWiring: boolean
  hasMeter: boolean
  inPackageFlash: boolean
}
const empty: BoardValues = {
  maker: '',
  product: '',
  revision: '',
  mains: true,
  fixedWiring: false,
  hasMeter: false,
  inPackageFlash: false,
}

function Fields({ v, set }: { v: BoardValues; set: (change: Partial<BoardValues>) => void }) {
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-3">
        <TextField label="Maker" value={v.maker} maxLength={120} onChange={(maker) => set({ maker })} />
        <TextField label="Product" value={v.product} maxLength={120} onChange={(product) => set({ product })} />
        <TextField label="Revision" value={v.revision} maxLength={60} onChange={(revision) => set({ revision })} />
      </div>
      <div className="flex flex-wrap gap-x-6">
        <Tick label="Runs on mains" checked={v.mains} onChange={(mains) => set({ mains })} />
        <Tick
          label="Belongs into fixed wiring"
          checked={v.fixedWiring}
          onChange={(fixedWiring) => set({ fixedWiring })}
        />
        <Tick label="Has a power meter" checked={v.hasMeter} onChange={(hasMeter) => set({ hasMeter })} />
        <Tick
          label="Flash inside the chip’s package"
          checked={v.inPackageFlash}
          onChange={(inPackageFlash) => set({ inPackageFlash })}
        />
      </div>
    </>
  )
}

export function NewBoardForm() {
  return (
    <CommandForm
      command="create-board"
      empty={empty}
      submit="Name this board"
      disabled={(v) => !v.maker.trim() || !v.product.trim()}
    >
      {(v, set) => <Fields v={v} set={set} />}
    </CommandForm>
  )
}

export function EditBoardForm({ boardId, version, board }: { boardId: string; version: number; board: BoardValues }) {
  return (
    <CommandForm
      command="edit-board"
      empty={board}
      toInput={(v) => ({ boardId, version, ...v })}
      submit="Save"
      disabled={(v) => !v.maker.trim() || !v.product.trim()}
    >
      {(v, set) => <Fields v={v} set={set} />}
    </CommandForm>
  )
}
