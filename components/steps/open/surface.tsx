'use client'
import { finding } from '@fresh-coat/core/edge/finding'
import { dischargeOf } from '@fresh-coat/core/open/isolation'
import { missingPhotos, moduleComesOff, openFindings } from '@fresh-coat/core/steps/open/conditions'
import { dischargeWait, isolationOf } from '@fresh-coat/core/steps/open/facts'
import { OpeningDrawing } from '@/components/drawings/opening-drawing'
import { PhotoMarks } from '@/components/drawings/photo-marks'
import { Questions, Standing } from '@/components/frame/card'
import { StepSheet } from '@/components/frame/sheet'
import { Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { handwork } from '@/components/steps/handwork'
import { HazardFields, IsolationFields, nextOut, openAsks, TerminalFields } from './asks'
import { Photos } from './photos'
import { LooseParts, OpeningHelp, PlanEditor } from './plan'

type Props = SurfaceProps<'open'>

/** Isolated or not, and why; what nobody knows is treated as live. */
function Isolation({ view }: Pick<Props, 'view'>) {
  if (view.board?.mains === false) return null
  const isolation = isolationOf(view)
  return (
    <p className="flex gap-2.5">
      <Tag severity={isolation.verdict === 'isolated' ? 'ok' : 'watch'}>{isolation.verdict}</Tag>
      <span>
        {isolation.reasons.join('; ')}.
        {isolation.verdict !== 'isolated' &&
          ' Every pad, wire and added sensor is live when plugged in: no touchable metal, no connector brought out, never an earthed instrument or USB on it.'}
      </span>
    </p>
  )
}

/** How long the capacitors hold their charge, in words; what no number can be is said. */
function waitWords({ view, record: { data } }: Props): string {
  if (view.board?.mains === false) return ''
  const discharge = data.capacitorUf === null ? null : dischargeOf(data.capacitorUf, data.bleederOhms, view.mainsVolts)
  if (discharge && 'message' in discharge) return discharge.message
  const wait = `Wait at least ${Math.ceil(dischargeWait(view))} s after unplugging, then measure; never short a capacitor with a tool.`
  if (!discharge) return wait
  return `It falls to 30 V in ${discharge.seconds.toFixed(1)} s and holds ${discharge.joules.toFixed(3)} J. ${wait}`
}

/** A case on its way open: what comes out next, what has to be written down before. */
export function OpenSurface(props: Props) {
  const { view, record, act, assessment } = props
  const { data, patch } = record
  const photos = view.files.filter((f) => f.kind === 'photo')
  const here = assessment.steps.find((s) => s.id === 'open')
  const toggle = (id: string) =>
    patch({ taken: data.taken.includes(id) ? data.taken.filter((x) => x !== id) : [...data.taken, id] })
  return (
    <StepSheet
      title="Open it, and be able to close it again"
      say={waitWords(props)}
      drawing={
        <OpeningDrawing
          items={data.fasteners}
          taken={data.taken}
          next={nextOut(record)?.id ?? null}
          onToggle={toggle}
          terminals={data.noTerminals ? null : data.terminals}
          terminalFields={<TerminalFields record={record} />}
        />
      }
      findings={openFindings(view).map((f) => finding(f.code, f.severity, f.message, f.because, f.next))}
      verdict={<Isolation view={view} />}
      card={<Questions asks={openAsks(props)} rest={<Standing conditions={here?.conditions ?? []} />} />}
      more={[
        { name: 'Correct the plan', content: <PlanEditor record={record} /> },
        {
          id: 'parts',
          name: `Loose parts${data.parts.length > 0 ? `: ${data.parts.length}` : ''}`,
          content: <LooseParts record={record} />,
        },
        {
          id: 'photos',
          name: `Photos${photos.length > 0 ? `: ${photos.length}` : ''}`,
          wide: true,
          content: (
            <>
              <Photos view={view} wanted={missingPhotos(view)} act={act} />
              {photos.length > 0 && (
                <PhotoMarks photos={photos} marks={data.marks} onChange={(marks) => patch({ marks })} />
              )}
            </>
          ),
        },
        data.hazards.length > 0 && {
          id: 'hazards',
          name: `What can hurt: ${data.hazards.length}`,
          wide: true,
          content: <HazardFields view={view} record={record} />,
        },
        moduleComesOff(view) && handwork('off'),
        view.board?.mains !== false && { name: 'Isolation, all questions', content: <IsolationFields {...record} /> },
        { name: 'It does not come apart', content: <OpeningHelp /> },
      ]}
    />
  )
}
