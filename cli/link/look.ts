import { readBootLog } from '@fresh-coat/core/boot/boot-log'
import { hexOf, latin1 } from '@fresh-coat/core/bytes/text'
import { nobody } from '@fresh-coat/core/link/identity'
import { type Options, wholeOption } from '../options'
import { session } from './session'

/** Looking at a chip, and listening to it: nothing of it is read or written. */

/** What a chip in its loader says of itself. */
export const linkInfo = (options: Options): Promise<object> =>
  session(
    options,
    () => nobody,
    async ({ who }) => {
      const { die: _, ...found } = await who()
      return found
    },
  )

const seconds = { otherwise: 5, least: 1, most: 3600 }
const mostBytes = 1_000_000
/** Less than this is no time to wait for: sums of moments never come out even. */
const leastWaitMs = 0.5

/** Hears for some seconds what a unit says. Nothing is sent: a unit that works goes on working. */
export function linkConsole(options: Options): Promise<object> {
  const ms = wholeOption(options, 'seconds', seconds) * 1000
  return session(
    options,
    () => ({ bytes: 0, text: '', boot: null }),
    async ({ link, line, told }) => {
      told({ state: 'listening', retries: 0 })
      if (link.can.lines) await link.setLines({ dtr: false, rts: false })
      const heard: number[] = []
      const until = link.now() + ms
      for (let left = ms; left >= leastWaitMs && heard.length < mostBytes; left = until - link.now())
        for (const byte of await link.read(left)) heard.push(byte)
      const bytes = Uint8Array.from(heard)
      const boot = readBootLog({ bytesHex: hexOf(bytes), baud: line.rate })
      return { bytes: bytes.length, text: latin1(bytes), boot: boot.ok ? boot.value : null, findings: [] }
    },
  )
}
