import { opens, samples } from './testing-samples'

describe.each(samples.filter((_, i) => i % 2 === 1))('a database of an earlier version, %s', opens)
