/** The local day, as gates and due dates count it. */
export const localDay = (now = new Date()): string =>
  `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, '0')}-${String(now.getDate()).padStart(2, '0')}`

let zoneNow: { tz: string | undefined; zone: string } | null = null

/** The time zone in which `localDay` counts. To ask for it takes as long as a read of the database, and it changes with TZ only. */
export function localZone(): string {
  const tz = process.env.TZ
  if (!zoneNow || zoneNow.tz !== tz) zoneNow = { tz, zone: Intl.DateTimeFormat().resolvedOptions().timeZone }
  return zoneNow.zone
}

/** A case number as it is spoken of: 07. */
export const two = (n: number): string => String(n).padStart(2, '0')
