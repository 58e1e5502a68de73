import { create } from 'qrcode'

/** A code that a camera reads: level M, four modules of quiet around it (brief 05 §7). */
export interface QrCode {
  /** Modules on a side, the quiet zone counted. */
  size: number
  /** One path of its dark modules, in modules. */
  path: string
}
const quiet = 4

export function qrOf(text: string): QrCode {
  const { modules } = create(text, { errorCorrectionLevel: 'M' })
  let path = ''
  for (let y = 0; y < modules.size; y++)
    for (let x = 0; x < modules.size; x++) if (modules.get(y, x)) path += `M${x + quiet} ${y + quiet}h1v1h-1z`
  return { size: modules.size + 2 * quiet, path }
}
