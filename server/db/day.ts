/** The local day, as gates and due dates count it. */
export const localDay = (now = new Date()): string =>
  `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, '0')}-${String(now.getDate()).padStart(2, '0')}`

/** The time zone in which `localDay` counts. */
export const localZone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone

/** A case number as it is spoken of: 07. */
export const two = (n: number): string => String(n).padStart(2, '0')
