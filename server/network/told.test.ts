import type { Db } from '../db/client'
import * as schema from '../db/schema'
import { freshDatabase, runner } from '../db/testing'
import { toldUnits } from './told'

let db: Db
let end: () => Promise<void>
beforeAll(async () => {
  process.env.FRESH_COAT_DATA = `/tmp/fresh-coat-told-${process.pid}`
  ;({ db, end } = await freshDatabase())
})
afterAll(() => end())
const run = runner(() => db)

test('who knows which password is listed by what was told, with where it was put besides; who never joined is not', async () => {
  const arrive = async (number: number) => (await run('create-unit', { number, name: `Lamp ${number}` })).id as string
  const [one, two, , four] = [await arrive(1), await arrive(2), await arrive(3), await arrive(4)]
  await run('keep-secret', { unitId: one, name: 'Broker', keptIn: 'the hub', value: 'paper moon 27' })
  const { id: secretId } = (await run('keep-secret', {
    unitId: two,
    name: 'Wi-Fi',
    keptIn: '',
    value: 'paper moon 28',
  })) as {
    id?: string
  }
  const secrets = await db.select().from(schema.secret)
  const broker = secrets.find((s) => s.unitId === one)?.id ?? ''
  const wifi = secretId ?? secrets.find((s) => s.unitId === two)?.id ?? ''
  const join = (unitId: string, data: object) => run('save-step', { unitId, step: 'join', version: 0, data })
  await join(one, { address: '192.168.71.4', brokerSecret: broker })
  await join(two, { wifiSecret: wifi })
  await join(four, { address: '192.168.71.5' })
  await run('give-up', { unitId: four, how: 'put-away' })
  expect(await toldUnits(db)).toEqual([
    { number: 1, name: 'Lamp 1', wifi: true, broker: true, keptIn: ['the hub'] },
    { number: 2, name: 'Lamp 2', wifi: true, broker: false, keptIn: [] },
  ])
})
