import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { opens, samples } from './testing-samples'

// Half of them here, half in upgrade-too.test.ts: both hands of the machine have work.
const migrations = readdirSync(join(__dirname, 'migrations')).filter((f) => f.endsWith('.sql'))
const number = (file: string) => file.slice(0, 4)

test('there is a sample of every schema before this one: scripts/sample.sh makes it before a migration is added', () =>
  expect(samples.map(number)).toEqual(expect.arrayContaining(migrations.map(number).sort().slice(0, -1))))

describe.each(samples.filter((_, i) => i % 2 === 0))('a database of an earlier version, %s', opens)
