'use client'
import { bootAdvice } from '@fresh-coat/core/boot/boot-log'
import { bootOf } from '@fresh-coat/core/steps/start/facts'
import { AreaField, Choice, Tick } from '@/components/forms/fields'
import { Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'

const good = new Set(['flash_boot', 'app_text'])

export function StartSurface({ view, record, gates }: SurfaceProps<'start'>) {
  const { data, patch } = record
  const boot = bootOf(view)
  const last = boot?.lines.at(-1)
  return (
    <>
      <StepHeading title="See it start">
        Power off, free BOOT, power on from 3.3 V, and listen on its TX. A unit that sits in its loader only looks dead.
      </StepHeading>
      {gates}
      <Tick
        label="The jumper is off and no button holds BOOT"
        checked={data.strapFree}
        onChange={(strapFree) => patch({ strapFree })}
      />
      <AreaField
        label="Boot text, as the console shows it"
        value={data.log}
        maxLength={200_000}
        rows={8}
        placeholder="Paste what the console printed through the reset"
        onChange={(log) => patch({ log })}
      />
      {boot && (
        <div className="grid gap-2" aria-live="polite">
          <p className="flex flex-wrap items-center gap-2.5">
            <Tag severity={good.has(boot.verdict) ? 'ok' : 'error'}>{boot.verdict.replaceAll('_', ' ')}</Tag>
            <strong>{good.has(boot.verdict) ? 'It runs what is in its flash.' : bootAdvice[boot.verdict]}</strong>
          </p>
          <p className="text-ink-2">
            {boot.boots} boot line{boot.boots === 1 ? '' : 's'}
            {last
              ? `, the last from ${last.family.replaceAll('_', ' ')}: ${last.cause.replaceAll('_', ' ')}, mode ${last.mode}`
              : ''}
            . {Math.round(boot.printable * 100)} % of it is text.
          </p>
          {last && (
            <p className="flex flex-wrap gap-2">
              {Object.entries(last.strap).map(([pin, level]) => (
                <span key={pin} className="pin rounded-[6px] border border-rule bg-sheet-2 px-2 py-0.5">
                  {pin} {level ? 'high' : 'low'}
                </span>
              ))}
            </p>
          )}
        </div>
      )}
      <Block title="Or seen another way">
        <Choice
          label="How"
          value={data.seenBy}
          options={[
            { value: 'boot text', label: 'Boot text above' },
            { value: 'access point', label: 'Its access point is there' },
            { value: 'light or click', label: 'A light or a click' },
          ]}
          onChange={(seenBy) => patch({ seenBy })}
        />
      </Block>
    </>
  )
}
