import type { Finding } from '@fresh-coat/core/edge/finding'

/** What speaks against what is typed in a field, below it; nothing where nothing does. */
export function Sayings({ of }: { of: readonly Finding[] }) {
  return of.map((f) => (
    <span key={f.code} className={`block ${f.severity === 'error' ? 'font-semibold text-oxide' : 'text-ochre'}`}>
      {f.message} {f.next}
    </span>
  ))
}
