'use client'
import { Dialog } from 'radix-ui'
import teach from './teach.json'

const keys: [string, string][] = [
  ['/', 'Find a unit, pad, file'],
  ['.', 'Go on with the next step'],
  ['Space', 'Done, or the one next action'],
  ['1 to 9, 0', 'Answer the card'],
  ['g', 'Confirm the gate in front of this step'],
  ['v', 'The same in words, or as a drawing'],
  ['k', 'What’s known of this unit'],
  ['f', 'Bench view: one instruction at a time, large'],
  ['t', 'Trouble: what is wrong, what to ask next'],
  ['w', 'A tool’s words: paste what it printed'],
  ['u', 'Undo the last change'],
  ['n', 'A new unit; at a step, into the field, or the file it waits for'],
  ['r', 'Reopen a step that is done'],
  ['[ and ]', 'The unit before, the unit after'],
  ['e', 'Evening theme, and back'],
  ['?', 'These keys'],
]

/** What this page is for and what to do first: by its room, or by its step. */
function taught(path: string): readonly string[] {
  const words = teach as { [where: string]: string[] }
  const [, room = '', , step = ''] = path.split('/')
  return words[step] ?? words[`/${room}`] ?? []
}

/** What this page is for, and all keys. */
export function KeysHelp({ path, onOpenChange }: { path: string; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog.Root open onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className="sheet fixed top-[5vh] left-1/2 z-50 max-h-[90vh] w-[min(34rem,94vw)] -translate-x-1/2 overflow-y-auto p-5"
        >
          <Dialog.Title className="mb-2 text-[1.25rem]">Keys</Dialog.Title>
          {taught(path).map((line) => (
            <p key={line} className="mb-2">
              {line}
            </p>
          ))}
          <dl>
            {keys.map(([key, what]) => (
              <div key={key} className="grid grid-cols-[6rem_1fr] border-b border-rule-2 py-1">
                <dt className="pin font-semibold">{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close className="mt-4 rounded-[9px] border border-ink px-4 py-2 font-semibold">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
