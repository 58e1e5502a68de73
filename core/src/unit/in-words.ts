/** Names and values of records in words, for people who have to choose between two of them. */

const own: Record<string, string> = {
  apMac: 'MAC of its access point',
  mac: 'MAC as a station',
  log: 'the boot text',
  logHex: 'the captured bytes',
  logBaud: 'the rate it was read at',
  ratedAmps: 'the rated current',
  ratings: 'its markings',
  rawMap: 'its raw values',
  mainsVolts: 'the supply voltage',
  paid: 'what was paid',
  ties: 'the ties that are made',
  oneRun: 'whether it was read and written in one run',
  seller: 'where it was bought',
  lot: 'the lot',
  refit: 'what was measured before power',
  byParts: 'whether it is written by parts',
  set: 'the files of the set',
  loadWatts: 'what it will carry',
  pitchMm: 'the pitch',
  onPhoto: 'where the pads lie on the photo',
  fileId: 'the image',
  hazards: 'what can hurt in it',
  hazardsLooked: 'whether somebody looked for what can hurt',
  moduleOff: 'whether the module is off',
  moduleBack: 'whether the module is in its place',
  adapterId: 'the adapter',
  moduleId: 'the module',
  contacts: 'the contacts of the module',
  rowGap: 'how far apart the rows are',
  hubId: 'the hub',
  instrumentId: 'the reference meter',
}

/** "the load kind" for `loadKind`: what a field of a record is called on the page. */
export const fieldInWords = (field: string): string =>
  (Object.hasOwn(own, field) ? own[field] : undefined) ??
  `the ${field.replaceAll(/([a-z0-9])([A-Z])/g, '$1 $2').toLowerCase()}`

const longest = 120
const cut = (text: string) => (text.length > longest ? `${text.slice(0, longest - 1)}…` : text)

function shortOf(value: unknown): string {
  if (value === null || value === undefined || value === '') return 'nothing'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'string') return value
  if (typeof value === 'number') return String(value)
  if (Array.isArray(value)) return value.length === 0 ? 'nothing' : value.map(shortOf).join(', ')
  return Object.entries(value as object)
    .filter(([, v]) => v !== null && v !== undefined && v !== '')
    .map(([k, v]) => `${fieldInWords(k).replace(/^the /, '')} ${shortOf(v)}`)
    .join(', ')
}

/** A value in words, of at most 120 letters: lists by their entries, records by their fields, nothing as "nothing". */
export const valueInWords = (value: unknown): string => cut(shortOf(value) || 'nothing')
