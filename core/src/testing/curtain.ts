import { buildDescriptor, buildExtended } from '../image/build'

/** The descriptor of the worked example of an app. */
export const curtainDescriptor = buildDescriptor({
  version: '3.2.0',
  project: 'curtain',
  time: '18:30:00',
  date: 'Jan  6 2031',
  framework: '5.2',
})

const programAddress = 0x3c000020
const rv32 = 5

/** The header of the worked example, of another chip where one is named. */
export const curtainHead = (chipId = rv32) => ({
  mode: 'DIO' as const,
  sizeCode: 2,
  clock: 15,
  entry: 0x42000020,
  chipId,
  maxRevision: 199,
  minRevision: 3,
})

/** The worked example's loader: one segment of nothing, and no hash behind it. */
export const curtainLoader = (chipId = rv32): Uint8Array =>
  buildExtended({
    ...curtainHead(chipId),
    withHash: false,
    segments: [{ address: programAddress, data: new Uint8Array(16) }],
  })

/** The worked example's program, with further segments where they are given. */
export const curtainApp = (more: { address: number; data: Uint8Array }[] = []): Uint8Array =>
  buildExtended({ ...curtainHead(), segments: [{ address: programAddress, data: curtainDescriptor }, ...more] })
