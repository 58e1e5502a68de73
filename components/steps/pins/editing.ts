import type { KnownFamily } from '@fresh-coat/core/families/families'
import { changedPin, type PinTemplate, StoredTemplate, type TemplatePin } from '@fresh-coat/core/pins/template'
import type { SurfaceProps } from '@/components/steps/context'

type Props = Pick<SurfaceProps<'pins'>, 'view' | 'record'>

/** Changes of the template as the record takes them. */
export function editing({ view, record: { data, patch } }: Props, family: KnownFamily) {
  const board = view.board?.name || `unit ${view.number}`
  const start: PinTemplate = { format: 'fresh-coat/pin-template', version: 1, board, family, pins: [] }
  const pins = data.template?.pins ?? []
  const put = (next: TemplatePin[]) => patch({ template: { ...(data.template ?? start), pins: next } })
  const change = (pin: string, to: Partial<TemplatePin>) =>
    put(
      pins.some((p) => p.pin === pin)
        ? pins.map((p) => (p.pin === pin ? changedPin(p, to) : p))
        : [...pins, { pin, fn: 'relay', ...to }],
    )
  return {
    pins,
    change,
    /** What a template begins as. */
    empty: start,
    replace: (template: PinTemplate) => patch({ template }),
    /** Several pins at once. */
    changeAll: (all: readonly [pin: string, to: Partial<TemplatePin>][]) =>
      put(pins.map((p) => changedPin(p, all.find(([pin]) => pin === p.pin)?.[1] ?? {}))),
    /** Adds pins beside those that are there. */
    take: (more: TemplatePin[]) => put([...pins, ...more.filter((m) => !pins.some((p) => p.pin === m.pin))]),
    remove: (pin: string) => put(pins.filter((p) => p.pin !== pin)),
    /** It was seen doing its work in this sitting, or it did something else. */
    see: (pin: TemplatePin, agrees: boolean) => {
      const mine = { unit: String(view.number), sitting: `s${data.sitting}` }
      const rest = (pin.evidence ?? []).filter((e) => e.unit !== mine.unit || e.sitting !== mine.sitting)
      change(pin.pin, { evidence: [...rest, { ...mine, agrees }] })
    },
    /** Takes a template from text: copied knowledge starts as assumed, its evidence is of another board. */
    bring: (text: string): string | null => {
      let given: unknown
      try {
        given = JSON.parse(text)
      } catch {
        return 'This is not JSON. Nothing was changed.'
      }
      const parsed = StoredTemplate.safeParse(given)
      if (!parsed.success) return parsed.error.issues[0]?.message ?? 'This is not a pin template'
      const bare = parsed.data.pins.map(({ evidence: _, confidence: __, ...p }) => p)
      patch({ template: { ...parsed.data, board: view.board?.name || parsed.data.board, pins: bare } })
      return null
    },
  }
}
export type Editing = ReturnType<typeof editing>
