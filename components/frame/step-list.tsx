import type { AssessedStep } from '@fresh-coat/core/unit/assess'
import { coats, type StepId, steps } from '@fresh-coat/core/unit/way'
import { coatPaint, Tag } from '@/components/paint/paint'
import { StepLink } from './step-link'

const sign: Record<AssessedStep['state'], string> = {
  done: '✓',
  decided: '✓',
  skipped: '–',
  stale: '!',
  'in hand': '',
  todo: '',
}
const isSettled = (state: AssessedStep['state']) => state === 'done' || state === 'decided'

function boxClass(state: AssessedStep['state']): string {
  if (isSettled(state)) return 'border-verdigris bg-verdigris text-on-paint'
  if (state === 'stale') return 'border-ochre-line bg-ochre-soft text-ochre'
  return state === 'in hand' ? 'hatch border-ink' : 'border-rule bg-sheet'
}

function StepItem({ number, title, step, here }: { number: number; title: string; step: AssessedStep; here: boolean }) {
  return (
    <li>
      <StepLink
        number={number}
        step={step.id}
        aria-current={here ? 'step' : undefined}
        className={`flex min-h-[1.8rem] items-center gap-2.5 rounded-[9px] px-2 leading-tight lg:min-h-[1.72rem] ${here ? 'border-2 border-ink bg-sheet font-semibold' : 'border-2 border-transparent hover:bg-sheet/60'} ${step.state === 'skipped' ? 'text-ink-3' : ''}`}
      >
        <span
          aria-hidden="true"
          className={`pin grid size-[17px] shrink-0 place-items-center rounded-[4px] border text-[0.72rem] font-bold ${boxClass(step.state)}`}
        >
          {sign[step.state]}
        </span>
        <span className="flex-1">{title}</span>
        <span className="sr-only">, {step.state}</span>
        {step.state === 'stale' && <Tag severity="watch">stale</Tag>}
      </StepLink>
    </li>
  )
}

/** All steps under their coats, with how each stands. */
export function StepList({ number, step, steps: assessed }: { number: number; step: StepId; steps: AssessedStep[] }) {
  return (
    <nav aria-label="Steps" className="no-print">
      {coats.map((coat) => (
        <div key={coat.id} className="mb-1.5">
          <p className="flex items-center gap-2 px-2 font-title text-[0.85rem] font-semibold text-ink-2">
            <span className="h-2 w-3.5 rounded-[2px]" style={{ background: coatPaint[coat.id] }} aria-hidden="true" />
            {coat.name}
          </p>
          <ul>
            {steps
              .filter((s) => s.coat === coat.id)
              .map((s) => (
                <StepItem
                  key={s.id}
                  number={number}
                  title={s.title}
                  step={assessed.find((a) => a.id === s.id) as AssessedStep}
                  here={s.id === step}
                />
              ))}
          </ul>
        </div>
      ))}
    </nav>
  )
}
