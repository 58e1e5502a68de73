import type { OpenPort } from './desk-base'
import { FieldLink } from './field-link'
import { wayNow } from './way'
import { type BrowserPort, serialHere, WebSerialLink } from './web-serial'

/** The port to work over: the one that was set, or, in a person's press, one of the browser's; null where they chose none. */
export async function askPort(): Promise<OpenPort | null> {
  const way = wayNow()
  if (way.kind !== 'browser') return (rate) => FieldLink.open(way, rate)
  const here = serialHere()
  if (!('serial' in here)) return null
  try {
    return openerOf(await here.serial.requestPort())
  } catch {
    // The browser's own dialog was closed without a choice.
    return null
  }
}

/** Opens this port at a rate. */
export const openerOf =
  (port: BrowserPort): OpenPort =>
  (rate) =>
    WebSerialLink.open(port, rate)
