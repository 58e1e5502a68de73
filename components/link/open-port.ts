import type { OpenPort } from './desk'
import { type BrowserPort, serialHere, WebSerialLink } from './web-serial'

/** Asks for a port of the browser, in a person's press; null where they chose none. */
export async function askPort(): Promise<OpenPort | null> {
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
