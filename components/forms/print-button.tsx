'use client'
import { buttonClass } from '@/components/paint/paint'

export function PrintButton() {
  return (
    <button type="button" className={buttonClass('main')} onClick={() => window.print()}>
      Print
    </button>
  )
}

/** Saves the drawing inside the element `from` as an SVG file of its own, with the paints of the day theme written in. */
export function SaveSvg({ from, name }: { from: string; name: string }) {
  const save = () => {
    const svg = document.querySelector<SVGSVGElement>(`#${from} svg`)
    if (!svg) return
    const style = getComputedStyle(document.documentElement)
    const text = new XMLSerializer()
      .serializeToString(svg)
      .replaceAll(/var\((--[a-z0-9-]+)\)/g, (_, paint: string) => style.getPropertyValue(paint).trim() || 'black')
    const link = document.createElement('a')
    link.href = URL.createObjectURL(new Blob([text], { type: 'image/svg+xml' }))
    link.download = name
    link.click()
    URL.revokeObjectURL(link.href)
  }
  return (
    <button type="button" className={buttonClass('plain')} onClick={save}>
      Save as SVG
    </button>
  )
}
