import { board, unit } from '../testing/a-unit'
import { noAir } from './air'
import { jobSheet } from './job-sheet'
import { thingOfUnit } from './thing-of-unit'

const plug = {
  ...unit(
    { join: { address: '192.168.71.40' }, behaviour: { channels: [] } },
    { board, topic: 'yard/lantern/glue-pot' },
  ),
  id: '5b1c2f0e-7d3a-4c55-9a10-2f6d8e0b7c41',
}

describe('the sheet of a job', () => {
  const sheet = jobSheet(plug)
  test('asks every gate of a step before its work, as a box to tick', () => {
    const wire = sheet.slice(sheet.indexOf('## ', sheet.indexOf('Wire') - 4))
    expect(wire.indexOf('Unplugged from the mains')).toBeGreaterThan(0)
    expect(sheet).toContain('Unknown is never safe: measure.')
    expect(sheet.match(/- \[ \] /g)?.length).toBeGreaterThan(10)
  })
  test('says what is over in one line, and leaves out what its route has not', () => {
    const done = unit({ name: { reserved: true } }, { board, topic: 'yard/lantern/glue-pot' }, ['name'])
    expect(jobSheet(done)).toMatch(/- \[x\] Name/)
  })
  test('what people typed makes no structure of its own', () => {
    const named = jobSheet({ ...plug, name: 'Lamp\n# <b>*x*' })
    expect(named.split('\n')[0]).toContain('Lamp \\# \\<b\\>\\*x\\*')
  })
})

describe('the description of a unit as a thing', () => {
  test('leads to it over the broker of the site and its own address, and holds no credential', () => {
    const air = { ...noAir, broker: { host: '192.168.71.2', port: null, tls: false, user: 'yard' } }
    const outcome = thingOfUnit(plug, air)
    if (!outcome.ok) throw new Error(outcome.faults[0]?.message)
    const text = JSON.stringify(outcome.value)
    expect(outcome.value).toMatchObject({ security: ['basic'], title: plug.name })
    expect(text).toContain('mqtt://192.168.71.2:1883')
    expect(text).toContain('http://192.168.71.40')
    expect(text).not.toContain('yard"')
  })
  test('that nothing leads to is refused, and says so', () => {
    expect(thingOfUnit({ ...plug, topic: null, records: unit({}).records }, noAir)).toMatchObject({ ok: false })
  })
})
