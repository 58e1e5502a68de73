import {
  accessPointIn,
  answerIn,
  ConsoleWords,
  judgeAnswer,
  lineOf,
  type Question,
  questionFindings,
  stateIn,
  suffixOf,
  wantedBy,
} from './questions'

const relayOn: Question = {
  what: 'relay-on',
  say: 'relay {n:int} on',
  answers: ['relay {n:int} is {state:on|off}'],
  withinMs: 3000,
}
const version: Question = { what: 'version', say: 'which coat', answers: ['coat {name} {version}'], withinMs: 3000 }
const restart: Question = { what: 'restart', say: 'sing again', answers: ['singing again'], withinMs: 3000 }
const judged = (q: Question, line: string | null, release: string | null = null, text = line ?? '') =>
  judgeAnswer(q, line === null ? null : answerIn(q, {}, [line]), text, release)

test('what is said has its number in it, and none is said without one', () => {
  expect(wantedBy(relayOn)).toEqual(['n'])
  expect(lineOf(relayOn, { n: 2 })).toEqual({ line: 'relay 2 on' })
  expect(lineOf(relayOn, {})).toEqual({ why: 'n is not given.' })
  expect(lineOf(relayOn, { n: 'two' })).toHaveProperty('why')
})

test('the answer of another relay is none', () => {
  const lines = ['status: still here', 'relay 1 is on', ' relay 2 is on ']
  expect(answerIn(relayOn, { n: 2 }, lines)).toEqual({ line: 'relay 2 is on', vars: { n: 2, state: 'on' } })
  expect(answerIn(relayOn, { n: 3 }, lines)).toBeNull()
})

test('a relay that was told to go on and says off did not do it', () => {
  expect(judged(relayOn, 'relay 1 is on').severity).toBe('ok')
  expect(judged(relayOn, 'relay 1 is off')).toEqual({ severity: 'watch', words: 'It answers off: it did not do it.' })
  expect(judged({ ...relayOn, what: 'relay-off' }, 'relay 1 is on').severity).toBe('watch')
})

test('a version is held against what was written, where that is known', () => {
  expect(judged(version, 'coat plainsong 9.4.1', '9.4.1/full')).toEqual({
    severity: 'ok',
    words: 'It is 9.4.1, as written.',
  })
  expect(judged(version, 'coat plainsong 9.4.0', '9.4.1')).toEqual({
    severity: 'watch',
    words: 'It says 9.4.0; 9.4.1 was written.',
  })
  expect(judged(version, 'coat plainsong 9.4.0').severity).toBe('ok')
})

test('silence and other words are told apart, and neither is an answer', () => {
  expect(judged(version, null, null, '').words).toBe('Nothing came back.')
  expect(judged(version, null, null, 'who are you').words).toBe('What came back is no answer to it.')
})

test('a restart is proven by its boot text; its word alone is a word', () => {
  const boot = 'singing again\r\nrst:0x1 (POWERON_RESET),boot:0x13 (SPI_FAST_FLASH_BOOT)\r\n'
  expect(judged(restart, 'singing again', null, boot)).toEqual({ severity: 'ok', words: 'It started again.' })
  expect(judged(restart, 'singing again').severity).toBe('watch')
  expect(judged(restart, null, null, '').severity).toBe('watch')
})

test.each([
  ['ON', true],
  ['low', false],
  ['0', false],
  ['perhaps', null],
])('a state called %s is %s', (state, is) => expect(stateIn({ state })).toBe(is))

test('the access point’s name comes from its own line, and the end of it may be that of its MAC', () => {
  expect(accessPointIn(['air of my own: {name}'], ['hello', 'air of my own: plainsong-1E9A'])).toBe('plainsong-1E9A')
  expect(accessPointIn(['air of my own: {name}'], ['hello'])).toBeNull()
  expect(['plainsong-1E9A', 'p_771e9a', 'plainsong', 'coffee', 'x-1E9', 'face'].map(suffixOf)).toEqual([
    '1E9A',
    '771e9a',
    null,
    null,
    null,
    null,
  ])
})

test('a pattern that says nothing is refused where it stands', () => {
  const parsed = ConsoleWords.safeParse({ questions: [{ what: 'status', say: 'how {', answers: [] }] })
  expect(parsed.success ? null : parsed.error.issues[0]?.path).toEqual(['questions', 0, 'say'])
  expect(ConsoleWords.parse({})).toEqual({ rate: 115_200, ends: 'crlf', questions: [], accessPoint: [] })
})

test('a question that is there twice, or that nothing answers, is said', () =>
  expect(
    questionFindings(ConsoleWords.parse({ questions: [version, version, { ...relayOn, answers: [] }] })).map(
      (f) => f.code,
    ),
  ).toEqual(['question-twice', 'question-without-answer']))
