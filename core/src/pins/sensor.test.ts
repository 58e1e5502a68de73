import { AddedSensor, sensorFindings } from './sensor'

const sensor = (more: object) => AddedSensor.parse({ what: 'temperature', lowest: -40, highest: 85, ...more })
const codes = (more: object) => sensorFindings(sensor(more)).map((f) => [f.code, f.severity])

describe('an added sensor', () => {
  test('that nobody read says nothing: unread is not sane', () => {
    expect(codes({})).toEqual([])
    expect(codes({ idle: 21 })).toEqual([])
  })
  test('rises when it is warmed; standing still is looked at, falling is wrong', () => {
    expect(codes({ idle: 21, stirred: 26.5 })).toEqual([['sensor-sane', 'ok']])
    expect(codes({ idle: 21, stirred: 21 })).toEqual([['sensor-still', 'watch']])
    expect(codes({ idle: 21, stirred: 19 })).toEqual([['sensor-still', 'error']])
  })
  test('outside its range is told first, whatever it does then', () => {
    expect(codes({ idle: -127, stirred: -60 })).toEqual([['sensor-range', 'error']])
    expect(codes({ idle: 21, stirred: 100 })).toEqual([['sensor-range', 'error']])
  })
  test('reads its own case’s warmth, from one degree on', () => {
    expect(codes({ closed: 26, beside: 21 })).toEqual([['sensor-own-heat', 'watch']])
    expect(codes({ closed: 21.9, beside: 21 })).toEqual([])
  })
})
