/**
 * A saying as it stands within a sentence: "To 3.3 V" as "to 3.3 V". Only its beginning is made small, since units and names of
 * signals mean something else in small letters; and not even that where its first word is such a name: BOOT, Wi-Fi, 3V3.
 */
export function within(saying: string): string {
  const [first = ''] = saying.split(/[\s,:;]/)
  return /[A-Z0-9]/.test(first.slice(1)) ? saying : `${saying.charAt(0).toLowerCase()}${saying.slice(1)}`
}
