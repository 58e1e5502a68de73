import { utf8 } from '../bytes/text'
import { type Finding, finding } from '../edge/finding'

/** What a network's name and password may be, and which of them make trouble on the way into a unit (brief 05 §1). */

const mostSsidBytes = 32
const quotes = /["'`]/
/** Characters that mean something else in an address or on a console line. */
const meaningful = /[\\%&+#]/
const printable = /^[\x20-\x7e]*$/
const rawKey = /^[0-9a-f]{64}$/i

const say = (code: string, severity: Finding['severity'], message: string, next = ''): Finding =>
  finding(code, severity, message, '', next)

/** What speaks against the name of a network; nothing where it is empty, since then none is meant. */
export function ssidFindings(ssid: string): Finding[] {
  if (ssid === '') return []
  const bytes = utf8(ssid).length
  return [
    ...(bytes > mostSsidBytes
      ? [say('range', 'error', `Its name has ${bytes} bytes: at most ${mostSsidBytes} are possible.`)]
      : []),
    ...(ssid.trim() !== ssid
      ? [say('ssid-space', 'watch', 'Its name begins or ends with a space: some setup pages cut it off.')]
      : []),
    ...(quotes.test(ssid) ? [say('ssid-quote', 'watch', 'There is a quotation mark in its name.')] : []),
    ...(printable.test(ssid)
      ? []
      : [
          say(
            'ssid-letters',
            'watch',
            'Its name holds letters beyond plain ASCII: a unit may send other bytes for them.',
          ),
        ]),
  ]
}

/**
 * What speaks against the password of a network.
 * @param escaped it is sent in an address or on a console line, where some characters mean something else
 */
export function passwordFindings(password: string, escaped = true): Finding[] {
  if (rawKey.test(password)) return []
  const fits = password.length >= 8 && password.length <= 63 && printable.test(password)
  if (!fits)
    return [
      say(
        'range',
        'error',
        printable.test(password)
          ? `It has ${password.length} characters: 8 to 63 are possible, or exactly 64 hex digits.`
          : 'It holds letters beyond plain ASCII: no network takes them.',
      ),
    ]
  const found: Finding[] = []
  if (password.trim() !== password)
    found.push(say('password-space', 'watch', 'It begins or ends with a space: some setup pages cut it off.'))
  if (escaped && (quotes.test(password) || meaningful.test(password)))
    found.push(
      say(
        'password-marks',
        'watch',
        'It holds marks that mean something else on the way into a unit.',
        `In an address it is sent as ${encodeURIComponent(password)}.`,
      ),
    )
  return found
}
