import type { Page } from '@playwright/test'
import { buildSync } from 'esbuild'

/** Puts a virtual chip behind the serial port of a browser: the page asks for a port, and is given this one. */

const script = () =>
  buildSync({
    stdin: {
      contents: `
        import { ChipSpec } from '@/standins/chip/chip-spec'
        import { VirtualPort } from '@/standins/chip/browser-port'
        let port = null
        globalThis.virtualPort = { put: (spec, stands) => (port = new VirtualPort(ChipSpec.parse(spec), stands)), get port() { return port } }
        globalThis.virtualPort.put(globalThis.virtualSpec)
        Object.defineProperty(navigator, 'serial', { value: { requestPort: async () => port } })
      `,
      resolveDir: process.cwd(),
      loader: 'ts',
    },
    bundle: true,
    write: false,
    format: 'iife',
    tsconfig: 'tsconfig.json',
  }).outputFiles[0]?.text ?? ''

let built: string | null = null

/** @param spec a chip as its file describes it */
export async function plugIn(page: Page, spec: object): Promise<void> {
  built ??= script()
  await page.addInitScript({ content: `globalThis.virtualSpec = ${JSON.stringify(spec)};${built}` })
}

/** Hands at the virtual module. */
export const hands = (page: Page, what: 'hold' | 'free' | 'off' | 'on' | 'unplug') =>
  page.evaluate((act) => {
    const { port } = (globalThis as unknown as { virtualPort: { port: VirtualPortHere } }).virtualPort
    if (act === 'hold' || act === 'free') port.hold(act === 'hold' ? 'held' : 'free')
    else if (act === 'unplug') port.unplug()
    else port.power(act === 'on')
  }, what)
interface VirtualPortHere {
  hold(strap: 'held' | 'free'): void
  power(on: boolean): void
  unplug(): void
}

/** Another chip behind the port, with these bytes of the vault in its flash. */
export const plugInWith = (page: Page, spec: object, fileId: string) =>
  page.evaluate(
    async ([chip, id]) => {
      const bytes = new Uint8Array(await (await fetch(`/api/files/${id}`)).arrayBuffer())
      const { virtualPort } = globalThis as unknown as { virtualPort: { put(spec: object, stands: Uint8Array): void } }
      virtualPort.put(chip, bytes)
    },
    [spec, fileId] as const,
  )
