import type { UnitFile } from '@fresh-coat/core/unit/view'
import { Fact, shortMoment, Tag } from '@/components/paint/paint'

/** One kept read: its name, hash and bytes. */
export function Read({ file, aside }: { file: UnitFile; aside: (file: UnitFile) => void }) {
  return (
    <section className="grid gap-2">
      <dl>
        <Fact name="File">
          <span className="break-all" dir="auto">
            {file.name}
          </span>
        </Fact>
        <Fact name="SHA-256">
          <span className="pin break-all select-all">{file.sha256}</span>
        </Fact>
        <Fact name="Kept">
          <Tag severity="ok">private</Tag>{' '}
          {file.held === false ? (
            <>noted {shortMoment(file.createdAt)}; its bytes are on your disk only</>
          ) : (
            <>
              {shortMoment(file.createdAt)} ·{' '}
              <a className="underline underline-offset-4" href={`/api/files/${file.id}`}>
                Save it as it came
              </a>
            </>
          )}
        </Fact>
      </dl>
      <button type="button" className="justify-self-start underline underline-offset-4" onClick={() => aside(file)}>
        Put it aside: it is not this unit’s chip
      </button>
    </section>
  )
}
