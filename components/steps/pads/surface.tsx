'use client'
import { factsOf, isKnownFamily } from '@fresh-coat/core/families/families'
import { placesSeenFrom } from '@fresh-coat/core/pads/face'
import { pullUpOhms } from '@fresh-coat/core/pads/readings'
import { mostPads } from '@fresh-coat/core/pads/solve'
import { familyOf } from '@fresh-coat/core/steps/identify/facts'
import { padStateOf } from '@fresh-coat/core/steps/pads/facts'
import { type PadRole, padRoles } from '@fresh-coat/core/wiring/wiring'
import { useState } from 'react'
import { PadField } from '@/components/drawings/pad-field'
import { PhotoStage } from '@/components/drawings/photo-stage'
import { Choice, NumberField, SelectField, TextField, Tick } from '@/components/forms/fields'
import { amount, buttonClass, Key, percentOf, Tag } from '@/components/paint/paint'
import type { SurfaceProps } from '@/components/steps/context'
import { Block, StepHeading } from '@/components/steps/heading'
import { PadAdvice } from './pad-advice'
import { ReadingGrid } from './reading-grid'

const usualPitches = ['2.54', '2', '1.27'] as const

export function PadsSurface({ view, record, gates }: SurfaceProps<'pads'>) {
  const { data, patch } = record
  const [chosen, setChosen] = useState(0)
  const [placing, setPlacing] = useState(false)
  const family = familyOf(view)?.family ?? null
  const facts = family && isKnownFamily(family) ? factsOf(family) : null
  const { solution, faults, readings: count } = padStateOf(view)
  const n = data.pads.length
  const rows = Math.min(data.rows, Math.max(1, n))
  const places = placesSeenFrom(data.seenFrom, n, rows)
  const order = places.map((p) => p.index)
  const readings = Array.from({ length: n }, (_, i) => data.readings[i] ?? {})
  const photos = view.files.filter((f) => f.kind === 'photo')
  const onPhoto = data.onPhoto && photos.some((p) => p.id === data.onPhoto?.fileId) ? data.onPhoto : null

  /** A new pad stands last on the side that the person looks at: first in the kept row, when that is the solder side. */
  const resize = (by: 1 | -1) => {
    const atFront = data.seenFrom === 'bottom' && rows === 1
    const change = <T,>(list: readonly T[], blank: T): T[] =>
      by === 1 ? (atFront ? [blank, ...list] : [...list, blank]) : atFront ? list.slice(1) : list.slice(0, -1)
    const pads = change(data.pads, 'UNKNOWN' as const)
    patch({
      pads,
      readings: change(readings, {}),
      // Places on a photo are in the order of the pads: a pad put in front shifts them all, so they are placed anew.
      ...(data.onPhoto
        ? { onPhoto: { ...data.onPhoto, at: atFront ? [] : data.onPhoto.at.slice(0, pads.length) } }
        : {}),
    })
    setChosen(Math.min(chosen, Math.max(0, pads.length - 1)))
  }
  const solved = solution?.best.roles ?? null
  const differs = solved?.some((r, i) => r !== data.pads[i]) ?? false
  const take = () =>
    solved &&
    patch({
      pads: solved,
      ...(data.bootBy === null && solved.includes('BOOT') ? { bootBy: 'pad' as const } : {}),
    })

  return (
    <>
      <StepHeading title="Find the serial pads">
        Say how many there are, enter what the meter shows, and the row solves itself. Unpowered readings first; powered
        ones from 3.3 V on the bench, never on mains.
      </StepHeading>
      {gates}
      <div className="flex flex-wrap items-start gap-x-5 gap-y-3">
        <fieldset>
          <legend className="mb-1 text-[0.9rem] font-semibold text-ink-2">Pads</legend>
          <div className="flex items-center gap-1.5">
            <button type="button" className={buttonClass()} disabled={n === 0} onClick={() => resize(-1)}>
              <span aria-hidden="true">−</span>
              <span className="sr-only">One pad less</span>
            </button>
            <output className="pin min-w-[2.2rem] text-center text-[1.25rem] font-bold">{n}</output>
            <button type="button" className={buttonClass()} disabled={n >= mostPads} onClick={() => resize(1)}>
              <span aria-hidden="true">+</span>
              <span className="sr-only">Add a pad</span>
            </button>
          </div>
        </fieldset>
        <Choice
          label="In rows"
          value={String(data.rows)}
          options={['1', '2', '3'].map((r) => ({ value: r, label: r }))}
          onChange={(r) => patch({ rows: Number(r) })}
        />
        <Choice
          label="Pitch, mm"
          value={usualPitches.find((p) => Number(p) === data.pitchMm) ?? null}
          options={usualPitches.map((p) => ({ value: p, label: p }))}
          onChange={(p) => patch({ pitchMm: Number(p) })}
        />
        <NumberField
          label="another"
          unit="mm"
          min={0.3}
          max={10}
          value={data.pitchMm}
          onChange={(pitchMm) => patch({ pitchMm })}
          className="w-[7.5rem]"
        />
        <Choice
          label="You look at the"
          value={data.seenFrom}
          options={[
            { value: 'top', label: 'parts side' },
            { value: 'bottom', label: 'solder side' },
          ]}
          onChange={(seenFrom) => patch({ seenFrom })}
        />
      </div>
      {n >= mostPads && <p className="text-ink-2">Twelve pads are the most that can be solved together.</p>}
      {n === 0 ? (
        <p className="rounded-[10px] border border-dashed border-rule p-4 text-ink-2">
          No pad yet. Add as many as there are; which one is what follows from the readings.
        </p>
      ) : (
        <div className="grid gap-4 lg:grid-cols-[minmax(0,5fr)_minmax(0,4fr)]">
          <div className="grid content-start gap-2">
            <PadField
              pads={places.map(({ index }) => {
                const role = (solved?.[index] ?? data.pads[index] ?? 'UNKNOWN') as PadRole
                return {
                  index,
                  role,
                  sure: solution?.marginals[index]?.[role] ?? null,
                  square: readings[index]?.square ?? (count === 0 && index === 0),
                  label: readings[index]?.label ?? '',
                  conflict: solution?.conflicts.some((c) => c.pad === index) ?? false,
                }
              })}
              rows={rows}
              face={data.seenFrom}
              chosen={chosen}
              onChoose={setChosen}
            />
            {solution && (
              <div className="grid gap-1" aria-live="polite">
                <p className="flex flex-wrap items-center gap-2.5">
                  <Tag severity={solution.verdict === 'settled' ? 'ok' : 'watch'}>
                    {solution.verdict === 'settled' ? 'settled' : 'measure more'}
                  </Tag>
                  <span>
                    This row {percentOf(solution.best.p)}, next best{' '}
                    <span className="pin">
                      {solution.runnerUp.roles.map((r) => (r === 'UNKNOWN' ? '?' : r)).join(' ')}
                    </span>{' '}
                    {percentOf(solution.runnerUp.p)}, from {count} reading{count === 1 ? '' : 's'}.
                  </span>
                </p>
                <p className="flex flex-wrap items-center gap-2.5">
                  <Tag severity={solution.safeToWire ? 'ok' : 'watch'}>
                    {solution.safeToWire ? 'may be powered' : 'no power yet'}
                  </Tag>
                  <span>
                    {solution.safeToWire
                      ? 'GND and 3V3 are proven by the meter.'
                      : 'GND and 3V3 must each be 97 % sure, by the meter: swapping them destroys the part.'}
                  </span>
                </p>
                <button
                  type="button"
                  data-key="r"
                  className={`${buttonClass(differs && solution.verdict === 'settled' ? 'main' : 'plain')} justify-self-start`}
                  disabled={!differs}
                  onClick={take}
                >
                  {differs
                    ? solution.verdict === 'settled'
                      ? 'Take this row'
                      : 'Take this row as it stands'
                    : 'This row is taken'}
                  {differs && <Key>r</Key>}
                </button>
              </div>
            )}
            {count === 0 && view.board?.pads && (
              <p className="text-ink-2">
                The row is known from another unit of this board. One reading of GND and one of 3V3 are a good habit all
                the same.
              </p>
            )}
          </div>
          <PadAdvice solution={solution} faults={faults} />
        </div>
      )}
      {n > 0 && (
        <ReadingGrid
          readings={readings}
          order={order}
          marginals={solution?.marginals ?? null}
          faults={faults}
          next={solution?.next[0] ?? null}
          poweredAllowed={solution?.poweredAllowed ?? data.railKnown}
          chosen={chosen}
          onChoose={setChosen}
          onChange={(index, cell) => patch({ readings: readings.map((r, i) => (i === index ? cell : r)) as never })}
        />
      )}
      {n > 0 && (
        <p className="text-[0.9rem] text-ink-2 max-md:hidden">
          Arrows move, Enter goes down. 1 yes, 0 no, Backspace clears. <span className="pin">o</span> is open,{' '}
          <span className="pin">f</span> floats, <span className="pin">4k7</span> is read.
          {readings.map((r, i) => {
            const ohms = r.volts !== undefined && r.volts_10k !== undefined ? pullUpOhms(r.volts, r.volts_10k) : null
            return ohms !== null && (r.volts_10k ?? 0) / (r.volts || 1) < 0.95 ? (
              <span key={i}>
                {' '}
                Pad {i + 1} has a pull-up of about {amount(ohms / 1000, 1)} kΩ
                {ohms > 30_000 ? ', inside the chip' : ohms > 5000 ? ', a fitted resistor' : ''}.
              </span>
            ) : null
          })}
        </p>
      )}
      <div className="grid gap-3 sm:grid-cols-2">
        <Choice
          label="How BOOT is reached"
          value={data.bootBy}
          options={[
            { value: 'button', label: 'A button on it' },
            { value: 'pad', label: 'A pad in the row' },
            { value: 'none', label: 'Not at all' },
          ]}
          onChange={(bootBy) => patch({ bootBy })}
        />
        <TextField label="How you found them" value={data.note} maxLength={1000} onChange={(note) => patch({ note })} />
      </div>
      <div className="flex flex-wrap gap-x-6">
        <Tick
          label="A regulator takes 5 V on this row (seen on the board)"
          checked={data.regulator5v}
          onChange={(regulator5v) => patch({ regulator5v })}
        />
        <Tick
          label="3.3 V goes in at a proven point outside this row"
          checked={data.railKnown}
          onChange={(railKnown) => patch({ railKnown })}
        />
      </div>
      {n > 0 && (
        <details className="rounded-[10px] border border-rule p-3">
          <summary className="font-semibold">Set a role by hand</summary>
          <div className="mt-3 flex flex-wrap gap-3">
            {order.map((index) => (
              <SelectField
                key={index}
                label={`Pad ${index + 1}`}
                value={data.pads[index] ?? 'UNKNOWN'}
                options={padRoles.map((r) => ({ value: r, label: r === 'UNKNOWN' ? 'not known' : r }))}
                onChange={(r) => r && patch({ pads: data.pads.map((x, j) => (j === index ? r : x)) })}
                className="w-[8.2rem]"
              />
            ))}
          </div>
        </details>
      )}
      {photos.length > 0 && n > 0 && (
        <Block title="Where they lie on the photo">
          {onPhoto || placing ? (
            <>
              <Choice
                label="Photo"
                compact
                value={onPhoto?.fileId ?? null}
                options={photos.map((p, i) => ({
                  value: p.id,
                  label: `${i + 1} ${(p.tag ?? p.name).replaceAll('_', ' ')}`,
                }))}
                onChange={(fileId) => patch({ onPhoto: { fileId, at: onPhoto?.at ?? [] } })}
              />
              {onPhoto && (
                <PhotoStage
                  src={`/api/files/${onPhoto.fileId}?view`}
                  alt="Photo of the board"
                  chosen={onPhoto.at[chosen] ? String(chosen) : null}
                  onChoose={(id) => id !== null && setChosen(Number(id))}
                  placing={onPhoto.at.length < n ? `Pad ${onPhoto.at.length + 1}` : ''}
                  onPlace={(x, y) => patch({ onPhoto: { ...onPhoto, at: [...onPhoto.at, { x, y }] } })}
                  onMove={(id, x, y) =>
                    patch({ onPhoto: { ...onPhoto, at: onPhoto.at.map((p, i) => (i === Number(id) ? { x, y } : p)) } })
                  }
                  points={onPhoto.at.map((p, i) => {
                    const role = solved?.[i] ?? data.pads[i] ?? 'UNKNOWN'
                    return {
                      id: String(i),
                      ...p,
                      sign: role === 'UNKNOWN' ? String(i + 1) : role,
                      name: `Pad ${i + 1}: ${role === 'UNKNOWN' ? 'not known' : role}`,
                      shape: readings[i]?.square ? 'square' : 'round',
                    }
                  })}
                />
              )}
              <p className="text-ink-2">
                {onPhoto && onPhoto.at.length < n
                  ? `Click where pad ${onPhoto.at.length + 1} is.`
                  : onPhoto
                    ? 'Every pad has its place. Drag one, or move it by arrow keys.'
                    : 'Choose the photo that shows the pads.'}
              </p>
              {onPhoto && (
                <button
                  type="button"
                  className={`${buttonClass('quiet')} justify-self-start`}
                  onClick={() => patch({ onPhoto: null })}
                >
                  Take them off the photo
                </button>
              )}
            </>
          ) : (
            <button type="button" className={`${buttonClass()} justify-self-start`} onClick={() => setPlacing(true)}>
              Place them on a photo
            </button>
          )}
        </Block>
      )}
      {facts && (
        <p className="text-ink-2">
          {facts.family}: TX is {facts.uart.tx}, RX is {facts.uart.rx}. Strap: {facts.bootStrap}. Its text comes at{' '}
          <span className="pin">{facts.bootBaud}</span>.
        </p>
      )}
    </>
  )
}
