import { buildDescriptor } from '../image/build'

/** The descriptor of the worked example of an app. */
export const curtainDescriptor = buildDescriptor({
  version: '3.2.0',
  project: 'curtain',
  time: '18:30:00',
  date: 'Jan  6 2031',
  framework: '5.2',
})
